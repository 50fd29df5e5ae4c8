// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/frontend/spectra.h"

namespace ear {

/// The strongest single pitch of a frame.
struct PredominantPitch {
  int midi = 0;          ///< nearest note of the recording's own pitch; 0: nothing pitched sounds
  float salience = 0.0;  ///< weighted sum of its partials' amplitudes
};

/// The predominant pitch of every tonal frame, E2 to E6, by harmonic salience (Klapuri 2006, "Multiple fundamental
/// frequency estimation by summing harmonic amplitudes": partial h of f0 counts (f0 + 52 Hz) / (h f0 + 320 Hz)).
/// @param tuning  offset of the recording from A 440
std::vector<PredominantPitch> measurePredominantPitch(const SpectralPeaks& frames, Cents tuning);

}  // namespace ear
