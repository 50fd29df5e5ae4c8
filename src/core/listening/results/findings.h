// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/listening/results/form_findings.h"
#include "core/listening/results/guitar_findings.h"
#include "core/listening/results/harmony_findings.h"
#include "core/listening/results/reference_pitch.h"
#include "core/listening/results/rhythm_findings.h"
#include "core/listening/results/sides.h"

namespace ear {

/// The parts of an analysis, each a tile of the brief.
enum class Aspect { reference, time, chords, key, guitar, form };

/// All that was measured on one recording. A part that was not asked for, or that cannot be said, is empty.
struct Findings {
  Seconds duration{};
  std::optional<ReferencePitch> reference{};
  std::optional<KeyFindings> key{};
  std::optional<RhythmFindings> rhythm{};
  std::vector<FoundChord> chords{};
  std::vector<FoundGuitar> guitars{};  ///< the one with the most to hear first
  std::vector<SidePoint> sides{};      ///< where sound sits, over time
  std::vector<FoundSection> form{};
  SelfSimilarityPicture alike{};  ///< of the bars, one with another
};

}  // namespace ear
