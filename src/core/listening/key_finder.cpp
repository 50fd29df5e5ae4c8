#include "core/listening/key_finder.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ear {
namespace {

constexpr int kChordLow = 45, kChordHigh = 88;  // MIDI
constexpr double kSlice = 0.75;       // seconds over which one chord is looked for
constexpr double kTriadWeight = 0.9;  // against profile correlation
constexpr double kEndWeight = 0.25, kStartWeight = 0.15;
constexpr double kSharpness = 14.0;  // of the soft maximum that turns scores into certainties
constexpr std::size_t kKeys = 24;

Key keyAt(std::size_t i) {
  return {PitchClass(static_cast<int>(i % 12)), i < 12 ? Mode::major : Mode::minor};
}

double correlation(const ChromaVector& chroma, const KeyProfile& profile, int tonic) {
  const double meanA = std::accumulate(chroma.begin(), chroma.end(), 0.0) / 12;
  const double meanB = std::accumulate(profile.begin(), profile.end(), 0.0) / 12;
  double ab = 0, aa = 0, bb = 0;
  for (int d = 0; d < 12; ++d) {
    const double a = chroma[static_cast<std::size_t>((tonic + d) % 12)] - meanA;
    const double b = profile[static_cast<std::size_t>(d)] - meanB;
    ab += a * b, aa += a * a, bb += b * b;
  }
  return aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0.0;
}

/// Where a chord counts among the 12 major and 12 minor triads; nothing for kinds that are neither.
std::optional<std::size_t> triadOf(const FoundChord& c) {
  if (!c.chord || c.chord->type->tones.size() < 3) return std::nullopt;
  const int third = c.chord->type->tones[1], fifth = c.chord->type->tones[2];
  if (fifth != 7 || (third != 3 && third != 4)) return std::nullopt;
  return static_cast<std::size_t>(c.chord->root.value) + (third == 4 ? 0U : 12U);
}

/// Share of the time that each triad stands, of the time that any does.
std::array<double, kKeys> triadShares(const std::vector<FoundChord>& chords) {
  std::array<double, kKeys> shares{};
  double total = 0;
  for (const auto& c : chords)
    if (const auto k = triadOf(c)) shares[*k] += c.span.length().value, total += c.span.length().value;
  if (total > 0)
    for (double& s : shares) s /= total;
  return shares;
}

/// The triad that a sequence ends or starts on.
template <class Iterator>
std::optional<std::size_t> firstTriad(Iterator from, Iterator to) {
  for (; from != to; ++from)
    if (const auto k = triadOf(*from)) return k;
  return std::nullopt;
}

/// How much the chords of a song belong to a key: the tonic triad most, then the degrees that cadence to it.
double triadFit(const std::array<double, kKeys>& shares, const Key& key) {
  const auto share = [&](int degree, Mode mode) {
    return shares[static_cast<std::size_t>((key.tonic.value + degree) % 12) + (mode == Mode::major ? 0U : 12U)];
  };
  constexpr auto M = Mode::major, m = Mode::minor;
  if (key.mode == Mode::major)
    return share(0, M) + 0.62 * share(7, M) + 0.62 * share(5, M) + 0.35 * share(9, m) + 0.3 * share(2, m) +
           0.2 * share(4, m) + 0.35 * share(10, M);
  return share(0, m) + 0.55 * share(5, m) + 0.45 * share(7, m) + 0.5 * share(7, M) + 0.5 * share(8, M) +
         0.5 * share(10, M) + 0.4 * share(3, M);
}

}  // namespace

KeyFindings findKey(const NoteActivity& notes, const std::vector<FoundChord>& chords) {
  KeyFindings result;
  const Seconds end(static_cast<double>(notes.count()) / std::max(notes.rate, 1e-9));
  // The mean of short slices, each scaled to 1: a loud chorus shall not outvote the rest.
  ChromaVector chroma{};
  for (double t = 0; t < end.value; t += kSlice) {
    const auto slice = chromaOf(notes, {Seconds(t), Seconds(t + kSlice)}, kChordLow - 5, kChordHigh);
    for (std::size_t i = 0; i < 12; ++i) chroma[i] += slice[i];
  }
  const float top = *std::max_element(chroma.begin(), chroma.end());
  if (top <= 0) return result;
  for (float& c : chroma) c /= top;
  result.chroma = chroma;

  const auto shares = triadShares(chords);
  const auto last = firstTriad(chords.rbegin(), chords.rend()), first = firstTriad(chords.begin(), chords.end());
  std::array<double, kKeys> score{};
  for (std::size_t i = 0; i < kKeys; ++i) {
    const Key key = keyAt(i);
    for (const auto* profile : {&krumhanslKessler(key.mode), &temperley(key.mode), &albrechtShanahan(key.mode)})
      score[i] += correlation(chroma, *profile, key.tonic.value) / 3;
    score[i] += kTriadWeight * triadFit(shares, key) + (last == i ? kEndWeight : 0.0) + (first == i ? kStartWeight : 0.0);
  }
  const double best = *std::max_element(score.begin(), score.end());
  double sum = 0;
  for (double& s : score) s = std::exp(kSharpness * (s - best)), sum += s;
  for (std::size_t i = 0; i < kKeys; ++i) result.readings.push_back({keyAt(i), score[i] / sum});
  std::stable_sort(result.readings.begin(), result.readings.end(),
                   [](const auto& a, const auto& b) { return a.certainty > b.certainty; });
  result.readings.resize(5);
  return result;
}

}  // namespace ear
