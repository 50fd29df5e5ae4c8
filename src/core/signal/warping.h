// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <functional>
#include <utility>
#include <vector>

namespace ear {

/// Pairs of frames of two series that belong together: from frame to frame at least one of them moves on by one.
using WarpPath = std::vector<std::pair<std::size_t, std::size_t>>;

/// Where a path may run: for each frame of the first series the frames [from, to) of the second.
struct Corridor {
  std::vector<std::size_t> from, to;
};

/// All of it.
Corridor wholeCorridor(std::size_t first, std::size_t second);
/// Around the straight line between both ends (Sakoe & Chiba 1978).
/// @param reach  frames of the second to either side
Corridor bandCorridor(std::size_t first, std::size_t second, std::size_t reach);

struct WarpRules {
  double wait = 0.0;          ///< cost of a step in which one of the two stands still
  bool withinSecond = false;  ///< the first lies anywhere within the second: its ends need not be met (subsequence)
};

/// How unlike two frames are, 0 alike.
using FrameDistance = std::function<double(std::size_t first, std::size_t second)>;

/// The path of least distance through a corridor (dynamic time warping; Mueller 2015, "Fundamentals of Music
/// Processing", ch. 3 and 7.2). Takes a byte for each place of the corridor and time in proportion.
/// @return empty where one series is empty or the corridor leads nowhere
WarpPath warp(const Corridor& corridor, const FrameDistance& distance, const WarpRules& rules = {});

}  // namespace ear
