// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/key_finder.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/parameter.h"
#include "core/signal/viterbi.h"

namespace ear {
namespace {

constexpr int kChordLow = 45, kChordHigh = 88;  // MIDI

struct Parameters {
  double slice = parameter("keyFinder.slice", 0.75, "s");            ///< over which one chord is looked for
  double triadWeight = parameter("keyFinder.triadWeight", 1.3, "");  ///< against profile correlation
  double strange = parameter("keyFinder.strange", 0.3, "");   ///< for the share of chords that belong to another key
  double leading = parameter("keyFinder.leading", 0.12, "");  ///< for a minor key whose dominant is heard
  double enoughLeading = parameter("keyFinder.enoughLeading", 0.02, "share of time");  ///< of the dominant
  double endWeight = parameter("keyFinder.endWeight", 0.25, "");                       ///< of the last chord
  double startWeight = parameter("keyFinder.startWeight", 0.25, "");                   ///< of the first chord
  double phrase = parameter("keyFinder.phrase", 15.0, "s");  ///< up to which a recording is none but a phrase
  double sharpness =
      parameter("keyFinder.sharpness", 14.0, "");  ///< of the soft maximum that turns scores into certainties
  double change = parameter("keyFinder.change", 14.0, "log weight");  ///< of a change of key
  /// of a change to the relative key, whose chords are the same
  double toRelative = parameter("keyFinder.toRelative", 24.0, "log weight");
  /// of a chord outside of the key
  double strangeChord = parameter("keyFinder.strangeChord", -0.8, "log weight a second");
};
const Parameters kPar{};

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

/// How well a triad belongs to a key, the tonic's most, then those of the degrees that cadence to it; 0: it is strange
/// to the key. Weights are common practice, no source.
double degreeWeight(const Key& key, std::size_t triad) {
  constexpr auto major = Mode::major, minor = Mode::minor;
  struct Degree {
    int semitones;
    Mode mode;
    double weight;
  };
  static constexpr std::array kOfMajor = {Degree{0, major, 1.0},  Degree{7, major, 0.62}, Degree{5, major, 0.62},
                                          Degree{9, minor, 0.35}, Degree{2, minor, 0.3},  Degree{4, minor, 0.2},
                                          Degree{10, major, 0.35}};
  static constexpr std::array kOfMinor = {Degree{0, minor, 1.0}, Degree{5, minor, 0.55}, Degree{7, minor, 0.45},
                                          Degree{7, major, 0.5}, Degree{8, major, 0.5},  Degree{10, major, 0.5},
                                          Degree{3, major, 0.4}};
  const Key chord = keyAt(triad);
  for (const Degree& d : key.mode == major ? kOfMajor : kOfMinor)
    if (d.mode == chord.mode && (key.tonic.value + d.semitones) % 12 == chord.tonic.value) return d.weight;
  return 0.0;
}

/// How much the chords of a song belong to a key; strange ones count against it.
double triadFit(const std::array<double, kKeys>& shares, const Key& key) {
  double fit = 0, inside = 0;
  for (std::size_t i = 0; i < kKeys; ++i) {
    const double weight = degreeWeight(key, i);
    fit += weight * shares[i];
    if (weight > 0) inside += shares[i];
  }
  const double all = std::accumulate(shares.begin(), shares.end(), 0.0);
  // The major triad on the fifth degree leads to a minor tonic and stands in no other key of the same signature.
  const double leading = shares[static_cast<std::size_t>((key.tonic.value + 7) % 12)];
  return fit - kPar.strange * (all - inside) +
         (key.mode == Mode::minor ? kPar.leading * std::min(1.0, leading / kPar.enoughLeading) : 0.0);
}

/// A key holds; another one is dear, and the relative one, whose notes are the same, is dearer.
class ModulationModel {
 public:
  ModulationModel(const std::vector<FoundChord>& chords, const Key& home) : chords_(chords), home_(home) {
    for (std::size_t from = 0; from < kKeys; ++from)
      for (std::size_t to = 0; to < kKeys; ++to) cost_[from][to] = costOf(from, to);
  }

