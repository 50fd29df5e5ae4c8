// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/study/grid.h"

namespace ear {

/// Where a passage comes again: the same bars of the other sections with its letter, as far as they have them. Empty
/// where it lies in no section, or in one that never comes back.
std::vector<TimeSpan> repeatsOf(const Grid& grid, const Form& form, TimeSpan passage);

}  // namespace ear
