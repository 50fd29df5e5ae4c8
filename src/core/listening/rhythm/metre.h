// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/results/rhythm_findings.h"

namespace ear {

/// Beats at the level that players count, and why it is this one.
struct Tactus {
  std::vector<Seconds> beats;
  bool threes = false;  ///< they come in groups of three, as in 6/8
  LevelReason reason = LevelReason::none;
};

/// Moves tracked beats to the level that players count: what is not divided is no beat but its half, a snare between
/// the beats makes it two, thirds all through make it compound time.
/// @param track  beats of the recording whose tempo stays within a factor of one
Tactus countedBeats(std::vector<Seconds> tracked, const OnsetStrength& onsets, const NoteActivations& notes,
                    const std::function<std::vector<Seconds>(Bpm, double)>& track);

/// How the beats make bars.
struct Bars {
  int meter = 4;                     ///< beats in most bars
  std::vector<std::size_t> first{};  ///< beats that start a bar
  double certainty = 0.0;            ///< in [0, 1]
};

/// Bars from where harmony and bass change and kick rather than snare is struck; a bar may be shorter or longer than
/// the others, and the metre may change, where that is worth it (dynamic programming over bars).
Bars findBars(const Tactus& counted, const OnsetStrength& onsets, const NoteActivations& notes);

}  // namespace ear
