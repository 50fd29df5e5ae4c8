// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/neck/neck_map.h"
#include "core/listening/frontend/chroma.h"
#include "core/theory/chord.h"
#include "core/theory/scale.h"

namespace ear {

/// What a mark says: the note or its degree above the tonic.
enum class NeckLabels { notes, degrees };

/// Every place of a scale's notes up to a fret; those outside of `region` are faded. Tones of a sounding chord are
/// marked, also where they lie outside of the scale.
std::vector<NeckMark> scaleMarks(const Guitar& guitar, const std::optional<Scale>& scale, NeckLabels labels,
                                 Spelling spelling, int frets, const NeckRegion* region, const Chord* chord);

/// Places that are stopped together, by their notes.
std::vector<NeckMark> shapeMarks(const Guitar& guitar, const std::vector<FretPosition>& places, Spelling spelling);

/// The scale as evidence: each note as light as it sounds, and notes outside of it that sound as well.
std::vector<NeckMark> evidenceMarks(const Guitar& guitar, const Scale& scale, const ChromaVector& chroma,
                                    Spelling spelling, int frets);

}  // namespace ear
