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

}  // namespace ear