  double start(std::size_t key) const { return keyAt(key) == home_ ? kPar.change : 0.0; }
  void enter(std::size_t i, std::span<const double>) {
    triad_ = triadOf(chords_[i]);
    length_ = chords_[i].span.length().value;
  }
  template <class Come>
  void ways(std::size_t to, Come&& come) const {
    come(to, 0.0);
    for (std::size_t from = 0; from < kKeys; ++from) come(from, cost_[from][to]);
  }
  double gain(std::size_t key) const {
    if (!triad_) return 0.0;
    const double weight = degreeWeight(keyAt(key), *triad_);
    return length_ * (weight > 0 ? weight : kPar.strangeChord);
  }

 private:
  // In seconds of a tonic chord.

  static double costOf(std::size_t from, std::size_t to) {
    if (from == to) return 0.0;
    const Key a = keyAt(from), b = keyAt(to);
    const Key &minor = a.mode == Mode::minor ? a : b, &major = a.mode == Mode::minor ? b : a;
    const bool relative = a.mode != b.mode && PitchClass(minor.tonic.value + 3) == major.tonic;
    return relative ? kPar.toRelative : kPar.change;
  }

  const std::vector<FoundChord>& chords_;
  Key home_;
  std::array<std::array<double, kKeys>, kKeys> cost_{};
  std::optional<std::size_t> triad_;
  double length_ = 0.0;
};

}  // namespace

KeyFindings findKey(const NoteActivations& notes, const std::vector<FoundChord>& chords, const KeySigns& signs) {
  KeyFindings result;
  const Seconds end(static_cast<double>(notes.count()) / std::max(notes.clock.rate, 1e-9));
  // The mean of short slices, each scaled to 1: a loud chorus shall not outvote the rest.
  ChromaVector chroma{};
  for (double t = 0; t < end.value; t += kPar.slice) {
    const auto slice = chromaOf(notes, {Seconds(t), Seconds(t + kPar.slice)}, kChordLow - 5, kChordHigh);
    for (std::size_t i = 0; i < 12; ++i) chroma[i] += slice[i];
  }
  const float top = *std::max_element(chroma.begin(), chroma.end());
  if (top <= 0) return result;
  for (float& c : chroma) c /= top;
  result.chroma = chroma;

  const auto shares = triadShares(chords);
  const auto last = firstTriad(chords.rbegin(), chords.rend()), first = firstTriad(chords.begin(), chords.end());
  // A phrase has no cadences to go by.
  const double song = std::clamp((end.value - kPar.phrase) / (kSong.value - kPar.phrase), 0.0, 1.0);
  const auto ofPhrase = phraseKeyWeights(signs);
  std::array<double, kKeys> score{};
  for (std::size_t i = 0; i < kKeys; ++i) {
    const Key key = keyAt(i);
    double profiles = 0;
    for (const auto* profile : {&krumhanslKessler(key.mode), &temperley(key.mode), &albrechtShanahan(key.mode)})
      profiles += correlation(chroma, *profile, key.tonic.value) / 3;
    const double ofSong = profiles + kPar.triadWeight * triadFit(shares, key) + (last == i ? kPar.endWeight : 0.0) +
                          (first == i ? kPar.startWeight : 0.0);
    score[i] = song * kPar.sharpness * ofSong + (1 - song) * ofPhrase[i];
  }
  const double best = *std::max_element(score.begin(), score.end());
  double sum = 0;
  for (double& s : score) s = std::exp(s - best), sum += s;
  for (std::size_t i = 0; i < kKeys; ++i) result.readings.push_back({keyAt(i), score[i] / sum});
  std::stable_sort(result.readings.begin(), result.readings.end(),
                   [](const auto& a, const auto& b) { return a.certainty > b.certainty; });
  result.readings.resize(5);
  return result;
}

std::vector<KeyChange> findKeyChanges(const std::vector<FoundChord>& chords, const Key& home) {
  constexpr double kLeast = 15.0;  // seconds that a key must hold
  const auto path = likeliestPath(chords.size(), kKeys, ModulationModel(chords, home));
  std::vector<KeyChange> changes;
  for (std::size_t i = 1; i < path.size(); ++i) {
    if (path[i] == path[i - 1]) continue;
    std::size_t end = i;
    while (end < path.size() && path[end] == path[i]) ++end;
    const Seconds holds = chords[end - 1].span.end - chords[i].span.start;
    if (holds >= Seconds(kLeast)) changes.push_back({chords[i].span.start, keyAt(path[i])});
  }
  return changes;
}

}  // namespace ear
