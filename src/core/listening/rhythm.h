#pragma once

#include <vector>

#include "core/listening/chroma.h"
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
  std::vector<TempoReading> tempo;  ///< best first; empty when nothing repeats
  Tempogram tempogram;
  std::vector<Seconds> beats;
  std::vector<Seconds> downbeats;  ///< those of `beats` that start a bar
  int meter = 4;                   ///< beats in a bar
  double meterCertainty = 0.0;     ///< in [0, 1]
  double swing = 1.0;              ///< first to second half of the beat: 1 straight, 2 triplet swing
};

/// Autocorrelation tempogram (Grosche & Mueller 2011), averaged over windows of 8 s, 40 to 240 beats a minute.
Tempogram measureTempogram(const OnsetStrength& onsets);

/// Beats by the most likely path of a bar pointer through beat positions and tempi (Whiteley 2006; state space of
/// Krebs, Boeck & Widmer 2015), driven by onset strength; the tempo may wander.
std::vector<Seconds> trackBeats(const OnsetStrength& onsets, const Tempogram& tempogram, const Progress& progress);

/// Tempo, beats, metre, downbeats and swing of a recording.
RhythmFindings measureRhythm(const OnsetStrength& onsets, const NoteActivity& notes, const Progress& progress);

}  // namespace ear
