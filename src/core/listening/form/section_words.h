// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/listening/form/bar_features.h"
#include "core/listening/form/form.h"

namespace ear {

/// A run of bars.
struct BarRun {
  int first = 0, length = 0;
};

/// Semitones by which the second run's harmony lies above the first one's, -5 to 6; 0 where no other fits clearly
/// better.
int transposition(const BarFeatures& features, const BarRun& a, const BarRun& b);

/// What a repeat changes against the section it repeats, but for its sides.
SectionDifference differenceOf(const BarFeatures& features, const BarSelfSimilarity& likeness, const BarRun& original,
                               const BarRun& repeat);

/// Guesses from place, repetition and loudness.
/// @param sections  with letters; their roles are filled in where none is set
void guessRoles(std::vector<FoundSection>& sections, const std::vector<BarRun>& runs, const BarFeatures& features,
                const BarSelfSimilarity& likeness);

}  // namespace ear
