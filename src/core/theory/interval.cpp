// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/interval.h"

#include <array>
#include <cstdlib>

#include "core/theory/pitch.h"

namespace ear {

std::string intervalName(int semitones) {
  static constexpr std::array<const char*, 12> kNames = {
      "unison",     "semitone", "whole tone",  "minor third", "major third",   "fourth",
      "flat fifth", "fifth",    "minor sixth", "major sixth", "minor seventh", "major seventh"};
  const int size = std::abs(semitones), octaves = size / 12, rest = size % 12;
  if (octaves == 0) return kNames[static_cast<std::size_t>(rest)];
  const std::string above = octaves == 1   ? "octave"
                            : octaves == 2 ? "two octaves"
                                           : std::to_string(octaves) + " octaves";
  return rest == 0 ? above : above + " and " + kNames[static_cast<std::size_t>(rest)];
}

std::string degreeName(int semitones) {
  static constexpr std::array<const char*, 12> kNames = {"1",  "♭2", "2",  "♭3", "3",  "4",
                                                         "♭5", "5",  "♭6", "6",  "♭7", "7"};
  return kNames[static_cast<std::size_t>(PitchClass(semitones).value)];
}

}  // namespace ear
