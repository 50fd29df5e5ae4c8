// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/units.h"

namespace ear {

enum class Side { left, centre, right };
inline constexpr std::array kAllSides = {Side::left, Side::centre, Side::right};

/// Where sound sits in a stretch of time.
struct SidePoint {
  Seconds time;                  ///< middle of the stretch
  std::array<float, 3> level{};  ///< of the partials, by Side; 1 is the strongest of the recording
};

/// Something comes in on a side after having been quiet there.
struct SideEntry {
  Seconds time;
  Side side;
};
/// On the left and the right: four seconds under a sixth of the side's own strongest level, then four over a third.
std::vector<SideEntry> sideEntries(const std::vector<SidePoint>& points);

/// Where a side is heard with the least beside it: some seconds in which it stays over a third of its own strongest
/// level. Nothing where the other sides are louder than it all through.
std::optional<TimeSpan> mostAlone(const std::vector<SidePoint>& points, Side side);

}  // namespace ear
