// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/base/units.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/results/rhythm_findings.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// @param strength  onset strength of any kind, frame by frame
BeatProfile profileOf(std::span<const Seconds> beats, std::span<const float> strength, FrameClock clock);

/// Where the off-beats fall. Pairs that are played within 1.18 : 1 count as straight: ears and hands are no finer.
Swing measureSwing(const BeatProfile& profile);

}  // namespace ear
