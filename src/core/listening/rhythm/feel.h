// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/results/rhythm_findings.h"
#include "core/listening/rhythm/metre.h"

namespace ear {

/// Stretches of at least four bars in which the snare falls on every third of four beats (half time) or between the
/// beats (double time) while it falls on the second and fourth in most of the recording. Only for bars of four, and
/// empty where no back beat is heard.
std::vector<FeelSpan> feelChanges(std::span<const Seconds> beats, const Bars& bars, const OnsetStrength& onsets);

}  // namespace ear
