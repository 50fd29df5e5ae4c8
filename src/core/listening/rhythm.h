#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/listening/beat_profile.h"
#include "core/listening/chroma.h"
#include "core/listening/feel.h"
#include "core/listening/onsets.h"

namespace ear {

struct TempoReading {
  Bpm tempo;
  double certainty = 0.0;  ///< in [0, 1]; the readings of a list sum to 1
};

/// How strongly onsets repeat at each tempo, over the whole recording.
struct Tempogram {
  std::vector<Bpm> tempi;       ///< rising
  std::vector<float> strength;  ///< of each tempo, greatest = 1
};

struct RhythmFindings {
  std::vector<TempoReading> tempo;  ///< best first; empty when there is no steady beat
  double pulse = 1.0;               ///< in [0, 1]: how sure it is that there is a steady beat at all
  Tempogram tempogram;
  std::vector<Seconds> beats;
  std::vector<Seconds> downbeats;  ///< those of `beats` that start a bar
  int meter = 4;                   ///< beats in a bar
  double meterCertainty = 0.0;     ///< in [0, 1]
  Swing swing{};
  BeatProfile profile{};          ///< where within the beat things start
  std::vector<FeelSpan> feels{};  ///< passages in half or double time
  std::string reason{};  ///< why the beats are counted at this level and not at half or twice of it; may be empty
};

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
RhythmFindings measureRhythm(const OnsetStrength& onsets, const NoteActivity& notes, const Progress& progress);

}  // namespace ear
