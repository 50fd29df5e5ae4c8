// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/results/rhythm_findings.h"

#include <algorithm>
#include <cmath>
#include <cstddef>

namespace ear {

double BeatProfile::near(double share) const {
  constexpr auto kReach = static_cast<std::ptrdiff_t>(kPlaces / 24);
  const auto middle = std::lround(share * kPlaces);
  double top = 0;
  for (std::ptrdiff_t i = middle - kReach; i <= middle + kReach; ++i)
    top = std::max(top, strength[static_cast<std::size_t>((i + static_cast<std::ptrdiff_t>(kPlaces)) %
                                                          static_cast<std::ptrdiff_t>(kPlaces))]);
  return top;
}

std::string_view sentenceOf(LevelReason reason) {
  switch (reason) {
    case LevelReason::none:
      return "";
    case LevelReason::thirdsPaired:
      return "Its thirds are struck as strongly as the beat itself, so they are taken in pairs.";
    case LevelReason::compound:
      return "The beat is divided in three all through: compound time, counted in eighths.";
    case LevelReason::halfCollides:
      return "At half the tempo kick and snare would both fall within one beat.";
    case LevelReason::twiceIsEmpty:
      return "At twice the tempo nothing would ever start between the beats.";
    case LevelReason::slowlyDivided:
      return "At half the tempo the beats would be slower than songs are counted, each divided in two.";
    case LevelReason::twiceIsFast:
      return "At twice the tempo the beats would be faster than songs in four are counted.";
  }
  return "";
}

}  // namespace ear
