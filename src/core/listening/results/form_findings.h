// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// What a section may be in the song: never more than a guess.
enum class Role { none, countIn, intro, verse, chorus, bridge, solo, breakdown, outro, noMusic };
std::string_view roleWord(Role role);  ///< "verse"; empty for none

/// What a section changes against the first one of its letter.
struct SectionDifference {
  int semitones = 0;  ///< by which it lies higher; below 0 lower
  int bars = 0;       ///< by which it is longer; below 0 shorter
  bool endsOtherwise = false, otherBeat = false;
  int loudness = 0;  ///< 1 fuller, -1 thinner
  int left = 0;      ///< the left side: 1 comes in, -1 is silent
  int right = 0;     ///< the right side alike
  bool operator==(const SectionDifference&) const = default;
};
/// "2 bars longer, ends differently"; empty where nothing differs.
std::string wordsOf(const SectionDifference& difference);
/// The other way round; what is none of these words is passed over.
SectionDifference differenceIn(std::string_view words);

/// A stretch of the form. Sections with one letter are the same music.
struct FoundSection {
  TimeSpan span;
  std::string letter{};    ///< "A", "B" ...; "-" where there is no music
  double certainty = 0.0;  ///< in [0, 1], of its start
  int bars = 0;
  Role role = Role::none;
  SectionDifference difference{};
};

/// Likeness of every pair of bars, for a picture.
struct SelfSimilarityPicture {
  std::size_t size = 0;               ///< rows and columns
  int barsEach = 1;                   ///< bars that a row stands for
  std::vector<std::uint8_t> alike{};  ///< size x size, 0 unlike ... 15 alike
};

struct FormFindings {
  std::vector<FoundSection> sections;  ///< gap-free from 0 to the recording's end
  SelfSimilarityPicture picture;
};

}  // namespace ear
