// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/audio/recording.h"
#include "core/base/units.h"

namespace ear {

/// Something is struck.
struct StruckMoment {
  Seconds time;
  float strength = 0;  ///< in (0, 1], of the strongest of the passage
};

/// Fast repeats in a passage: an attack each time, or a steady wave of loudness with nothing struck.
enum class Repeats { none, picked, tremolo };

struct PassageStrokes {
  static constexpr double kLoudnessRate = 200.0;  ///< points a second
  std::vector<float> loudness;                    ///< level of the passage, greatest = 1: the evidence
  std::vector<StruckMoment> attacks;              ///< of a tremolo none but those that stand out of its wave
  Repeats repeats = Repeats::none;
  Hertz rate{};            ///< of the repeats
  double depth = 0.0;      ///< of the wave of loudness: 0 none, 1 down to silence
  double steepness = 1.0;  ///< how much faster it rises than it falls
  double certainty = 0.0;  ///< in [0, 1]
  std::string evidence;    ///< a sentence
};

/// Tells fast picking from a tremolo effect and counts the strokes of a passage.
///
/// The effect makes loudness rise as slowly as it falls; a pick makes it jump and die away. Attacks are peaks of
/// vibrato-proof spectral flux (Boeck & Widmer 2013), so that bends and vibrato add none.
/// @param passage  up to about 20 s; longer ones are measured alike but slowly
PassageStrokes measureStrokes(const Recording& passage);

/// A rate as a note value at a tempo: "sixteenths", "eighth triplets"; empty where none is within 8 %.
std::string noteValueOf(Hertz rate, Bpm tempo);

}  // namespace ear
