// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/listening/melody/f0_contour.h"

namespace ear {

/// A second, closer look at a pitch line where other voices sound with it: long windows have told which pitch; now
/// windows of a twentieth of a second tell where exactly it is, so that a fast bend glides instead of stepping.
/// Amplitudes of the overtones of each pitch near the line are summed, and the smoothest good path through them is
/// taken (Viterbi).
/// @param mono  samples at kListeningRate, the ones the line was measured on
void refineAmongOthers(F0Contour& line, std::span<const float> mono);

}  // namespace ear
