// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/listening/frontend/spectra.h"
#include "core/listening/results/reference_pitch.h"

namespace ear {

/// Measures how far a recording lies from concert pitch (A4 = 440 Hz, ISO 16:1975).
///
/// Frequencies of partials that stay where they are for three frames are folded modulo one semitone; the
/// offset is the circular mean (Mardia & Jupp 2000, ch. 2; for tuning: Dressler & Streich 2007) around the
/// densest place, so that bends, vibrato and drums only add a floor. Fifth, seventh and further odd overtones, which
/// are no tempered notes, are left out, and low partials count less: stiff strings run sharp. Where the steady tones
/// fall into two groups that stand apart, the offset is that of the stronger one, not a mean that nobody played.
///
/// @return empty when nothing pitched and stable sounds
std::optional<ReferencePitch> measureReferencePitch(const SpectralPeaks& frames);

}  // namespace ear
