// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "core/listening/rhythm/downbeats.h"
#include "core/listening/rhythm/metre.h"

namespace ear {

/// What tells a phrase's beats and bars from others that could be laid over it.
struct GridSigns {
  enum Sign : std::size_t {
    three = kDownbeatSigns,  ///< bars of three beats instead of four, 0 or 1
    shifted,                 ///< the beats lie half-way between those that were tracked, 0 or 1
    halved,                  ///< they are every second one, 0 or 1
    farTempo,                ///< octaves of the tempo from 100 beats a minute, squared
    onBeat,                  ///< onset strength on the beats over that half-way between them
    between,                 ///< that half-way between
    quarters,                ///< that on the quarters of a beat
    strokesOnBeat,           ///< probability that a guitar strikes on the beats over that half-way between
    strokesOnQuarters,       ///< that on the quarters
    kCount,
  };
  /// First the means of DownbeatSign over the beats that begin a bar.
  std::array<double, kCount> of{};
};

/// Beats and bars that may be a phrase's.
struct GridCandidate {
  std::vector<Seconds> beats;
  int meter = 4;          ///< beats in a bar
  std::size_t first = 0;  ///< the first beat that begins one
  GridSigns signs;
};

/// The tracked beats, those half-way between them, and every second one of either kind, in bars of four and of three
/// from each of their beats.
std::vector<GridCandidate> gridCandidates(const std::vector<Seconds>& tracked, const OnsetStrength& onsets,
                                          const NoteActivations& notes, const GuitarActivations& guitar);

struct PhraseGrid {
  std::vector<Seconds> beats;
  Bars bars;  ///< their certainty is the probability of this reading
};

/// The likeliest of all candidates, by a conditional logistic regression over their signs (McFadden 1974) that
/// bench/fit/phrase_grid.py learned: a few bars of a guitar tell their beats less by harmony than a song does, and more
/// by where the phrase begins, rests and changes its notes.
/// @param tracked  at least three
PhraseGrid readPhraseGrid(const std::vector<Seconds>& tracked, const OnsetStrength& onsets,
                          const NoteActivations& notes, const GuitarActivations& guitar);

}  // namespace ear
