// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/strokes.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/base/parameter.h"
#include "core/base/text.h"
#include "core/listening/frontend/onsets.h"
#include "core/signal/peak.h"

namespace ear {
namespace {

struct Parameters {
  double slowest = parameter("strokes.slowest", 3.0, "Hz");
  double fastest = parameter("strokes.fastest", 16.0, "Hz");  ///< repeats a second
  double leastDepth = parameter("strokes.leastDepth", 0.15, "of the loudness");
  double picked = parameter("strokes.picked", 1.8, "steepness");
  /// from which it is picking, and up to which an effect
  double tremolo = parameter("strokes.tremolo", 1.4, "steepness");
  double even = parameter("strokes.even", 0.65, "regularity");  ///< of a wave that no hand makes
  // How fast it rises against a sine of its size, from which something is struck. Wave effects (smooth, hard, under
  // strummed chords) came to 1.5 to 2.6, picked eighths in two mixes to 4.2 and more.
  double abrupt =
      parameter("strokes.abrupt", 3.3, "steepness", "by hand, on wave effects and picked eighths in two mixes");
  float attack = parameter("strokes.attack", 0.25F, "of the strongest flux");
  double attackGap = parameter("strokes.attackGap", 0.045, "s");  ///< 22 strokes a second, more than hands can
  double firstPeak = parameter("strokes.firstPeak", 0.85, "of the highest");  ///< from which a lag is the wave's
  /// under which nothing repeats, and least certainty
  double leastRegular = parameter("strokes.leastRegular", 0.3, "regularity");
  double struckShare = parameter("strokes.struckShare", 0.5, "attacks a wave");  ///< from which it is struck
  double ofValue = parameter("strokes.ofValue", 0.08, "of the rate");            ///< within which it is a note value
};
const Parameters kPar{};

/// Level in steps of 5 ms over windows of 20 ms.
std::vector<float> loudnessOf(std::span<const float> mono, int rate) {
  const auto step = static_cast<std::size_t>(rate / PassageStrokes::kLoudnessRate), half = 2 * step;
  std::vector<float> curve;
  for (std::size_t middle = 0; middle < mono.size(); middle += step) {
    const std::size_t from = middle > half ? middle - half : 0, to = std::min(mono.size(), middle + half);
    double sum = 0;
    for (std::size_t i = from; i < to; ++i) sum += static_cast<double>(mono[i]) * mono[i];
    curve.push_back(static_cast<float>(std::sqrt(sum / static_cast<double>(to - from))));
  }
  const float top = curve.empty() ? 0.0F : *std::max_element(curve.begin(), curve.end());
  if (top > 0)
    for (float& v : curve) v /= top;
  return curve;
}

struct Wave {
  Hertz rate{};
  double regularity = 0.0;  ///< autocorrelation at its period
  double depth = 0.0;
  double steepness = 1.0;
  double abruptness = 1.0;  ///< how fast it rises against a sine of the same rate and size
};

/// The steadiest repetition of the loudness, 3 to 16 times a second (normalised autocorrelation).
Wave waveOf(const std::vector<float>& loudness) {
  // The slow shape of the passage is no wave: its mean over a third of a second is taken off.
  const auto reach = static_cast<std::ptrdiff_t>(PassageStrokes::kLoudnessRate / kPar.slowest / 2);
  const auto n = static_cast<std::ptrdiff_t>(loudness.size());
  std::vector<double> sums(loudness.size() + 1), wave(loudness.size()), mean(loudness.size());
  for (std::size_t i = 0; i < loudness.size(); ++i) sums[i + 1] = sums[i] + loudness[i];
  for (std::ptrdiff_t i = 0; i < n; ++i) {
    const auto from = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, i - reach));
    const auto to = static_cast<std::size_t>(std::min(n, i + reach + 1));
    mean[static_cast<std::size_t>(i)] = (sums[to] - sums[from]) / static_cast<double>(to - from);
    wave[static_cast<std::size_t>(i)] = loudness[static_cast<std::size_t>(i)] - mean[static_cast<std::size_t>(i)];
  }
  const auto correlation = [&](std::size_t lag) {
    double both = 0, a = 1e-9, b = 1e-9;
    for (std::size_t i = lag; i < wave.size(); ++i)
      both += wave[i] * wave[i - lag], a += wave[i] * wave[i], b += wave[i - lag] * wave[i - lag];
    return both / std::sqrt(a * b);
  };
  const auto shortest = static_cast<std::size_t>(PassageStrokes::kLoudnessRate / kPar.fastest);
  const auto longest = static_cast<std::size_t>(PassageStrokes::kLoudnessRate / kPar.slowest);
  Wave result;
  if (wave.size() < 3 * longest) return result;
  std::vector<double> by(longest + 2);
  for (std::size_t lag = shortest - 1; lag <= longest + 1; ++lag) by[lag] = correlation(lag);
  const double top = *std::max_element(by.begin() + static_cast<std::ptrdiff_t>(shortest), by.end() - 1);
  // Twice the period repeats as well: the shortest lag that is nearly as good.
  for (std::size_t lag = shortest; lag <= longest; ++lag) {
    if (by[lag] < kPar.firstPeak * top || by[lag] < by[lag - 1] || by[lag] < by[lag + 1]) continue;
    const double exact = static_cast<double>(lag) + summitOffset(by[lag - 1], by[lag], by[lag + 1]);
    result.rate = Hertz(PassageStrokes::kLoudnessRate / exact);
    result.regularity = by[lag];
    break;
  }
  double level = 1e-9, square = 0;
  std::vector<double> rises, falls;
  for (std::size_t i = 1; i < wave.size(); ++i) {
    level += mean[i], square += wave[i] * wave[i];
    const double change = static_cast<double>(loudness[i]) - loudness[i - 1];
    (change > 0 ? rises : falls).push_back(std::abs(change));
  }
  const auto count = static_cast<double>(wave.size());
  // A sine of depth d around a level has an rms of d / sqrt 2 of it, seen from the middle.
  const double swing = std::sqrt(2 * square / count) / (level / count);
  result.depth = std::min(1.0, 2 * swing / (1 + swing));
  const auto steep = [](std::vector<double>& v) {
    if (v.empty()) return 1e-9;
    const auto at = v.begin() + static_cast<std::ptrdiff_t>(v.size() * 95 / 100);
    std::nth_element(v.begin(), at, v.end());
    return *at + 1e-9;
  };
  result.steepness = steep(rises) / steep(falls);
  const double amplitude = std::sqrt(2 * square / count) + 1e-9;
  const double ofSine = 2 * std::numbers::pi * result.rate.value * amplitude / PassageStrokes::kLoudnessRate;
  if (ofSine > 0) result.abruptness = steep(rises) / ofSine;
  return result;
}

