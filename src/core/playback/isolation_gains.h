// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/settings/isolation.h"

namespace ear {

// Pure functions of their arguments: any thread, no allocation.

/// Where a partial sits that has these complex amplitudes left and right: -1 hard left, 0 middle, 1 hard right. The
/// gain at which one channel, subtracted from the other, cancels it (azimuth discrimination: Barry, Lawlor & Coyle
/// 2004; here that gain is solved for instead of searched).
double placeOf(float leftReal, float leftImaginary, float rightReal, float rightImaginary);

/// How much of a place between left and right is kept, in [0, 1]; soft at the edges. @param place  in [-1, 1]
float placeGain(const Isolation& isolation, double place);

/// How much of a frequency is kept, in [0, 1]: cuts fall by 24 dB an octave, the focus is flat over its octave and gone
/// half an octave beyond. @pre frequency > 0
float bandGain(const Isolation& isolation, Hertz frequency);

/// Weight of a frequency in loudness, as power: the K-weighting of ITU-R BS.1770-4, annex 1. @pre frequency >= 0
double loudnessWeight(Hertz frequency);

}  // namespace ear
