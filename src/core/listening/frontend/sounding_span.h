// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/base/units.h"

namespace ear {

/// From the first sound of a recording to where the last one has died away: what is 30 dB under its usual level (median
/// over windows of 20 ms) is silence there, however long it lasts.
/// @param mono  samples at kListeningRate
/// @return an empty span at 0 where nothing sounds
TimeSpan soundingSpan(std::span<const float> mono);

}  // namespace ear
