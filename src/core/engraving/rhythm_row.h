// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/phrase/note.h"
#include "core/phrase/note_value.h"

namespace ear {

/// A note or a rest as it stands in the rhythm under a tab.
struct RhythmPiece {
  Beats at, length;
  std::optional<NoteValue> value{};  ///< empty where no value is so long
  bool rest = false;
  bool tied = false;  ///< to the piece before it
  int tremolo = 0;    ///< strokes across the stem; 0 for none
  bool operator==(const RhythmPiece&) const = default;
};

/// A line that joins stems. A stub belongs to one stem: both ends are the same piece.
struct Beam {
  std::size_t first = 0, last = 0;  ///< pieces
  int level = 1;                    ///< 1 the one of eighths, 2 of sixteenths ...
  bool backward = false;            ///< a stub that points to the piece before
  bool operator==(const Beam&) const = default;
};

/// Pieces under one number.
struct Tuplet {
  std::size_t first = 0, last = 0;  ///< pieces
  int number = 3;
  bool complete = true;  ///< it fills what it stands for
  bool operator==(const Tuplet&) const = default;
};

/// One voice's rhythm.
struct RhythmRow {
  std::vector<RhythmPiece> pieces{};
  std::vector<Beam> beams{};
  std::vector<Tuplet> tuplets{};
};

/// The rhythm of one voice: its notes cut into values that can be written, rests where it is silent between its first
/// note and its last, beams within each beat (within three eighths where eighths are counted), tuplets under their
/// number. A moment is as long as the longest of its notes, or up to the voice's next one; what rings on is not cut
/// into rests. Grouping by beats: common practice, no source.
/// @param notes     of one voice, in order; those free of the beat are left out
/// @param barLines  rising; from the last one not after the first note
RhythmRow rhythmOf(std::span<const Note> notes, std::span<const Beats> barLines, BeatUnit unit = {});

}  // namespace ear
