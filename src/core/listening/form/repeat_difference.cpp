// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/repeat_difference.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"
#include "core/signal/warping.h"

namespace ear {
namespace {

constexpr double kColumnsASecond = 25;
constexpr std::size_t kMost = 900, kLeast = 40;  // columns

struct Parameters {
  /// by which the alignment may leave the straight way
  double band = parameter("repeatDifference.band", 0.1, "of the length");
  double stepCost = parameter("repeatDifference.stepCost", 0.04, "per column");     ///< for each column that waits
  Seconds leastSpan = parameter("repeatDifference.leastSpan", Seconds(0.12), "s");  ///< of a difference
  float faint = parameter("repeatDifference.faint", 0.35F, "of a column");          ///< that is left to chance
};
const Parameters kPar{};

constexpr auto kRows = static_cast<std::size_t>(PitchMap::kRows);

/// Semitones of a column, their attacks among them: what the two are compared by.
struct Feature {
  std::vector<float> notes;  // columns x semitones
  std::size_t size = PitchMap::kSemitones;
};

Feature featureOf(const std::vector<float>& map, std::size_t columns) {
  Feature f;
  f.notes.resize(columns * f.size);
  for (std::size_t c = 0; c < columns; ++c)
    for (std::size_t s = 0; s < f.size; ++s) {
      float most = 0;
      for (std::size_t r = 0; r < PitchMap::kPerSemitone; ++r)
        most = std::max(most, map[c * kRows + s * PitchMap::kPerSemitone + r]);
      // What is faint is left to chance.
      f.notes[c * f.size + s] = std::max(0.0F, most - kPar.faint);
    }
  return f;
}

/// One minus the cosine of two columns.
float apart(const Feature& a, std::size_t i, const Feature& b, std::size_t j) {
  double ab = 0, aa = 1e-6, bb = 1e-6;
  for (std::size_t s = 0; s < a.size; ++s) {
    const auto x = static_cast<double>(a.notes[i * a.size + s]), y = static_cast<double>(b.notes[j * b.size + s]);
    ab += x * y, aa += x * x, bb += y * y;
  }
  if (aa < 1e-4 && bb < 1e-4) return 0.0F;  // both silent
  return static_cast<float>(1.0 - ab / std::sqrt(aa * bb));
}

std::vector<float> mapOf(const RepeatSide& side, std::size_t columns, const Progress& progress,
                         std::vector<Seconds>& times) {
  PitchMap pitches(side.recording.sampleRate, side.offset);
  std::vector<float> map(columns * kRows);
  for (std::size_t c = 0; c < columns && !progress.cancelled(); ++c) {
    times.push_back(side.span.start +
                    side.span.length() * ((static_cast<double>(c) + 0.5) / static_cast<double>(columns)));
    pitches.column(side.recording, std::llround(times.back().value * side.recording.sampleRate), {},
                   std::span(map).subspan(c * kRows, kRows));
  }
  return map;
}

/// For each column of the first the one of the second that it belongs to.
std::vector<std::size_t> align(const Feature& a, const Feature& b, std::size_t n) {
  const auto band = static_cast<std::size_t>(std::max(4.0, kPar.band * static_cast<double>(n)));
  const auto distance = [&](std::size_t i, std::size_t j) { return static_cast<double>(apart(a, i, b, j)); };
  std::vector<std::size_t> partner(n, n);
  for (const auto& [i, j] : warp(bandCorridor(n, n, band), distance, {.wait = kPar.stepCost}))
    partner[i] = std::min(partner[i], j);
  return partner;
}

}  // namespace

RepeatDifference compareRepeats(const RepeatSide& first, const RepeatSide& second, const Progress& progress) {
  RepeatDifference result;
  const std::size_t n =
      std::clamp(static_cast<std::size_t>(first.span.length().value * kColumnsASecond), kLeast, kMost);
  std::vector<Seconds> otherTimes;
  result.first = mapOf(first, n, progress, result.firstTime);
  progress.report(0.45);
  const auto other = mapOf(second, n, progress, otherTimes);
  progress.report(0.9);
  if (progress.cancelled()) return {};
  result.columns = n;
  const Feature a = featureOf(result.first, n), b = featureOf(other, n);
  const auto partner = align(a, b, n);
  result.second.resize(n * kRows);
  std::vector<float> raw(n);
  for (std::size_t c = 0; c < n; ++c) {
    std::copy_n(other.begin() + static_cast<std::ptrdiff_t>(partner[c] * kRows), kRows,
                result.second.begin() + static_cast<std::ptrdiff_t>(c * kRows));
    result.secondTime.push_back(otherTimes[partner[c]]);
    raw[c] = apart(a, c, b, partner[c]);
  }
  for (std::size_t c = 0; c < n; ++c) {
    float sum = 0, count = 0;
    for (std::size_t k = c < 2 ? 0 : c - 2; k < std::min(n, c + 3); ++k) sum += raw[k], count += 1;
    result.difference.push_back(sum / count);
  }
  const Seconds half = first.span.length() / (2.0 * static_cast<double>(n));
  for (std::size_t c = 0; c < n;) {
    std::size_t end = c;
    while (end < n && result.difference[end] > RepeatDifference::kDiffers) ++end;
    if (end > c) {
      const TimeSpan span{result.firstTime[c] - half, result.firstTime[end - 1] + half};
      if (span.length() >= kPar.leastSpan) result.differs.push_back(span);
    }
    c = std::max(end, c + 1);
  }
  return result;
}

}  // namespace ear
