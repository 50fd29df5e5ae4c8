// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/tab_piece.h"

namespace ear {

/// Reads what guitars play from a file of another program: MusicXML, packed or not, MIDI, or JAMS that was written
/// here. The kind is told by the content.
/// @param guitar  that notes without strings and frets are placed on
/// @return a piece for each guitar, or a sentence on what is wrong
Outcome<std::vector<TabPiece>> readPieces(const std::filesystem::path& file, const Guitar& guitar);

/// Puts a piece into a study as a phrase of a guitar, from a bar of the take on.
/// @param findings  of the take, or null
/// @param bar       number of the bar in which the piece's first bar lies
/// @return the id of the phrase, or a sentence: no beats, no such bar, too many notes
Outcome<std::string> addAsPhrase(Study& study, const Take& take, const Findings* findings, const std::string& part,
                                 const TabPiece& piece, int bar);

}  // namespace ear
