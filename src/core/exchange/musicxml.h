// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/tab_piece.h"

namespace ear {

/// Pieces as MusicXML (W3C Music Notation Community Group, "MusicXML 4.0", 2021), partwise: each guitar is a part with
/// a staff of notes and a staff of tab. What the format has no word for goes into `other-technical`, so that reading it
/// again gives the same notes; other programs pass over it. The same pieces give the same bytes.
/// @param pieces       of one song, with the same bars; a piece that is shorter is filled with rests
/// @param withRepeats  what is played again at once is written once, between repeat signs, with endings
/// (repeatedBars())
std::string writeMusicXml(const std::vector<TabPiece>& pieces, bool withRepeats = false);

/// Reads the parts of a MusicXML file that are for a fretted instrument, or have notes: from the tab staff where there
/// is one, else the notes are placed on the neck. Repeats and endings are written out as they are played; da capo and
/// the like are not followed, which is said.
/// @return the pieces, or a sentence: no XML (with the place), no MusicXML, no notes, too large
Outcome<std::vector<TabPiece>> readMusicXml(std::string_view text);

/// @param file  .musicxml or .xml, or packed as .mxl; up to 32 MB unpacked
Outcome<std::vector<TabPiece>> readMusicXmlFile(const std::filesystem::path& file);
/// The same text packed, with the container that the format asks for.
Outcome<Done> writeMxl(const std::string& xml, const std::filesystem::path& file);

}  // namespace ear
