// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <string_view>
#include <vector>

#include "core/base/units.h"
#include "core/theory/rhythm_values.h"

namespace ear {

/// How strongly things start within a beat, over all beats; the beat itself comes first.
struct BeatProfile {
  static constexpr std::size_t kPlaces = 96;  ///< places of a beat
  std::array<double, kPlaces> strength{};     ///< mean onset strength, in [0, 1]

  /// Greatest strength within 1/24 of a beat around a place.
  /// @param share  of the beat, in [0, 1)
  double near(double share) const;
};

/// How often the back beat comes against the counted beat.
enum class Feel { usual, halfTime, doubleTime };

struct FeelSpan {
  TimeSpan span;
  Feel feel = Feel::usual;
};

struct TempoReading {
  Bpm tempo;
  double certainty = 0.0;  ///< in [0, 1]; the readings of a list sum to 1
};

/// How strongly onsets repeat at each tempo, over the whole recording.
struct Tempogram {
  std::vector<Bpm> tempi;       ///< rising
  std::vector<float> strength;  ///< of each tempo, greatest = 1
};

/// Why the beats are counted at their level and not at half or twice of it.
enum class LevelReason {
  none,           ///< nothing spoke for another
  thirdsPaired,   ///< its thirds are struck as strongly as the beat itself
  compound,       ///< it is divided in three all through
  halfCollides,   ///< at half the tempo kick and snare would both fall within one beat
  twiceIsEmpty,   ///< at twice the tempo nothing would ever start between the beats
  slowlyDivided,  ///< at half the tempo the beats would be slower than any are counted that are divided in two
  twiceIsFast,    ///< at twice the tempo the beats would be faster than any that are counted in four
};
std::string_view sentenceOf(LevelReason reason);  ///< empty for none

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
  LevelReason reason = LevelReason::none;
};

}  // namespace ear
