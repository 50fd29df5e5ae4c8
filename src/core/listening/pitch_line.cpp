#include "core/listening/pitch_line.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "core/audio/resample.h"
#include "core/listening/pitch_salience.h"
#include "core/listening/spectra.h"

namespace ear {
namespace {

constexpr double kLowest = PitchSalience::kLowest, kHighest = PitchSalience::kHighest;
constexpr int kBinsPerSemitone = PitchSalience::kBinsPerSemitone, kBins = PitchSalience::kBins;
constexpr int kWindow = 1024, kHop = 220;  // samples at kListeningRate: 46 ms, 10 ms
constexpr int kGlide = 5;                  // bins a frame: a bend of a tone in a twentieth of a second
constexpr double kGlideCost = 0.35;        // of each bin
constexpr double kJumpCost = 9.0, kJumpAtOnset = 2.5, kVoiceCost = 4.0;
constexpr double kAlone = 0.6;      // chance of a period from which one voice sounds alone
constexpr double kSharpness = 6.0;  // how much the strongest pitch stands out
constexpr float kSounding = 0.12F;  // salience of something pitched
constexpr float kStruck = 0.35F;    // onset strength of an attack
constexpr float kRise = 1.3F;       // of the overtones, by an attack of their own
constexpr float kSecond = 0.75F;    // of the first pitch's salience
constexpr std::size_t kSecondFrames = 8;
constexpr double kStep = 0.7;  // semitones between two notes without an attack
constexpr int kShortest = 6;   // frames of a note: what is cut off leaves less behind

struct Candidate {
  double midi;
  double chance;
};

/// Cumulative mean normalised difference (de Cheveigné & Kawahara 2002, eq. 8) for lags up to `longest`.
std::vector<double> difference(const float* samples, int longest) {
  std::vector<double> d(static_cast<std::size_t>(longest) + 1, 1.0);
  double sum = 0;
  for (int lag = 1; lag <= longest; ++lag) {
    float square = 0;
    for (int i = 0; i < kWindow; ++i) {
      const float step = samples[i] - samples[i + lag];
      square += step * step;
    }
    sum += static_cast<double>(square);
    d[static_cast<std::size_t>(lag)] = sum > 0 ? static_cast<double>(square) * lag / sum : 1.0;
  }
  return d;
}

/// Chance of each threshold 0.01, 0.02 ... 1.00: beta distribution with mean 0.1 (alpha 2, beta 18; pYIN).
const std::array<double, 100>& thresholdChances() {
  static const auto chances = [] {
    std::array<double, 100> c{};
    double all = 0;
    for (std::size_t i = 0; i < c.size(); ++i) {
      const double x = (static_cast<double>(i) + 1) / 100;
      all += c[i] = x * std::pow(1 - x, 17);
    }
    for (double& v : c) v /= all;
    return c;
  }();
  return chances;
}

/// Pitches that a frame may have: for each threshold the first dip under it, or with little weight the deepest one.
std::vector<Candidate> candidatesOf(const float* samples) {
  constexpr double kDeepestOnly = 0.01;
  const int longest = static_cast<int>(kListeningRate / (440.0 * std::exp2((kLowest - 69) / 12))) + 2;
  const int shortest = static_cast<int>(kListeningRate / (440.0 * std::exp2((kHighest - 69) / 12)));
  const auto d = difference(samples, longest);
  std::vector<Candidate> candidates;
  std::vector<double> depths;
  for (int lag = shortest; lag < longest; ++lag) {
    const auto i = static_cast<std::size_t>(lag);
    if (d[i] > d[i - 1] || d[i] >= d[i + 1]) continue;
    const double bend = d[i - 1] - 2 * d[i] + d[i + 1];
    const double exact = lag + (bend > 0 ? 0.5 * (d[i - 1] - d[i + 1]) / bend : 0.0);
    candidates.push_back({69 + 12 * std::log2(kListeningRate / exact / 440.0), 0.0});
    depths.push_back(d[i]);
  }
  if (candidates.empty()) return candidates;
  const auto deepest = static_cast<std::size_t>(std::min_element(depths.begin(), depths.end()) - depths.begin());
  for (std::size_t t = 0; t < 100; ++t) {
    const double threshold = (static_cast<double>(t) + 1) / 100;
    std::size_t first = 0;
    while (first < depths.size() && depths[first] >= threshold) ++first;
    const double chance = thresholdChances()[t];
    if (first < depths.size())
      candidates[first].chance += chance;
    else
      candidates[deepest].chance += chance * kDeepestOnly;
  }
  return candidates;
}

/// The strongest other pitch, where it is nearly as strong and no overtone or undertone of the first.
std::optional<MidiPitch> secondPitch(std::span<const float> support, std::size_t first) {
  float best = kSecond * support[first];
  std::optional<MidiPitch> second;
  for (std::size_t b = 1; b + 1 < support.size(); ++b) {
    if (support[b] < support[b - 1] || support[b] < support[b + 1] || support[b] < best) continue;
    const double apart = std::abs(static_cast<double>(b) - static_cast<double>(first)) / kBinsPerSemitone;
    bool related = apart < 1.5;
    for (int h = 2; h <= 6; ++h) related = related || std::abs(apart - 12 * std::log2(h)) < 0.5;
    if (related) continue;
    best = support[b];
    second = MidiPitch(kLowest + static_cast<double>(b) / kBinsPerSemitone);
  }
  return second;
}

}  // namespace

PitchLine measurePitchLine(const Recording& passage, const OnsetStrength& onsets, const Progress& progress) {
  PitchLine line{static_cast<double>(kListeningRate) / kHop, {}};
  auto mono = resample(mixToMono(passage), passage.sampleRate, kListeningRate);
  const std::size_t frames = mono.size() / kHop + 1;
  const PitchSalience salience = measureSalience(mono, progress);
  if (progress.cancelled()) return line;
  constexpr int kLongestFrame = kWindow + 512;
  mono.insert(mono.begin(), kLongestFrame / 2, 0.0F);
  mono.insert(mono.end(), kLongestFrame, 0.0F);
  float loudest = 0;
  for (const float s : mono) loudest = std::max(loudest, std::abs(s));

  // Viterbi over pitch bins and silence (the last state).
  constexpr auto kStates = static_cast<std::size_t>(kBins) + 1;
  std::vector<double> score(kStates, 0.0), next(kStates);
  std::vector<std::uint16_t> from(frames * kStates);
  std::vector<std::vector<Candidate>> heard(frames);
  std::vector<char> alone(frames, 0);
  for (std::size_t t = 0; t < frames; ++t) {
    if (t % 64 == 0 && progress.cancelled()) return line;
    const float* frame = mono.data() + t * kHop;
    float top = 0;
    for (int i = 0; i < kLongestFrame; ++i) top = std::max(top, std::abs(frame[i]));
    if (top > 0.01F * loudest) heard[t] = candidatesOf(frame);
    double voiced = 0;
    std::vector<double> chance(kStates, 0.0);
    for (const auto& c : heard[t]) {
      voiced += c.chance;
      const double place = (c.midi - kLowest) * kBinsPerSemitone;
      const auto bin = static_cast<int>(std::lround(place));
      for (int b = std::max(0, bin - 1); b <= std::min(kBins - 1, bin + 1); ++b)
        chance[static_cast<std::size_t>(b)] += c.chance * (b == bin ? 0.6 : 0.2);
    }
    // Among other voices nothing repeats as a whole: the overtones speak then, the more the less is periodic.
    alone[t] = voiced >= kAlone ? 1 : 0;
    if (alone[t] == 0 && top > 0.01F * loudest) {
      const double left = kAlone - voiced;
      const auto support = salience.frame(t);
      const float most = *std::max_element(support.begin(), support.end());
      for (std::size_t b = 1; b + 1 < support.size(); ++b) {
        if (support[b] < support[b - 1] || support[b] < support[b + 1]) continue;
        const double share = std::pow(static_cast<double>(support[b] / most), kSharpness);
        for (std::size_t k = b - 1; k <= b + 1; ++k) chance[k] += left * share * (k == b ? 0.6 : 0.2);
        heard[t].push_back({kLowest + static_cast<double>(b) / kBinsPerSemitone, left * share});
      }
      if (most > kSounding) voiced += left;
    }
    const float onset = t < onsets.all.size() ? onsets.all[t] : 0.0F;
    const double jump = kJumpCost - (kJumpCost - kJumpAtOnset) * std::min(1.0, static_cast<double>(onset) / 0.6);
    const auto bestPitch = static_cast<std::size_t>(std::max_element(score.begin(), score.end() - 1) - score.begin());
    for (std::size_t s = 0; s < kStates; ++s) {
      double best = score[s];
      std::size_t origin = s;
      if (s + 1 < kStates) {
        const auto bin = static_cast<int>(s);
        for (int b = std::max(0, bin - kGlide); b <= std::min(kBins - 1, bin + kGlide); ++b)
          if (const double v = score[static_cast<std::size_t>(b)] - kGlideCost * std::abs(b - bin); v > best)
            best = v, origin = static_cast<std::size_t>(b);
        if (const double v = score[bestPitch] - jump; v > best) best = v, origin = bestPitch;
        if (const double v = score[kStates - 1] - kVoiceCost; v > best) best = v, origin = kStates - 1;
      } else if (const double v = score[bestPitch] - kVoiceCost; v > best) {
        best = v, origin = bestPitch;
      }
      const double likelihood = s + 1 < kStates ? 0.99 * chance[s] : std::max(0.02, 1 - voiced) * 0.25;
      next[s] = best + std::log(likelihood + 1e-4);
      from[t * kStates + s] = static_cast<std::uint16_t>(origin);
    }
    std::swap(score, next);
  }
  auto state = static_cast<std::size_t>(std::max_element(score.begin(), score.end()) - score.begin());
  line.points.resize(frames);
  for (std::size_t t = frames; t-- > 0;) {
    if (state + 1 < kStates) {
      // The candidate nearest to the bin has the exact pitch.
      const double about = kLowest + static_cast<double>(state) / kBinsPerSemitone;
      PitchLine::Point point{MidiPitch(about), 0.1F};
      double nearest = 0.35;
      for (const auto& c : heard[t])
        if (const double off = std::abs(c.midi - about); off < nearest)
          nearest = off, point = {MidiPitch(c.midi), static_cast<float>(std::clamp(c.chance, 0.05, 1.0))};
      point.level = salience.level[t * PitchSalience::kBins + state];
      point.alone = alone[t] != 0;
      if (!point.alone) point.second = secondPitch(salience.frame(t), state);
      line.points[t] = point;
    }
    state = from[t * kStates + state];
  }
  return line;
}

std::vector<HeardNote> findNotes(const PitchLine& line, const OnsetStrength& onsets) {
  const std::size_t n = line.points.size();
  std::vector<char> cut(n + 1, 0);  // 1 struck, 2 stepped
  const auto& strength = onsets.all;
  for (std::size_t i = 1; i + 1 < std::min(n, strength.size()); ++i)
    if (strength[i] >= kStruck && strength[i] >= strength[i - 1] && strength[i] > strength[i + 1]) cut[i] = 1;
  // Steps: the median of the next frames against that of the frames before, reached within a few frames.
  const auto median = [&](std::size_t a, std::size_t b) -> std::optional<double> {
    std::vector<double> values;
    for (std::size_t k = a; k < std::min(b, n); ++k)
      if (line.points[k].pitch) values.push_back(line.points[k].pitch->value);
    if (values.size() < (b - a) / 2 + 1) return std::nullopt;
    std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2), values.end());
    return values[values.size() / 2];
  };
  for (std::size_t i = 4; i + 4 < n; ++i) {
    const auto before = median(i - 4, i - 1), after = median(i + 1, i + 5);
    if (!before || !after || std::abs(*after - *before) < kStep) continue;
    // The middle of the step, once: where the two neighbours differ most near by.
    std::size_t place = i;
    double most = 0;
    for (std::size_t k = i - 2; k <= i + 2; ++k)
      if (line.points[k].pitch && line.points[k - 1].pitch)
        if (const double change = std::abs(line.points[k].pitch->value - line.points[k - 1].pitch->value);
            change > most)
          most = change, place = k;
    if (most < 0.45) continue;  // a bend glides
    bool near = false;
    for (std::size_t k = place >= 5 ? place - 5 : 0; k <= std::min(n - 1, place + 4); ++k) near = near || cut[k] != 0;
    if (!near) cut[place] = 2;
  }
  // A drum or another instrument strikes too: among others a note starts where its own overtones rise or it is another.
  for (std::size_t i = 6; i + 8 < n; ++i) {
    if (cut[i] != 1) continue;
    const auto before = median(i - 5, i - 1), after = median(i + 2, i + 7);
    if (!before || !after || std::abs(*after - *before) >= kStep) continue;
    int together = 0;
    for (std::size_t k = i - 5; k < i + 7; ++k) together += line.points[k].pitch && !line.points[k].alone ? 1 : 0;
    if (together < 4) continue;
    float was = 0, is = 0;
    for (std::size_t k = i - 6; k < i - 2; ++k) was = std::max(was, line.points[k].level);
    for (std::size_t k = i; k < i + 7; ++k) is = std::max(is, line.points[k].level);
    if (is < kRise * was) cut[i] = 0;
  }
  std::vector<HeardNote> notes;
  for (std::size_t i = 0; i < n;) {
    const bool start = cut[i] != 0 || (line.points[i].pitch && (i == 0 || !line.points[i - 1].pitch));
    if (!start) {
      ++i;
      continue;
    }
    std::size_t end = i + 1;
    std::size_t quiet = 0;
    while (end < n && cut[end] == 0 && quiet < 4) {
      quiet = line.points[end].pitch ? 0 : quiet + 1;
      ++end;
    }
    const std::size_t last = end - quiet;
    std::vector<double> early;
    float certainty = 0;
    for (std::size_t k = i + 2; k < std::min(last, i + 10); ++k)
      if (line.points[k].pitch) {
        early.push_back(line.points[k].pitch->value);
        certainty = std::max(certainty, line.points[k].certainty);
      }
    if (last >= i + kShortest && !early.empty()) {
      std::nth_element(early.begin(), early.begin() + static_cast<std::ptrdiff_t>(early.size() / 2), early.end());
      notes.push_back({{Seconds(static_cast<double>(i) / line.rate), Seconds(static_cast<double>(last) / line.rate)},
                       MidiPitch(early[early.size() / 2]),
                       certainty});
      std::vector<double> others;
      for (std::size_t k = i + 2; k < std::min(last, i + 12); ++k)
        if (line.points[k].second) others.push_back(line.points[k].second->value);
      std::sort(others.begin(), others.end());
      if (others.size() >= kSecondFrames) {
        const double other = others[others.size() / 2];
        const auto near =
            std::count_if(others.begin(), others.end(), [&](double o) { return std::abs(o - other) < 0.5; });
        if (static_cast<std::size_t>(near) >= kSecondFrames)
          notes.push_back({notes.back().span, MidiPitch(other), certainty});
      }
    }
    i = std::max(end, i + 1);
  }
  return notes;
}

std::vector<HeardNote> hearNotes(const Recording& passage, const Progress& progress) {
  const auto mono = resample(mixToMono(passage), passage.sampleRate, kListeningRate);
  const auto onsets = measureOnsets(measureBandFrames(mono, progress));
  return findNotes(measurePitchLine(passage, onsets, progress), onsets);
}

}  // namespace ear
