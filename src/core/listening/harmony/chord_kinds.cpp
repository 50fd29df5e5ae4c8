// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/chord_kinds.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/listening/harmony/chord_kind_weights.h"

namespace ear {
namespace {

constexpr double kAfterChange = 0.05;           // seconds that the old chord still rings
constexpr float kSounds = 0.5F;                 // probability
constexpr std::size_t kToldKinds = 14;          // of kHeardKinds, told by templates
constexpr int kChordLow = 45, kChordHigh = 84;  // MIDI of all that sounds
constexpr std::size_t kFewestFrames = 2;        // in which a guitar sounds, to tell anything
constexpr double kLongest = 4.0;                // seconds that a chord counts for among others of its root

/// Where the signs of each sort begin.
enum Block : std::size_t { kMean = 0, kTop = 12, kLowest = 24, kSongMean = 36, kSongTop = 48, kAll = 60, kTold = 72 };
constexpr std::size_t kOne = kTold + kToldKinds;
static_assert(kOne + 1 == KindSigns::kSigns);

std::size_t semitone(std::size_t note, PitchClass root) {
  return static_cast<std::size_t>(
      PitchClass(GuitarActivations::kLowestMidi + static_cast<int>(note) - root.value).value);
}

/// The ninths, from here on in kHeardKinds, and the kinds that they are without their ninth.
constexpr std::size_t kFirstNinth = 14;
constexpr std::array<std::size_t, kHeardKinds.size() - kFirstNinth> kWithoutNinth = {3, 5, 4, 0};

/// What stands on the root, by kind: kinds of one letter have it in common, so that many of them are not outdone by one
/// that none of them is. M and m: the third; p: none; s, f: second or fourth instead; d: with a diminished fifth; a.
constexpr std::string_view kFamily = "MmpMMmMmsfdddaMmMM";
static_assert(kFamily.size() == kHeardKinds.size());

/// The likeliest kind and how likely it is: its family first, then the kind with or without its ninth, then whether the
/// ninth sounds. Without the ninth it is as sure as both.
std::pair<std::size_t, double> likeliest(const std::array<double, kHeardKinds.size()>& odds) {
  std::map<char, double> families;
  for (std::size_t k = 0; k < odds.size(); ++k) families[kFamily[k]] += odds[k];
  const char family = std::max_element(families.begin(), families.end(), [](const auto& a, const auto& b) {
                        return a.second < b.second;
                      })->first;
  auto together = odds;
  for (std::size_t n = kFirstNinth; n < odds.size(); ++n) together[kWithoutNinth[n - kFirstNinth]] += odds[n];
  std::size_t best = kFamily.find(family);
  for (std::size_t k = 0; k < kFirstNinth; ++k)
    if (kFamily[k] == family && together[k] > together[best]) best = k;
  for (std::size_t n = kFirstNinth; n < odds.size(); ++n)
    if (kWithoutNinth[n - kFirstNinth] == best && odds[n] > odds[best]) return {n, odds[n]};
  return {best, together[best]};
}

/// Which kind was told; nothing where no other one comes into question.
std::optional<std::size_t> toldKind(const FoundChord& c) {
  if (!c.chord) return std::nullopt;
  const auto end = kHeardKinds.begin() + kToldKinds;
  const auto at = std::find(kHeardKinds.begin(), end, c.chord->type->symbol);
  const bool walking = c.chord->bass && *c.chord->bass == PitchClass(c.chord->root.value + 10);
  return at == end || walking ? std::nullopt : std::optional(static_cast<std::size_t>(at - kHeardKinds.begin()));
}

/// Adds what guitars sound in a span. @return in how much of it they do
double addGuitar(KindSigns& signs, TimeSpan span, PitchClass root, const GuitarActivations& guitar) {
  const auto from = static_cast<std::size_t>(std::ceil(guitar.clock.placeOf(span.start + Seconds(kAfterChange))));
  const std::size_t to = std::min(guitar.count(), guitar.clock.frameBefore(span.end));
  std::size_t frames = 0;
  std::array<float, 12> mean{}, top{}, lowest{};
  for (std::size_t i = from; i < to; ++i) {
    const auto now = guitar.soundingAt(i);
    const auto low = std::find_if(now.begin(), now.end(), [](float p) { return p > kSounds; });
    if (low == now.end()) continue;
    ++frames;
    std::array<float, 12> classes{};
    for (std::size_t n = 0; n < now.size(); ++n)
      classes[semitone(n, root)] = std::max(classes[semitone(n, root)], now[n]);
    for (std::size_t s = 0; s < 12; ++s) mean[s] += classes[s], top[s] = std::max(top[s], classes[s]);
    lowest[semitone(static_cast<std::size_t>(low - now.begin()), root)] += 1;
  }
  if (frames < kFewestFrames) return 0.0;
  for (std::size_t s = 0; s < 12; ++s) {
    signs.of[kMean + s] = mean[s] / static_cast<float>(frames);
    signs.of[kTop + s] = top[s];
    signs.of[kLowest + s] = lowest[s] / static_cast<float>(frames);
  }
  return static_cast<double>(frames) / static_cast<double>(to - from);
}

/// The mean of what is told of all stretches with a root, weighed by how long guitars sound in them.
void addSong(std::vector<std::optional<KindSigns>>& all, const std::vector<FoundChord>& chords,
             const std::vector<double>& seconds) {
  std::map<int, std::pair<double, std::array<double, 24>>> songs;
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (!all[i]) continue;
    auto& [weight, sum] = songs[chords[i].chord->root.value];
    weight += seconds[i];
    for (std::size_t s = 0; s < 24; ++s) sum[s] += seconds[i] * static_cast<double>(all[i]->of[kMean + s]);
  }
  for (std::size_t i = 0; i < all.size(); ++i) {
    if (!all[i]) continue;
    const auto& [weight, sum] = songs.at(chords[i].chord->root.value);
    for (std::size_t s = 0; s < 24; ++s) all[i]->of[kSongMean + s] = static_cast<float>(sum[s] / weight);
  }
}

using KindOdds = std::array<double, kHeardKinds.size()>;

void normalise(KindOdds& logs) {
  const double top = *std::max_element(logs.begin(), logs.end());
  double sum = 0;
  for (double& o : logs) sum += o = std::exp(o - top);
  for (double& o : logs) o /= sum;
}

/// A song has most of its chords on a root in one kind: each one's odds and the mean of the others', in equal parts
/// (of their logarithms).
void weighTogether(std::vector<std::optional<KindOdds>>& odds, const std::vector<FoundChord>& chords) {
  constexpr double kOpen = 1e-3, kFew = 2.0;  // no one rules a kind out for all; seconds that say all they can
  const auto logOf = [](double p) { return std::log(p + kOpen); };
  const auto weightOf = [&](std::size_t i) { return std::min(kLongest, chords[i].span.length().value); };
  std::map<int, std::pair<double, KindOdds>> sums;
  for (std::size_t i = 0; i < odds.size(); ++i) {
    if (!odds[i]) continue;
    auto& [weight, sum] = sums[chords[i].chord->root.value];
    weight += weightOf(i);
    for (std::size_t k = 0; k < sum.size(); ++k) sum[k] += weightOf(i) * logOf((*odds[i])[k]);
  }
  for (std::size_t i = 0; i < odds.size(); ++i) {
    if (!odds[i]) continue;
    const auto& [all, sum] = sums.at(chords[i].chord->root.value);
    const double own = weightOf(i), others = all - own;
    if (others <= 0) continue;
    for (std::size_t k = 0; k < sum.size(); ++k) {
      double& p = (*odds[i])[k];
      p = 0.5 * (logOf(p) + (sum[k] - own * logOf(p)) / std::max(others, kFew));
    }
    normalise(*odds[i]);
  }
}

}  // namespace

