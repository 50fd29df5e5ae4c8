#include "core/listening/rhythm.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ear {
namespace {

constexpr float kQuiet = 0.05F;  // mean onset strength under which nothing is played
constexpr int kTempoReadings = 3;

double medianOf(std::vector<double> values) {
  if (values.empty()) return 0.0;
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

float peakNear(const std::vector<float>& strength, double rate, Seconds t, double reach) {
  const auto from = static_cast<std::size_t>(std::max(0.0, (t.value - reach) * rate));
  const auto to = std::min(strength.size(), static_cast<std::size_t>((t.value + reach) * rate) + 1);
  float peak = 0.0F;
  for (std::size_t i = from; i < to; ++i) peak = std::max(peak, strength[i]);
  return peak;
}

/// Takes off beats before the music starts and after it ends, where the tracker only counts on.
std::vector<Seconds> trimSilence(std::vector<Seconds> beats, const OnsetStrength& onsets) {
  const auto sounds = [&](Seconds t) { return peakNear(onsets.all, onsets.rate, t, 0.06) > 2 * kQuiet; };
  while (!beats.empty() && !sounds(beats.back())) beats.pop_back();
  const auto first = std::find_if(beats.begin(), beats.end(), sounds);
  beats.erase(beats.begin(), first);
  return beats;
}

double similarity(const ChromaVector& a, const ChromaVector& b) {
  double ab = 0, aa = 1e-9, bb = 1e-9;
  for (std::size_t i = 0; i < 12; ++i) ab += a[i] * b[i], aa += a[i] * a[i], bb += b[i] * b[i];
  return ab / std::sqrt(aa * bb);
}

void standardise(std::vector<double>& values) {
  const auto n = static_cast<double>(values.size());
  const double mean = std::accumulate(values.begin(), values.end(), 0.0) / n;
  double square = 0;
  for (const double v : values) square += (v - mean) * (v - mean);
  const double deviation = std::sqrt(square / n) + 1e-9;
  for (double& v : values) v = (v - mean) / deviation;
}

/// How much each beat sounds like the first of a bar: harmony and bass change there, kick rather than snare.
std::vector<double> downbeatEvidence(const std::vector<Seconds>& beats, const OnsetStrength& onsets,
                                     const NoteActivity& notes) {
  const std::size_t n = beats.size();
  std::vector<double> harmony(n), bass(n), low(n), snare(n), evidence(n);
  for (std::size_t i = 0; i < n; ++i) {
    const Seconds before = beats[i >= 2 ? i - 2 : 0], after = beats[std::min(n - 1, i + 2)];
    const TimeSpan past{before, beats[i]}, coming{beats[i] + Seconds(0.05), after};
    harmony[i] = 1 - similarity(chromaOf(notes, past, 45, 88), chromaOf(notes, coming, 45, 88));
    bass[i] = 1 - similarity(chromaOf(notes, past, 28, 52), chromaOf(notes, coming, 28, 52));
    low[i] = peakNear(onsets.low, onsets.rate, beats[i], 0.04);
    snare[i] = peakNear(onsets.high, onsets.rate, beats[i], 0.04);
  }
  for (auto* feature : {&harmony, &bass, &low, &snare}) standardise(*feature);
  for (std::size_t i = 0; i < n; ++i) evidence[i] = 1.2 * harmony[i] + bass[i] + 0.7 * low[i] - 0.35 * snare[i];
  return evidence;
}

struct Bars {
  int meter = 4;
  std::size_t firstDownbeat = 0;
  double certainty = 0.0;
};

/// The metre and phase whose first beats stand out most from the others.
Bars findBars(const std::vector<double>& evidence) {
  Bars best;
  double top = -1e9, second = -1e9;
  for (const auto& [meter, prior] : {std::pair{4, 0.35}, {3, 0.0}, {6, -0.05}}) {
    for (int phase = 0; phase < meter; ++phase) {
      double sum = 0;
      int count = 0;
      for (auto i = static_cast<std::size_t>(phase); i < evidence.size(); i += static_cast<std::size_t>(meter))
        sum += evidence[i], ++count;
      if (count == 0) continue;
      const double score = sum / count + prior;
      if (score > top)
        second = top, top = score, best = {meter, static_cast<std::size_t>(phase), 0.0};
      else
        second = std::max(second, score);
    }
  }
  best.certainty = std::clamp((top - second) / 1.2, 0.0, 1.0);
  return best;
}

/// Where between the beats the off-beat falls, as a ratio of the two halves.
double measureSwing(const std::vector<Seconds>& beats, const OnsetStrength& onsets) {
  constexpr std::size_t kBins = 60;
  std::array<double, kBins> profile{};
  for (std::size_t i = 0; i + 1 < beats.size(); ++i)
    for (std::size_t b = 0; b < kBins; ++b) {
      const double t = beats[i].value + (beats[i + 1] - beats[i]).value * static_cast<double>(b) / kBins;
      const auto frame = static_cast<std::size_t>(std::lround(t * onsets.rate));
      if (frame < onsets.all.size()) profile[b] += onsets.all[frame];
    }
  const auto from = profile.begin() + 25, to = profile.begin() + 45;  // 0.42 to 0.75 of the beat
  const auto peak = std::max_element(from, to);
  double weight = 0, place = 0;
  for (auto p = std::max(from, peak - 2); p < std::min(to, peak + 3); ++p)
    weight += *p, place += *p * static_cast<double>(p - profile.begin()) / kBins;
  if (weight <= 0) return 1.0;
  place /= weight;
  const double ratio = place / (1 - place);
  return ratio < 1.18 ? 1.0 : ratio;
}

std::vector<TempoReading> readTempo(const std::vector<Seconds>& beats, const Tempogram& tempogram) {
  std::vector<double> gaps;
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back((beats[i] - beats[i - 1]).value);
  // The mean of the gaps near the median: finer than the frame grid, deaf to a missed beat.
  const double median = medianOf(gaps);
  double sum = 0;
  int count = 0;
  for (const double g : gaps)
    if (std::abs(g - median) < 0.06 * median) sum += g, ++count;
  if (count == 0) return {};
  const double tempo = 60.0 * count / sum;

  const auto strengthAt = [&](double bpm) {
    double best = 0;
    for (std::size_t i = 0; i < tempogram.tempi.size(); ++i)
      if (std::abs(tempogram.tempi[i].value / bpm - 1) < 0.03) best = std::max<double>(best, tempogram.strength[i]);
    return best;
  };
  std::vector<TempoReading> readings{{Bpm(tempo), 0.25 + strengthAt(tempo)}};
  for (const double factor : {2.0, 0.5, 1.5, 2.0 / 3.0})
    if (const double bpm = tempo * factor; bpm >= 40 && bpm <= 240)
      readings.push_back({Bpm(bpm), 0.5 * strengthAt(bpm)});
  std::stable_sort(readings.begin() + 1, readings.end(),
                   [](const auto& a, const auto& b) { return a.certainty > b.certainty; });
  readings.resize(std::min<std::size_t>(readings.size(), kTempoReadings));
  double total = 0;
  for (const auto& r : readings) total += r.certainty;
  for (auto& r : readings) r.certainty /= total;
  return readings;
}

}  // namespace

RhythmFindings measureRhythm(const OnsetStrength& onsets, const NoteActivity& notes, const Progress& progress) {
  RhythmFindings result;
  result.tempogram = measureTempogram(onsets);
  const auto beats = trimSilence(trackBeats(onsets, result.tempogram, progress), onsets);
  if (beats.size() < 4) return result;
  result.tempo = readTempo(beats, result.tempogram);
  result.beats = beats;
  const Bars bars = findBars(downbeatEvidence(beats, onsets, notes));
  result.meter = bars.meter;
  result.meterCertainty = bars.certainty;
  for (std::size_t i = bars.firstDownbeat; i < beats.size(); i += static_cast<std::size_t>(bars.meter))
    result.downbeats.push_back(beats[i]);
  result.swing = measureSwing(beats, onsets);
  return result;
}

}  // namespace ear
