// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/frontend/onsets.h"

namespace ear {

/// What tells that a bar begins at a beat.
enum class DownbeatSign {
  harmony,  ///< what sounds in the two beats before it is another harmony than in the two that follow
  bass,     ///< the same of the bass
  low,      ///< kick and bass struck
  snare,    ///< struck
  notes,    ///< how many notes a guitar strikes
  rested,   ///< how long it had not struck
  changed,  ///< the guitar's notes of the two beats before it are others than of the two that follow
  first,    ///< its first stroke
  last,     ///< its last one
};
inline constexpr std::size_t kDownbeatSigns = 9;

/// Of each beat, each sign in deviations over the recording's own beats.
/// @param guitar  what guitars sound; where it is empty nothing is told of them
std::vector<std::array<double, kDownbeatSigns>> downbeatSigns(const std::vector<Seconds>& beats,
                                                              const OnsetStrength& onsets, const NoteActivations& notes,
                                                              const GuitarActivations& guitar);

/// How much each beat of a song sounds like the first of a bar: harmony and bass change there, kick rather than snare.
std::vector<double> downbeatEvidence(const std::vector<Seconds>& beats, const OnsetStrength& onsets,
                                     const NoteActivations& notes);

}  // namespace ear
