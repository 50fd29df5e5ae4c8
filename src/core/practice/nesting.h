// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/study/grid.h"

namespace ear {

/// Stretches of music around a time that are worth looping, the shortest first: the bar, two and four bars of the
/// section (counted from its start, so that phrases are not cut), the section, the whole recording. Each lies in the
/// next one; equal ones are given once.
std::vector<TimeSpan> nestedAround(const Grid& grid, const Form& form, Seconds duration, Seconds t);

/// The next wider of the stretches around a passage's middle; empty where nothing is wider.
std::optional<TimeSpan> wider(const Grid& grid, const Form& form, Seconds duration, TimeSpan passage);
/// The next narrower one around `t`, which lies in the passage.
std::optional<TimeSpan> narrower(const Grid& grid, const Form& form, Seconds duration, TimeSpan passage, Seconds t);

/// The stretch behind (or before) a passage with as many bars and beats; of the same length in seconds off the grid.
/// Empty at the ends of the recording.
std::optional<TimeSpan> neighbour(const Grid& grid, Seconds duration, TimeSpan passage, bool next);

}  // namespace ear
