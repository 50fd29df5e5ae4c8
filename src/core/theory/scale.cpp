// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/scale.h"

#include <algorithm>
#include <numeric>

namespace ear {
namespace {

constexpr std::array kMajor = {0, 2, 4, 5, 7, 9, 11}, kNaturalMinor = {0, 2, 3, 5, 7, 8, 10},
                     kHarmonicMinor = {0, 2, 3, 5, 7, 8, 11}, kMelodicMinor = {0, 2, 3, 5, 7, 9, 11},
                     kDorian = {0, 2, 3, 5, 7, 9, 10}, kPhrygian = {0, 1, 3, 5, 7, 8, 10},
                     kLydian = {0, 2, 4, 6, 7, 9, 11}, kMixolydian = {0, 2, 4, 5, 7, 9, 10},
                     kLocrian = {0, 1, 3, 5, 6, 8, 10};
constexpr std::array kMajorPentatonic = {0, 2, 4, 7, 9}, kMinorPentatonic = {0, 3, 5, 7, 10};
constexpr std::array kBlues = {0, 3, 5, 6, 7, 10};

constexpr float kSounds = 0.08F;  // of the strongest pitch class: less is no note of the music

}  // namespace

std::span<const int> stepsOf(ScaleKind kind) {
  switch (kind) {
    case ScaleKind::major:
      return kMajor;
    case ScaleKind::naturalMinor:
      return kNaturalMinor;
    case ScaleKind::harmonicMinor:
      return kHarmonicMinor;
    case ScaleKind::melodicMinor:
      return kMelodicMinor;
    case ScaleKind::dorian:
      return kDorian;
    case ScaleKind::phrygian:
      return kPhrygian;
    case ScaleKind::lydian:
      return kLydian;
    case ScaleKind::mixolydian:
      return kMixolydian;
    case ScaleKind::locrian:
      return kLocrian;
    case ScaleKind::majorPentatonic:
      return kMajorPentatonic;
    case ScaleKind::minorPentatonic:
      return kMinorPentatonic;
    case ScaleKind::blues:
      return kBlues;
  }
  return kMajor;
}

std::string_view scaleName(ScaleKind kind) {
  switch (kind) {
    case ScaleKind::major:
      return "major";
    case ScaleKind::naturalMinor:
      return "natural minor";
    case ScaleKind::harmonicMinor:
      return "harmonic minor";
    case ScaleKind::melodicMinor:
      return "melodic minor";
    case ScaleKind::dorian:
      return "dorian";
    case ScaleKind::phrygian:
      return "phrygian";
    case ScaleKind::lydian:
      return "lydian";
    case ScaleKind::mixolydian:
      return "mixolydian";
    case ScaleKind::locrian:
      return "locrian";
    case ScaleKind::majorPentatonic:
      return "major pentatonic";
    case ScaleKind::minorPentatonic:
      return "minor pentatonic";
    case ScaleKind::blues:
      return "blues";
  }
  return "";
}

std::optional<ScaleKind> scaleKindOf(std::string_view name) {
  for (const ScaleKind kind : kAllScales)
    if (scaleName(kind) == name) return kind;
  return std::nullopt;
}

bool Scale::contains(PitchClass pc) const {
  const auto steps = stepsOf(kind);
  return std::find(steps.begin(), steps.end(), PitchClass(pc.value - tonic.value).value) != steps.end();
}

std::vector<PitchClass> Scale::notes() const {
  std::vector<PitchClass> result;
  for (const int step : stepsOf(kind)) result.emplace_back(tonic.value + step);
  return result;
}

std::vector<ScaleFit> fitScales(std::span<const float> weights, PitchClass tonic) {
  std::vector<ScaleFit> fits;
  const double total = std::accumulate(weights.begin(), weights.end(), 0.0);
  if (total <= 0) return fits;
  const float least = kSounds * *std::max_element(weights.begin(), weights.end());
  for (const ScaleKind kind : kAllScales) {
    ScaleFit fit{.scale = {tonic, kind}};
    const auto notes = fit.scale.notes();
    for (const PitchClass pc : notes) {
      const float weight = weights[static_cast<std::size_t>(pc.value)];
      fit.inside += weight / total;
      fit.used += weight > least ? 1.0 / static_cast<double>(notes.size()) : 0.0;
    }
    fits.push_back(fit);
  }
  // A scale is told by what it leaves out as much as by what it holds: few unused notes decide between nested scales.
  std::stable_sort(fits.begin(), fits.end(), [](const ScaleFit& a, const ScaleFit& b) {
    return a.inside + 0.5 * a.used > b.inside + 0.5 * b.used;
  });
  return fits;
}

}  // namespace ear
