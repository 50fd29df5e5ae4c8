// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/exchange/tab_piece.h"
#include "core/study/brief.h"

namespace ear {

/// The pitch of a voice at a time of the recording; nothing where it has none.
struct VoicePitch {
  Seconds time;
  std::optional<Hertz> pitch;
  bool operator==(const VoicePitch&) const = default;
};

/// What is known of a take, for lists.
struct TakeLists {
  const Study& study;
  const Take& take;
  const Findings* findings = nullptr;
  std::vector<VoicePitch> pitch{};  ///< of the leading voice, as measured, rising; only JAMS holds it
};

/// Times and names as label text: "start <tab> end <tab> name" in seconds, a line each, for sections, phrases,
/// passages and marks, rising.
std::string labelText(const TakeLists& lists);

/// Comma-separated values (RFC 4180) with a first row of names: what, start_s, end_s, bar, value, origin, certainty,
/// for beats, sections, chords and phrases.
std::string csvOfTake(const TakeLists& lists);

/// The notes of pieces as comma-separated values: guitar, bar, beat, length, string (1 the highest sounding), fret,
/// midi, bend_cents, attack, ending ...
std::string csvOfNotes(const std::vector<TabPiece>& pieces);

/// The chords of the form in ChordPro (www.chordpro.org, version 6): a comment for each section, its bars as a grid.
/// What is not at least likely stands as "?".
std::string chordProChart(const TakeLists& lists);

}  // namespace ear
