// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/listening/frontend/stereo_field.h"
#include "core/listening/harmony/chords.h"
#include "core/listening/results/guitar_findings.h"

namespace ear {

/// Ranked readings of tuning and capo; there is no certainty in this, so the best capo reading and the best one without
/// a capo are always among them.
///
/// Reasoned as a teacher does (common practice, no source): for each tuning of the catalogue and each capo, a song is
/// played either with the easiest grips of the open position or with barre and power chords moved along the neck. A
/// grip is chosen the likelier the easier it is, and must agree with the notes that sound while its chord stands (a sum
/// over grips, so that one that fits among many that would serve as well says little). A setup is worth the more the
/// better its grips agree, the easier the whole song lies, the more usual it is, and the better its lowest string
/// agrees with the lowest note heard.
///
/// @return empty when no chords were found
///
/// @param notes  of one guitar, as far as it can be told apart
/// @param alone  no bass plays, so that the lowest note is the guitar's
std::vector<SetupReading> readGuitarSetup(const NoteActivations& notes, const std::vector<FoundChord>& chords,
                                          bool alone, std::size_t most = 5);

/// Of each guitar that can be told apart.
std::vector<FoundGuitar> findGuitars(const StereoField& field, const NoteActivations& mix, Cents tuning,
                                     const std::vector<FoundChord>& chords, const Progress& progress);

}  // namespace ear
