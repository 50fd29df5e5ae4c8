// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// One plane at another sample rate (libsoxr); the first sample stays at time 0. Any thread. @pre both rates > 0
/// @param best  20-bit quality for listening; else 16-bit, enough for measuring
Samples resample(std::span<const float> samples, int fromRate, int toRate, bool best = false);

/// The mean of left and right at another rate, without a copy at the recording's own rate in between.
Samples resampledMix(const Recording& recording, int toRate);

/// The whole recording at another rate, for listening.
Recording resample(const Recording& recording, int toRate);

}  // namespace ear
