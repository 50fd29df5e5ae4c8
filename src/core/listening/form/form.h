// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/frontend/spectra.h"
#include "core/listening/frontend/stereo_field.h"
#include "core/listening/results/form_findings.h"
#include "core/listening/rhythm/rhythm.h"

namespace ear {

/// Sections of a recording, with borders on downbeats. Borders by borders.h; sections whose bars are alike along a
/// diagonal of the bar self-similarity matrix get one letter (average linkage), also when the key was moved.
/// @param sides  where sound sits, to tell what enters; may be empty
FormFindings findForm(Seconds duration, const LogBandSpectrogram& bands, const OnsetStrength& onsets,
                      const NoteActivations& notes, const RhythmFindings& rhythm, const std::vector<SidePoint>& sides);

}  // namespace ear