/// Peaks of the spectral flux.
std::vector<StruckMoment> attacksOf(const OnsetStrength& onsets) {
  std::vector<StruckMoment> attacks;
  const auto& all = onsets.all;
  for (const std::size_t i : peaksOf(all, kPar.attack)) {
    const double frame = static_cast<double>(i) + summitOffset(all[i - 1], all[i], all[i + 1]);
    const Seconds time = onsets.clock.timeOf(frame);
    if (!attacks.empty() && (time - attacks.back().time).value < kPar.attackGap) {
      if (all[i] > attacks.back().strength) attacks.back() = {time, all[i]};
      continue;
    }
    attacks.push_back({time, all[i]});
  }
  float top = 0;
  for (const auto& a : attacks) top = std::max(top, a.strength);
  for (auto& a : attacks) a.strength /= top;
  return attacks;
}

}  // namespace

PassageStrokes measureStrokes(const Recording& passage) {
  PassageStrokes result;
  const auto mono = listeningMono(passage);
  result.loudness = loudnessOf(mono, kListeningRate);
  result.attacks = attacksOf(measureOnsets(measureLogBandSpectrogram(mono, {})));
  const Wave wave = waveOf(result.loudness);
  result.depth = wave.depth;
  result.steepness = wave.steepness;
  if (wave.regularity < kPar.leastRegular || wave.depth < kPar.leastDepth) {
    result.evidence = "Loudness does not repeat steadily between 3 and 16 times a second.";
    return result;
  }
  result.rate = wave.rate;
  const std::string shape = "Loudness comes back " + fixed(wave.rate.value, 1) + " times a second; it rises " +
                            fixed(wave.steepness, 1) + " times as fast as it falls, and " + fixed(wave.abruptness, 1) +
                            " times as fast as an even wave: ";
  const double length = passage.duration().value;
  const double struck = static_cast<double>(result.attacks.size()) / (length * wave.rate.value);
  // In a band what falls is covered by others: then the abruptness of the rise tells.
  if ((wave.steepness >= kPar.picked || wave.abruptness >= kPar.abrupt) && struck > kPar.struckShare) {
    const double clear = std::max((wave.steepness - kPar.tremolo) / 2, 0.3 + (wave.abruptness - kPar.abrupt) / 8);
    result.repeats = Repeats::picked;
    result.certainty = std::clamp(clear, 0.3, 1.0) * wave.regularity;
    result.evidence = shape + "each time something is struck.";
  } else if (wave.steepness <= kPar.tremolo && wave.regularity >= kPar.even && wave.abruptness < kPar.abrupt) {
    result.repeats = Repeats::tremolo;
    result.certainty = std::clamp((kPar.picked - wave.steepness) / 0.8, 0.3, 1.0) * wave.regularity;
    result.evidence = shape + "a wave, with no attack of its own.";
  } else {
    result.certainty = 0.2;
    result.evidence = shape + "that could be either; listen slowly.";
  }
  return result;
}

std::string noteValueOf(Hertz rate, Bpm tempo) {
  const double perBeat = rate.value * 60.0 / tempo.value;
  struct Value {
    double perBeat;
    const char* name;
  };
  for (const Value& v : {Value{1, "quarters"},
                         {1.5, "quarter triplets"},
                         {2, "eighths"},
                         {3, "eighth triplets"},
                         {4, "sixteenths"},
                         {6, "sixteenth triplets"},
                         {8, "thirty-seconds"}})
    if (std::abs(perBeat / v.perBeat - 1) < kPar.ofValue) return v.name;
  return {};
}

}  // namespace ear
