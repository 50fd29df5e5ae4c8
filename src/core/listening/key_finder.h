#pragma once

#include <vector>

#include "core/listening/chords.h"
#include "core/listening/chroma.h"
#include "core/listening/predominant_pitch.h"
#include "core/theory/key.h"

namespace ear {

struct KeyReading {
  Key key;
  double certainty = 0.0;  ///< in [0, 1]; the readings of a list sum to 1
};

struct KeyFindings {
  std::vector<KeyReading> readings;  ///< best first; empty when nothing pitched sounds
  ChromaVector chroma{};             ///< of the whole recording, greatest = 1
};

/// The sounding key of a whole recording.
///
/// The chroma of the melody and chord range is correlated with three published profile sets (Krumhansl & Kessler
/// 1982, Temperley 1999, Albrecht & Shanahan 2013); how long each triad stands under the bass, and where the
/// piece comes to rest, decide between keys that share their notes.
KeyFindings findKey(const NoteActivity& notes, const std::vector<FoundChord>& chords,
                    const std::vector<PredominantPitch>& line);

}  // namespace ear
