// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>

#include "core/listening/frontend/spectra.h"
#include "core/listening/results/sides.h"

namespace ear {

/// What sounds where between left and right.
struct StereoField {
  std::array<SpectralPeaks, 3> frames;  ///< by Side; what sits in the middle is taken out of the outer ones
  std::array<double, 3> share{};        ///< of the partials' amplitude, by Side; they sum to 1

  const SpectralPeaks& at(Side side) const { return frames[static_cast<std::size_t>(side)]; }
  double shareOf(Side side) const { return share[static_cast<std::size_t>(side)]; }
};

/// Sorts partials by where they sit: a partial that both channels have is placed by its two amplitudes, and what is as
/// loud on the other side cancels (after azimuth discrimination, Barry, Lawlor & Coyle 2004).
/// @param left, right  frames of the two channels, of equal count
StereoField splitStereo(const SpectralPeaks& left, const SpectralPeaks& right);

/// How loud each side is in stretches of `step`, for a picture of the whole recording. @pre step > 0
std::vector<SidePoint> sidesOverTime(const StereoField& field, Seconds step);

}  // namespace ear
