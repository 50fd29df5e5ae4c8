// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/listening/guitar/setup_evidence.h"
#include "core/listening/results/guitar_findings.h"

namespace ear {

/// What is heard of a guitar besides its chords.
struct SetupClues {
  struct Lowest {
    int midi = 0;
    Seconds at{};
  };
  struct Ringing {
    int midi = 0;
    double share = 0.0;  ///< of the changes of chord over which it rings on
    Seconds at{};        ///< of the first one
  };
  std::optional<Lowest> lowest;    ///< the lowest note that is heard more than in passing
  std::optional<Ringing> ringing;  ///< what rings on over most changes, as a drone string does
};
SetupClues cluesOf(const GuitarActivations& notes, const std::vector<FoundChord>& chords);

/// Why a reading may be right, and what speaks against it, each with a place to listen to.
std::vector<SetupReason> reasonsFor(const Tuning& tuning, int capo, const SetupFit& fit, const Played& played,
                                    const SetupClues& clues);

}  // namespace ear
