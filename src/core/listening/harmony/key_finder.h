// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/harmony/phrase_key.h"
#include "core/listening/results/harmony_findings.h"

namespace ear {

inline constexpr Seconds kSong{30.0};  ///< from which on a recording has the cadences of a song

/// The sounding key of a whole recording.
///
/// A song is told by three published profile sets (Krumhansl & Kessler 1982, Temperley 1999, Albrecht & Shanahan 2013)
/// correlated with its chroma, joined with how long each of its chords stands, the chord that leads to a minor tonic,
/// and the first and last chord. A phrase has no cadences: learned weights of what its guitars play, the bass and the
/// chords tell (phrase_key.h), alone up to a quarter of a minute, with the others up to kSong.
///
/// @param chords  heard without a key; may be empty
/// @param signs   of the same; not asked of a song
KeyFindings findKey(const NoteActivations& notes, const std::vector<FoundChord>& chords, const KeySigns& signs = {});

/// Where a song leaves its key for at least a quarter of a minute, such as a last chorus a tone higher: the likeliest
/// sequence of keys under the chords (Viterbi), a change being dear and one to the relative key, whose notes are the
/// same, dearer.
std::vector<KeyChange> findKeyChanges(const std::vector<FoundChord>& chords, const Key& home);

}  // namespace ear
