// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/base/rational.h"

namespace ear {

/// A length as it is written: a note's head and stem, dots, and the tuplet it belongs to.
struct NoteValue {
  int part = 4;      ///< of a whole note: 1, 2, 4, 8, 16, 32 or 64
  int dots = 0;      ///< 0 ... 2
  int tuple = 1;     ///< so many ...
  int inTimeOf = 1;  ///< ... in the time of so many plain ones; 1 and 1 outside of tuplets
  bool operator==(const NoteValue&) const = default;
};

/// What a beat is: a quarter note in most bars, an eighth where bars are counted in eighths (6/8).
struct BeatUnit {
  int part = 4;  ///< of a whole note
  bool operator==(const BeatUnit&) const = default;
};

/// The exact length of a value.
Beats lengthOf(const NoteValue& value, BeatUnit unit = {});

/// The value that is exactly so long: plain and dotted ones first, then triplets, quintuplets, sextuplets and
/// septuplets. Empty for a length that takes several notes tied together, or is no note at all.
std::optional<NoteValue> valueOf(Beats length, BeatUnit unit = {});

/// "quarter", "dotted eighth", "quarter triplet", "sixteenth of 5".
std::string noteValueName(const NoteValue& value);

/// A piece of a note between two ties.
struct TiedPiece {
  Beats at, length;
  std::optional<NoteValue> value{};  ///< empty where no value is so long: it stands as it is, and is marked
  bool operator==(const TiedPiece&) const = default;
};

/// Cuts a note into pieces that can be written: at every bar line, and where a piece is no single value or would hide
/// a beat (one that starts between beats and lasts beyond the next) at the beats (common practice, no source).
/// @param barLines  rising, in beats of the phrase
std::vector<TiedPiece> tiedPieces(Beats at, Beats length, std::span<const Beats> barLines, BeatUnit unit = {});

}  // namespace ear
