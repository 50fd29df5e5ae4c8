// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/form/bar_features.h"

namespace ear {

/// Log odds that a section starts at each bar: harmony, bass, rhythm and colour differ before and after it
/// (checkerboard novelty, Foote 2000), runs of like bars begin or end there (repeats; Serra et al. 2012), it is louder,
/// a cymbal rings at its start, and the bar before departs from its pattern, as a fill does.
///
/// Each sign is measured in deviations over the recording's own bars; the weights come from a logistic regression over
/// recordings made for development.
std::vector<double> borderOdds(const BarFeatures& features, const BarLikeness& likeness);

/// Bars at which sections start, the first bar included: the likeliest by the odds, with lengths of four and eight bars
/// preferred (dynamic programming).
std::vector<int> chooseBorders(const std::vector<double>& odds);

}  // namespace ear
