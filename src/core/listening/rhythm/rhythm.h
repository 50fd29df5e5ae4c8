// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/results/rhythm_findings.h"

namespace ear {

/// Autocorrelation tempogram (Grosche & Mueller 2011), averaged over windows of 8 s, 40 to 240 beats a minute.
Tempogram measureTempogram(const OnsetStrength& onsets);

/// How sure it is that something repeats with the given beats, in [0, 1]; 0 where nothing does.
///
/// Pulse clarity as the greatest autocorrelation of onset strength, here at one, two and four beats (Lartillot et al.
/// 2008), over windows of 12 s, against what chance reaches in that many frames. Held tones and hum repeat perfectly,
/// but nothing starts in them.
double pulseOf(const OnsetStrength& onsets, std::span<const Seconds> beats);

struct TempoRange {
  Bpm slowest{50}, fastest{225};
};

/// Beats by the most likely path of a bar pointer through beat positions and tempi (Whiteley 2006; state space of
/// Krebs, Boeck & Widmer 2015), driven by onset strength; the tempo may wander.
/// @param range  the tempi that may be, where known
std::vector<Seconds> trackBeats(const OnsetStrength& onsets, const Tempogram& tempogram, const Progress& progress,
                                const TempoRange& range = {});

/// Beats of a recording that go through fixed ones: where those follow each other nothing else counts as an onset, and
/// the tempo stays within a fifth of theirs.
/// @param fixed  rising, at least two
std::vector<Seconds> trackThrough(const OnsetStrength& onsets, std::span<const Seconds> fixed,
                                  const Progress& progress);

/// Tempo, beats, metre, downbeats and swing of a recording.
/// @param guitar  what guitars sound, of a phrase; nothing of a song, in which the whole band tells where bars begin
RhythmFindings measureRhythm(const OnsetStrength& onsets, const NoteActivations& notes, const GuitarActivations& guitar,
                             const Progress& progress);

}  // namespace ear
