// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace ear {

/// A part of an entry line, in bytes.
struct TextRange {
  std::size_t from = 0, to = 0;
  bool operator==(const TextRange&) const = default;
};

/// What a word of an entry line stands for (docs/entry-line.md).
enum class Word {
  unknown,
  number,   ///< value: a fret or a count
  ordinal,  ///< value: 1 for the first
  letter,   ///< value: the ASCII letter, as typed
  name,     ///< what may be a chord: "Am7", "D/F#"
  joined,   ///< letter and number without a blank, "G12": value is the number
  comma,    ///< parts what was said
  fret,
  string,
  open,
  all,
  opens,
  dead,
  high,
  low,
  top,
  bottom,
  on,
  conjunction,
  to,
  of,
  article,
  together,
  singly,
  chord,
  // Between two frets.
  slide,
  hammer,
  pull,
  // On a fret.
  bend,
  bent,
  before,
  release,
  vibrato,
  wide,
  trill,
  ghost,
  harmonic,
  pinch,
  tap,
  rake,
  staccato,
  held,
  choke,
  fade,
  again,
  dive,
  bar,
  tremolo,
  strokeDown,
  strokeUp,
  thumb,
  finger,
  feedback,
  barre,
  stays,
  pluck,
  hybrid,
  lifted,
  slap,
  up,
  down,
  out,
  from,
  // On many.
  palmMute,
  mute,
  letRing,
  ring,
  off,
  stop,
  // Sizes and lengths.
  quarter,
  half,
  whole,
  step,
  semitone,
  eighth,
  sixteenth,
  thirtySecond,
  dotted,
  triplet,
  beats,
  per,
  note,
  rest,
  count,
  andOfBeat,
  eOfBeat,
  aOfBeat,
  trip,
  let,
  // Again.
  times,  ///< value: how many in all; 0 where a number stands before it
  more,
  back,
  same,
  but,
  last,
  time,
  without,
};

/// A word with what it stands for and where it is.
struct Token {
  Word word = Word::unknown;
  int value = 0;
  TextRange range;
  std::string text;  ///< as typed
};

/// Cuts a line into words. Numbers and marks part without blanks: "12b14", "5h7", "7/9", "x3".
/// @param german  German words and note names are read as well; English ones always are
std::vector<Token> wordsOf(std::string_view line, bool german);

}  // namespace ear
