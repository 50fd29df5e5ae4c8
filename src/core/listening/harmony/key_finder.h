// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/predominant_pitch.h"
#include "core/listening/results/harmony_findings.h"

namespace ear {

/// The sounding key of a whole recording.
///
/// A song is told by three published profile sets (Krumhansl & Kessler 1982, Temperley 1999, Albrecht & Shanahan 2013)
/// correlated with its chroma, joined with how long each of its chords stands, the chord that leads to a minor tonic,
/// and the first and last chord. A phrase under half a minute has no cadences: its predominant line's scale, profile
/// and last note tell. Certainties of a phrase are kept low, since the same notes serve many keys.
///
/// A shuffled phrase on the notes of a minor key is taken for blues, whose key is named major after its dominant
/// seventh chord, whatever third the line plays (common practice, no source).
///
/// @param chords  heard without a key; may be empty
/// @param line    predominant pitch, frame by frame at the rate of `notes`; may be empty
/// @param swing   1 straight, 2 triplet
KeyFindings findKey(const NoteActivations& notes, const std::vector<FoundChord>& chords,
                    const std::vector<PredominantPitch>& line, double swing = 1.0);

/// Where a song leaves its key for at least a quarter of a minute, such as a last chorus a tone higher: the likeliest
/// sequence of keys under the chords (Viterbi), a change being dear and one to the relative key, whose notes are the
/// same, dearer.
std::vector<KeyChange> findKeyChanges(const std::vector<FoundChord>& chords, const Key& home);

}  // namespace ear
