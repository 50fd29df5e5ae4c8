// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/results/harmony_findings.h"

namespace ear {

/// Chords of a recording, gap-free from 0 to its end, changing on beats.
///
/// Notes between two beats are folded into a chroma of the chord range and one of the bass; chords of the vocabulary
/// (maj, min, 5, 7, maj7, min7, sus2, sus4, 6, min6, dim, hdim7, dim7, aug) are compared with both, and the most likely
/// sequence is taken (templates with Viterbi: Sheh & Ellis 2003; Cho & Bello 2014), changes being likelier where bars
/// begin and within the key. A bass that is not the root is told where it stands through the chord.
///
/// @param beats      rising; empty: every half second is looked at
/// @param downbeats  those of `beats` that start a bar
/// @param key        of the recording where it is known; chords of its scale are likelier
std::vector<FoundChord> findChords(const NoteActivations& notes, const std::vector<Seconds>& beats,
                                   const std::vector<Seconds>& downbeats, Seconds duration,
                                   const std::optional<Key>& key);

}  // namespace ear
