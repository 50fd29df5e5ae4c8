// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/outcome.h"
#include "core/theory/pitch.h"

namespace ear {

/// Open strings of a guitar, MIDI, from the lowest to the highest string; before any capo and at concert pitch.
///
/// Strings are counted 0 = lowest string throughout the core; how people number or name them is a matter of display.
struct Tuning {
  std::vector<int> strings;
  std::size_t count() const { return strings.size(); }
  bool operator==(const Tuning&) const = default;
};

/// E2 A2 D3 G3 B3 E4.
const Tuning& standardTuning();

struct NamedTuning {
  std::string_view name;
  Tuning tuning;
};

/// Common tunings by neutral names, the most usual first.
std::span<const NamedTuning> tuningCatalogue();

/// Name in the catalogue, else its letters: "dropped D", "F A C G C E".
std::string tuningName(const Tuning& tuning);

/// "E A D G B E", low to high; with octaves "E2 A2 D3 G3 B3 E4".
std::string tuningLetters(const Tuning& tuning, Spelling spelling, bool octaves = false);

/// Semitones of each string from standard, for as many strings as standard tunings of that count have.
/// @return empty when there is no standard for the count of strings (it is 4 to 8)
std::vector<int> shiftsFromStandard(const Tuning& tuning);

/// Semitones by which most strings of a tuning are shifted from standard: -2 for dropped C. 0 where no four strings
/// agree, as in open tunings.
int commonShift(const Tuning& tuning);

/// Reads six (or `strings`) names from low to high: "D A D G B E", "DADGAD", "D2 A2 E3 A3 C#4 D4". Without octaves each
/// string is put as near as possible to its standard pitch.
/// @return the tuning, or a sentence: a name that is none, too many or too few strings, out of a guitar's range
Outcome<Tuning> parseTuning(std::string_view text, std::size_t strings = 6);

/// What is worth saying about a tuning, a sentence for each point: a string tuned up by a tone or more (tension), a
/// string that is slack, strings out of order. Empty when all is well.
std::vector<std::string> cautions(const Tuning& tuning);

/// Tension of a string retuned by semitones against what it was: 2^(n/6), since tension grows with the square of the
/// frequency.
double relativeTension(int semitones);

/// A capo across all strings or some of them.
struct Capo {
  int fret = 0;               ///< 0: none
  std::uint16_t strings = 0;  ///< bit i: string i is under it; 0: all are
  bool covers(std::size_t string) const { return fret > 0 && (strings == 0 || (strings >> string & 1U) != 0); }
  bool operator==(const Capo&) const = default;
};

/// Whether it can be played at all: 4 to 8 strings in a guitar's range, a capo on the neck.
bool isGuitar(const Tuning& tuning, const Capo& capo);

}  // namespace ear
