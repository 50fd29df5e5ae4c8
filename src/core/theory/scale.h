// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/theory/key.h"
#include "core/theory/pitch.h"

namespace ear {

enum class ScaleKind {
  major,
  naturalMinor,
  harmonicMinor,
  melodicMinor,
  dorian,
  phrygian,
  lydian,
  mixolydian,
  locrian,
  majorPentatonic,
  minorPentatonic,
  blues,
};

inline constexpr std::array kAllScales = {
    ScaleKind::major,   ScaleKind::naturalMinor,    ScaleKind::harmonicMinor,   ScaleKind::melodicMinor,
    ScaleKind::dorian,  ScaleKind::phrygian,        ScaleKind::lydian,          ScaleKind::mixolydian,
    ScaleKind::locrian, ScaleKind::majorPentatonic, ScaleKind::minorPentatonic, ScaleKind::blues};

/// Semitones above the tonic, rising from 0. Melodic minor is its rising form; blues is the minor pentatonic with a
/// flat fifth.
std::span<const int> stepsOf(ScaleKind kind);

/// "minor pentatonic".
std::string_view scaleName(ScaleKind kind);

/// Empty where there is none of that name.
std::optional<ScaleKind> scaleKindOf(std::string_view name);

struct Scale {
  PitchClass tonic;
  ScaleKind kind = ScaleKind::major;

  bool contains(PitchClass pc) const;
  std::vector<PitchClass> notes() const;  ///< from the tonic up
  bool operator==(const Scale&) const = default;
};

/// The scale of a key: major, or natural minor.
inline Scale scaleOf(const Key& key) {
  return {key.tonic, key.mode == Mode::major ? ScaleKind::major : ScaleKind::naturalMinor};
}

/// A scale with at least so much of the weight inside, best first.
struct ScaleFit {
  Scale scale;
  double inside = 0.0;  ///< share of the weight on notes of the scale, in [0, 1]
  double used = 0.0;    ///< share of the scale's notes that carry weight
};

/// How well the scales on a tonic explain pitch classes that sounded.
/// @param weights  12 values >= 0, C first
std::vector<ScaleFit> fitScales(std::span<const float> weights, PitchClass tonic);

}  // namespace ear
