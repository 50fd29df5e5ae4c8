// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/units.h"
#include "core/theory/chord.h"
#include "core/theory/key.h"

namespace ear {

/// A stretch of one sounding chord.
struct FoundChord {
  TimeSpan span;
  std::optional<Chord> chord;  ///< empty: no chord sounds
  double certainty = 0.0;      ///< in [0, 1], of the root and of major against minor
  double kindCertainty = 0.0;  ///< in [0, 1], of its kind, were the root right; 0 where nothing tells it
};

using ChromaVector = std::array<float, 12>;  ///< C first

struct KeyReading {
  Key key;
  double certainty = 0.0;  ///< in [0, 1]; the readings of a list sum to 1
};

/// From here on another key holds.
struct KeyChange {
  Seconds at;
  Key key;
};

struct KeyFindings {
  std::vector<KeyReading> readings{};  ///< best first; empty when nothing pitched sounds
  ChromaVector chroma{};               ///< of the whole recording, greatest = 1
  std::vector<KeyChange> changes{};    ///< rising; empty where one key holds throughout
};

/// As the likeliest key has it; sharps where none is known.
inline Spelling spellingOf(const std::optional<KeyFindings>& key) {
  return key && !key->readings.empty() ? spellingOf(key->readings.front().key) : Spelling::sharps;
}

}  // namespace ear
