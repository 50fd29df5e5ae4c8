// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/rhythm.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <string_view>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/rhythm/beat_profile.h"
#include "core/listening/rhythm/feel.h"
#include "core/listening/rhythm/metre.h"
#include "core/listening/rhythm/phrase_grid.h"

namespace ear {
namespace {

constexpr std::string_view kByPulse = "by eye, on 45 recordings of two sources and 32 sounds that are no music";

struct Parameters {
  /// mean onset strength under which nothing is played
  /// under it nothing is played
  float quiet = parameter("rhythm.quiet", 0.05F, "onset strength");
  // Pulse clarity: recordings have 0.28 at least (phrases of 10 s; songs from 0.5), what is no music (noise of four
  // colours, clicks, crackle, applause, made-up speech, wind) up to 0.08 in 40 s and 0.28 in 6 s.
  double pulseWindow = parameter("rhythm.pulseWindow", 12.0, "s", kByPulse);
  double byChance = parameter("rhythm.byChance", 0.1, "clarity", kByPulse);
  /// of what does not repeat, and more of a short piece
  double byChanceOfOne = parameter("rhythm.byChanceOfOne", 2.2, "clarity", kByPulse);
  double clearer = parameter("rhythm.clearer", 0.3, "clarity", kByPulse);  ///< by so much it is beyond doubt
  double soundsWithin = parameter("rhythm.soundsWithin", 0.06, "s");       ///< of a beat that sounds
  double ofMedian = parameter("rhythm.ofMedian", 0.06, "of the gap");      ///< within which gaps make the tempo
  double sameTempo = parameter("rhythm.sameTempo", 0.03, "of the tempo");  ///< within which the tempogram supports it
  double ofTracked = parameter("rhythm.ofTracked", 0.25, "");              ///< for the tempo that was tracked
  double ofOther = parameter("rhythm.ofOther", 0.5, "");                   ///< of the tempogram, for another level
  double range = parameter("rhythm.range", 1.2, "ratio");  ///< of a tempo that is followed through held beats
};
const Parameters kPar{};

constexpr int kTempoReadings = 3;

/// Takes off beats before the music starts and after it ends, where the tracker only counts on.
std::vector<Seconds> trimSilence(std::vector<Seconds> beats, const OnsetStrength& onsets) {
  const auto sounds = [&](Seconds t) {
    return strongestNear(onsets.all, onsets.clock, t, kPar.soundsWithin) > 2 * kPar.quiet;
  };
  while (!beats.empty() && !sounds(beats.back())) beats.pop_back();
  const auto first = std::find_if(beats.begin(), beats.end(), sounds);
  beats.erase(beats.begin(), first);
  return beats;
}

std::vector<TempoReading> readTempo(const std::vector<Seconds>& beats, const Tempogram& tempogram) {
  std::vector<double> gaps;
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back((beats[i] - beats[i - 1]).value);
  if (gaps.empty()) return {};
  // The mean of the gaps near the median: finer than the frame grid, deaf to a missed beat.
  const double median = medianOf(gaps);
  double sum = 0;
  int count = 0;
  for (const double g : gaps)
    if (std::abs(g - median) < kPar.ofMedian * median) sum += g, ++count;
  if (count == 0) return {};
  const double tempo = 60.0 * count / sum;

  const auto strengthAt = [&](double bpm) {
    double best = 0;
    for (std::size_t i = 0; i < tempogram.tempi.size(); ++i)
      if (std::abs(tempogram.tempi[i].value / bpm - 1) < kPar.sameTempo)
        best = std::max<double>(best, tempogram.strength[i]);
    return best;
  };
  std::vector<TempoReading> readings{{Bpm(tempo), kPar.ofTracked + strengthAt(tempo)}};
  for (const double factor : {2.0, 0.5, 1.5, 2.0 / 3.0})
    if (const double bpm = tempo * factor; bpm >= 40 && bpm <= 240)
      readings.push_back({Bpm(bpm), kPar.ofOther * strengthAt(bpm)});
  std::stable_sort(readings.begin() + 1, readings.end(),
                   [](const auto& a, const auto& b) { return a.certainty > b.certainty; });
  readings.resize(std::min<std::size_t>(readings.size(), kTempoReadings));
  double total = 0;
  for (const auto& r : readings) total += r.certainty;
  for (auto& r : readings) r.certainty /= total;
  return readings;
}

/// Greatest autocorrelation of onset strength around a lag, in [-1, 1].
double clarityAt(const OnsetStrength& onsets, double lag) {
  const auto first = static_cast<std::size_t>(std::max(1.0, std::floor(lag) - 1)), count = std::size_t{4};
  const auto window = onsets.clock.framesIn(Seconds(kPar.pulseWindow));
  const std::span<const float> all = onsets.all;
  std::vector<double> products(count, 0.0);
  double power = 1e-9;
  for (std::size_t start = 0; start < all.size(); start += std::max<std::size_t>(1, window / 2)) {
    const auto part = all.subspan(start, std::min(window, all.size() - start));
    if (start > 0 && part.size() <= window / 2) break;  // it was in the window before
    const double mean = std::accumulate(part.begin(), part.end(), 0.0) / static_cast<double>(part.size());
    const auto at = [&](std::size_t i) { return part[i] - mean; };
    for (std::size_t i = 0; i < part.size(); ++i) power += at(i) * at(i);
    for (std::size_t k = 0; k < count; ++k) {
      const std::size_t by = first + k;
      if (by >= part.size()) continue;
      double sum = 0;
      for (std::size_t i = 0; i + by < part.size(); ++i) sum += at(i) * at(i + by);
      products[k] += sum * static_cast<double>(part.size()) / static_cast<double>(part.size() - by);
    }
  }
  return *std::max_element(products.begin(), products.end()) / power;
}

}  // namespace

double pulseOf(const OnsetStrength& onsets, std::span<const Seconds> beats) {
  if (beats.size() < 2 || onsets.liveliness < kLively) return 0.0;
  std::vector<double> gaps;
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back((beats[i] - beats[i - 1]).value);
  const double beat = onsets.clock.placeOf(Seconds(medianOf(gaps)));
  const double clarity = std::max({clarityAt(onsets, beat), clarityAt(onsets, 2 * beat), clarityAt(onsets, 4 * beat)});
  const double chance = kPar.byChance + kPar.byChanceOfOne / std::sqrt(static_cast<double>(onsets.all.size()));
  return std::clamp((clarity - chance) / kPar.clearer, 0.0, 1.0);
}

std::vector<Seconds> trackThrough(const OnsetStrength& onsets, std::span<const Seconds> fixed,
                                  const Progress& progress) {
  if (fixed.size() < 2) return {};
  std::vector<double> gaps;
  for (std::size_t i = 1; i < fixed.size(); ++i) gaps.push_back((fixed[i] - fixed[i - 1]).value);
  // Stretches lie apart, so the usual gap is that of the shorter half.
  std::sort(gaps.begin(), gaps.end());
  const double beat = gaps[gaps.size() / 4];
  OnsetStrength through = onsets;
  const auto frame = [&](double t) { return std::min(through.all.size(), through.clock.frameAt(Seconds(t))); };
  for (std::size_t i = 0; i < fixed.size(); ++i) {
    const double at = fixed[i].value;
    const double gap = i + 1 < fixed.size() ? (fixed[i + 1] - fixed[i]).value : beat;
    const double until = at + std::min(gap, 0.5 * beat + (gap < 1.5 * beat ? gap : 0.0));
    std::fill(through.all.begin() + static_cast<std::ptrdiff_t>(frame(at - 0.4 * beat)),
              through.all.begin() + static_cast<std::ptrdiff_t>(frame(until)), 0.0F);
  }
  for (const Seconds t : fixed)
    if (const std::size_t i = frame(t.value); i < through.all.size()) through.all[i] = 1.0F;
  const TempoRange range{Bpm(60.0 / beat / kPar.range), Bpm(60.0 / beat * kPar.range)};
  return trimSilence(trackBeats(through, measureTempogram(through), progress, range), onsets);
}

RhythmFindings measureRhythm(const OnsetStrength& onsets, const NoteActivations& notes, const GuitarActivations& guitar,
                             const Progress& progress) {
  RhythmFindings result;
  result.tempogram = measureTempogram(onsets);
  auto tracked = trimSilence(trackBeats(onsets, result.tempogram, progress), onsets);
  result.pulse = pulseOf(onsets, tracked);
  if (tracked.size() < 4 || result.pulse <= 0.0) return result;
  Tactus counted = countedBeats(std::move(tracked), onsets, notes, [&](Bpm near, double factor) {
    const TempoRange range{Bpm(near.value / factor), Bpm(near.value * factor)};
    return trimSilence(trackBeats(onsets, result.tempogram, progress, range), onsets);
  });
  Bars bars;
  if (guitar.count() > 0 && !counted.threes) {
    PhraseGrid grid = readPhraseGrid(counted.beats, onsets, notes, guitar);
    if (grid.beats.size() != counted.beats.size()) counted.reason = LevelReason::none;  // said of other beats
    counted.beats = std::move(grid.beats);
    bars = std::move(grid.bars);
  } else {
    bars = findBars(counted, onsets, notes);
  }
  result.beats = counted.beats;
  result.tempo = readTempo(counted.beats, result.tempogram);
  result.reason = counted.reason;
  result.meter = bars.meter;
  result.meterCertainty = bars.certainty;
  for (const std::size_t i : bars.first) result.downbeats.push_back(counted.beats[i]);
  result.feels = feelChanges(counted.beats, bars, onsets);
  result.profile = profileOf(counted.beats, onsets.all, onsets.clock);
  if (!counted.threes) result.swing = measureSwing(result.profile);
  return result;
}

}  // namespace ear
