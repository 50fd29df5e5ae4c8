// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/results/harmony_findings.h"

namespace ear {

/// What the key of a short phrase is told by: how much of each pitch class there is in several ways, each summing to 1,
/// or all 0 where there is nothing of it.
struct KeySigns {
  enum Sign : std::size_t {
    sounding,     ///< how long the guitars sound it
    struck,       ///< how often they strike it
    last,         ///< what they come to rest on, the end weighing most
    bass,         ///< under A2, of whatever plays
    majorChords,  ///< how long a major chord on it stands
    minorChords,
    shuffled,  ///< what they sound in a shuffle, where a minor third is no minor key's; else nothing
    kSigns
  };
  std::array<ChromaVector, kSigns> of{};
  bool inShuffle = false;
};

/// @param guitar  of the phrase; may be empty
/// @param notes   of the same; may be empty
/// @param swing   1 straight, 2 triplet
KeySigns keySignsOf(const GuitarActivations& guitar, const NoteActivations& notes,
                    const std::vector<FoundChord>& chords, double swing);

/// Log weights of the twelve major and the twelve minor keys, to be told apart by their differences: a multinomial
/// logistic regression with one weight for each sign, mode and degree (profiles as Krumhansl & Kessler 1982 asked
/// listeners for, learned instead), by bench/fit/phrase_keys.py.
std::array<double, 24> phraseKeyWeights(const KeySigns& signs);

}  // namespace ear