std::vector<std::optional<KindSigns>> kindSignsOf(const std::vector<FoundChord>& chords,
                                                  const GuitarActivations& guitar, const NoteActivations& notes) {
  constexpr double kSilent = 1e-3;  // what a stretch without guitars counts for
  std::vector<std::optional<KindSigns>> all;
  std::vector<double> seconds;
  for (const FoundChord& c : chords) {
    all.emplace_back();
    seconds.push_back(0.0);
    const auto told = toldKind(c);
    if (!told) continue;
    KindSigns& signs = all.back().emplace();
    const double share = addGuitar(signs, c.span, c.chord->root, guitar);
    seconds.back() = c.span.length().value * (share + kSilent);
    const ChromaVector chroma = chromaOf(notes, c.span, kChordLow, kChordHigh);
    for (std::size_t s = 0; s < 12; ++s)
      signs.of[kAll + s] = chroma[(static_cast<std::size_t>(c.chord->root.value) + s) % 12];
    signs.of[kTold + *told] = 1;
    signs.of[kOne] = 1;
  }
  addSong(all, chords, seconds);
  return all;
}

std::array<double, kHeardKinds.size()> kindOdds(const KindSigns& signs, bool phrase) {
  const ChordKindWeights& weights = phrase ? kKindWeightsOfPhrases : kKindWeightsOfSongs;
  KindOdds odds{};
  for (std::size_t s = 0; s < KindSigns::kSigns; ++s)
    for (std::size_t k = 0; k < odds.size(); ++k)
      odds[k] += static_cast<double>(signs.of[s]) * static_cast<double>(weights[s][k]);
  normalise(odds);
  return odds;
}

std::vector<FoundChord> withKindsByGuitar(const std::vector<FoundChord>& chords, const GuitarActivations& guitar,
                                          const NoteActivations& notes, bool phrase) {
  std::vector<std::optional<KindOdds>> odds;
  for (const auto& signs : kindSignsOf(chords, guitar, notes))
    odds.push_back(signs ? std::optional(kindOdds(*signs, phrase)) : std::nullopt);
  weighTogether(odds, chords);
  std::vector<FoundChord> told;
  for (std::size_t i = 0; i < chords.size(); ++i) {
    FoundChord c = chords[i];
    if (odds[i]) {
      const auto [kind, certainty] = likeliest(*odds[i]);
      c.chord->type = chordType(kHeardKinds[kind]);
      c.kindCertainty = certainty;
    }
    if (!told.empty() && told.back().chord && told.back().chord == c.chord) {
      FoundChord& before = told.back();
      const double all = (before.span.length() + c.span.length()).value;
      const auto joined = [&](double a, double b) {
        return (a * before.span.length().value + b * c.span.length().value) / all;
      };
      before.certainty = joined(before.certainty, c.certainty);
      before.kindCertainty = joined(before.kindCertainty, c.kindCertainty);
      before.span.end = c.span.end;
    } else {
      told.push_back(c);
    }
  }
  return told;
}

}  // namespace ear
