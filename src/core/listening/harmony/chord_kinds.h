// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <span>
#include <string_view>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/results/harmony_findings.h"

namespace ear {

/// The kinds that chords are told apart by here, as symbols of chordTypes().
inline constexpr std::array<std::string_view, 18> kHeardKinds = {"",     "m",   "5",    "7",    "maj7", "m7",
                                                                 "6",    "m6",  "sus2", "sus4", "dim",  "m7♭5",
                                                                 "dim7", "aug", "9",    "m9",   "maj9", "add9"};

/// What tells the kind of a chord whose root is known. Semitones are counted from the root.
struct KindSigns {
  static constexpr std::size_t kSigns = 6 * 12 + 14 + 1;
  /// How likely guitars sound each semitone: mean and greatest over the chord, and how often it is their lowest; the
  /// same mean and greatest over all stretches of the recording with this root; everything that sounds (greatest 1);
  /// which of the first fourteen kinds was told without all this (0 or 1); 1.
  std::array<float, kSigns> of{};
};

/// Of each chord; nothing where no chord sounds or its kind is told by its bass (a suspended one that resolves, one
/// over its walking seventh).
std::vector<std::optional<KindSigns>> kindSignsOf(const std::vector<FoundChord>& chords,
                                                  const GuitarActivations& guitar, const NoteActivations& notes);

/// How likely each of kHeardKinds is; they sum to one. A multinomial logistic regression over the signs, learned by
/// bench/fit/chord_kinds.py.
/// @param phrase  of a short recording, in which a lead plays over most chords, with weights of its own
std::array<double, kHeardKinds.size()> kindOdds(const KindSigns& signs, bool phrase);

/// Tells the kind of each chord anew, by what the guitars sound, and how sure that is; neighbours that are the same
/// then are one. A third that nobody sounds is not said. A song has most of its chords on one root in one kind, so that
/// they tell each other's.
/// @param phrase  of a short recording
std::vector<FoundChord> withKindsByGuitar(const std::vector<FoundChord>& chords, const GuitarActivations& guitar,
                                          const NoteActivations& notes, bool phrase);

}  // namespace ear
