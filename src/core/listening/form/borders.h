// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "core/listening/form/bar_features.h"
#include "core/listening/form/border_weights.h"

namespace ear {

/// What speaks for a section that starts at a bar.
enum class BorderSign {
  novelty,         ///< harmony, bass, rhythm and colour differ before and after it (checkerboard novelty, Foote 2000)
  rhythmNovelty,   ///< the same of rhythm alone, over two bars
  harmonyRepeats,  ///< a run of four bars of like harmony begins or ends there (repeats; Serra et al. 2012)
  bassRepeats,
  rhythmRepeats,
  colourRepeats,
  longRepeats,  ///< of eight bars, in harmony and bass
  brightness,   ///< a cymbal rings at its start
  fill,         ///< the bar before departs from its pattern
  rise,         ///< it is louder than the bar before
  change,       ///< louder or softer
};

/// Of each bar, each sign in deviations over the recording's own bars, held within -1 ... 3.
using BorderSigns = std::vector<std::array<double, BorderWeights::kSigns>>;
BorderSigns borderSigns(const BarFeatures& features, const BarSelfSimilarity& likeness);

/// Log odds that a section starts at each bar, by a logistic regression over its signs.
std::vector<double> borderOdds(const BorderSigns& signs, const BorderWeights& weights = {});

/// Bars at which sections start, the first bar included: the likeliest by the odds, with usual lengths preferred
/// (dynamic programming).
std::vector<int> chooseBorders(const std::vector<double>& odds, const BorderWeights& weights = {});

}  // namespace ear
