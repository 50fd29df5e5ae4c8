// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/frontend/stereo_field.h"
#include "core/listening/guitar/setup_evidence.h"
#include "core/listening/results/guitar_findings.h"

namespace ear {

/// A tuning and a capo, and how likely they are; of a list that sums to one.
struct WeighedSetup {
  Tuning tuning;
  int capo = 0;
  SetupFit fit;
  double certainty = 0.0;  ///< in [0, 1]
};

/// Every tuning of the catalogue with six strings and every capo, in the order of the catalogue, weighed by Bayes'
/// rule: how usual it is (setup_prior.h) times how likely what was played is with it. That likelihood weighs the three
/// signs of SetupFit by what bench/fit/setups.py learned (conditional logistic regression, McFadden 1974).
std::vector<WeighedSetup> weighSetups(const Played& played);

/// Ranked readings of tuning and capo. The best capo reading and the best one without a capo are always among them;
/// setups whose open strings sound alike are one reading, named as is most usual.
///
/// Reasoned as a teacher does (common practice, no source): what sounds must be playable, the song lies easy under the
/// hand, and unless the evidence speaks a guitar is tuned as most are.
///
/// @return empty when no chords were found or no guitar sounds in them
std::vector<SetupReading> readGuitarSetup(const GuitarActivations& notes, const std::vector<FoundChord>& chords,
                                          std::size_t most = 5);

/// Of each guitar that can be told apart by where it sits. Those of one recording are weighed together: a band tunes
/// alike, so that what one says of how far all strings are shifted counts for the other as well. Only the first five
/// minutes, about, are listened to: a song tells within them how it is played.
/// @param offset  of the recording from A 440
/// @param mix     what guitars sound in the whole recording: it speaks for one in the middle
std::vector<FoundGuitar> findGuitars(const Recording& recording, const StereoField& field, Cents offset,
                                     const GuitarActivations& mix, const std::vector<FoundChord>& chords,
                                     const Progress& progress);

}  // namespace ear
