// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/metre.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>
#include <span>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/rhythm/beat_profile.h"
#include "core/listening/rhythm/downbeats.h"

namespace ear {
namespace {

struct Parameters {
  double fastest = parameter("metre.fastest", 225.0, "beats a minute");  ///< that anyone counts
  /// Of songs in four of two sources none is counted faster: beats are not doubled to more, and halved above it.
  double fastestInFour = parameter("metre.fastestInFour", 192.0, "beats a minute");
  /// Bars of six are of eighths, which in no song of two sources are slower.
  double slowestEighths = parameter("metre.slowestEighths", 128.0, "beats a minute");
  /// Beats that are divided in two are counted at twice this: no song of two sources is slower that has such beats.
  double slowest = parameter("metre.slowest", 58.0, "beats a minute");
  /// near the median length, from which the tempo is one
  double oneTempo = parameter("metre.oneTempo", 0.88, "share of the beats");
  double wandering = parameter("metre.wandering", 1.2, "ratio");
  double steady = parameter("metre.steady", 1.06, "ratio");                 ///< range of a tempo, as a factor
  double beginsToo = parameter("metre.beginsToo", 0.4, "of the evidence");  ///< of a bar's first beat
  /// what a bar of another length costs, in deviations of the evidence
  double metreChange = parameter("metre.metreChange", 7.0, "deviations");
  double nearHalf = parameter("metre.nearHalf", 0.025, "s");  ///< within which a stroke is that of half a beat
  /// over the second best metre, from which it is certain
  double certainBy = parameter("metre.certainBy", 1.2, "deviations");
  double oneGap = parameter("metre.oneGap", 0.2, "of the gap");  ///< within which gaps are one tempo
  /// of half or twice the length: there is another tempo
  double otherTempo = parameter("metre.otherTempo", 0.1, "share of the gaps");
  /// by which bars between the beats must be clearer
  double clearlyOff = parameter("metre.clearlyOff", 0.5, "deviations");
  double leastGap = parameter("metre.leastGap", 0.75, "of the gap");  ///< between two beats where a stretch is moved
  double steadyGap = parameter("metre.steadyGap", 0.1, "of the gap");
  double steadyShare = parameter("metre.steadyShare", 0.9, "share of the gaps");  ///< that are steady around a slip
  double slip = parameter("metre.slip", 0.12, "beats");              ///< within which a run is half a beat off
  double third = parameter("metre.third", 0.3, "of the beat");       ///< from which thirds are played
  double alike = parameter("metre.alike", 0.75, "of the beat");      ///< from which thirds are as strong as beats
  double half = parameter("metre.half", 0.35, "of the beat");        ///< from which a back beat may lie between
  double divides = parameter("metre.divides", 0.12, "of the beat");  ///< under which nothing divides it
  /// from which beats that nothing divides are halves
  double brisk = parameter("metre.brisk", 112.0, "beats a minute");
};
const Parameters kPar{};

/// Mean of every `step`-th value from `first` on.
double meanOfEvery(const std::vector<double>& values, std::size_t first, std::size_t step) {
  double sum = 0;
  int count = 0;
  for (std::size_t i = first; i < values.size(); i += step) sum += values[i], ++count;
  return count > 0 ? sum / count : -1e9;
}

struct Phase {
  int meter = 4;
  std::size_t first = 0;
  double certainty = 0.0;
};

/// The metre and phase whose first beats stand out most from the others.
/// @param metres  those that may be, with a preference in deviations of the evidence
Phase findPhase(const std::vector<double>& evidence, std::span<const std::pair<int, double>> metres) {
  Phase best;
  double top = -1e9, second = -1e9;
  for (const auto& [meter, prior] : metres)
    for (std::size_t phase = 0; phase < static_cast<std::size_t>(meter); ++phase) {
      const double score = meanOfEvery(evidence, phase, static_cast<std::size_t>(meter)) + prior;
      if (score > top)
        second = top, top = score, best = {meter, phase, 0.0};
      else
        second = std::max(second, score);
    }
  best.certainty = std::clamp((top - second) / kPar.certainBy, 0.0, 1.0);
  return best;
}

/// Things begin half-way through the bar nearly as they do at its start: it is two bars.
bool halfBarBegins(const std::vector<double>& evidence, const Phase& phase) {
  const auto meter = static_cast<std::size_t>(phase.meter);
  return meanOfEvery(evidence, (phase.first + meter / 2) % meter, meter) >
         kPar.beginsToo * meanOfEvery(evidence, phase.first, meter);
}

constexpr std::array<std::pair<int, double>, 3> kCounted = {{{4, 0.35}, {3, 0.0}, {6, -0.05}}};
constexpr std::array<std::pair<int, double>, 2> kGroupsOfThree = {{{2, 0.35}, {4, 0.0}}};

std::vector<double> gapsOf(const std::vector<Seconds>& beats) {
  std::vector<double> gaps;
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back((beats[i] - beats[i - 1]).value);
  return gaps;
}

double tempoOf(const std::vector<Seconds>& beats) {
  return 60.0 * static_cast<double>(beats.size() - 1) / (beats.back() - beats.front()).value;
}

/// Each beat cut into so many.
std::vector<Seconds> divided(const std::vector<Seconds>& beats, int parts) {
  std::vector<Seconds> finer;
  for (std::size_t i = 0; i + 1 < beats.size(); ++i)
    for (int p = 0; p < parts; ++p)
      finer.push_back(beats[i] + (beats[i + 1] - beats[i]) * (p / static_cast<double>(parts)));
  finer.push_back(beats.back());
  return finer;
}

/// Share of the beats that lie on one of the others, within an eighth of their distance.
double shareOn(const std::vector<Seconds>& beats, const std::vector<Seconds>& others) {
  std::size_t on = 0;
  for (const Seconds b : beats) {
    const auto after = std::lower_bound(others.begin(), others.end(), b);
    double nearest = 1e9, distance = 1.0;
    if (after != others.end()) nearest = (*after - b).value;
    if (after != others.begin()) nearest = std::min(nearest, (b - *(after - 1)).value);
    if (after != others.end() && after != others.begin()) distance = (*after - *(after - 1)).value;
    if (nearest < distance / 8) ++on;
  }
  return static_cast<double>(on) / static_cast<double>(std::max<std::size_t>(1, beats.size()));
}

/// Beats tracked anew at another level, on the phase of those before: off-beats that are struck as strongly could have
/// been taken instead.
std::vector<Seconds> onPhaseOf(const std::vector<Seconds>& before, std::vector<Seconds> anew) {
  if (anew.size() < 2) return anew;
  std::vector<Seconds> between;
  for (std::size_t i = 0; i + 1 < anew.size(); ++i) between.push_back(anew[i] + (anew[i + 1] - anew[i]) * 0.5);
  return shareOn(before, between) > shareOn(before, anew) ? between : anew;
}

/// Every second beat: those on which a bar of four of them begins most clearly.
std::vector<Seconds> halved(const std::vector<Seconds>& beats, const std::vector<double>& evidence) {
  constexpr std::size_t kHalvesInBar = 8;
  std::size_t first = 0;
  for (std::size_t phase = 1; phase < kHalvesInBar; ++phase)
    if (meanOfEvery(evidence, phase, kHalvesInBar) > meanOfEvery(evidence, first, kHalvesInBar)) first = phase;
  std::vector<Seconds> half;
  for (std::size_t i = first % 2; i < beats.size(); i += 2) half.push_back(beats[i]);
  return half;
}

/// A tracker may change between a tempo and its half where both would do: the finer one of the two, or nothing where
/// the tempo is one.
std::optional<Bpm> finerOfTwoTempi(const std::vector<Seconds>& beats) {
  auto gaps = gapsOf(beats);
  const auto shareNear = [&](double gap) {
    const auto close = [&](double g) { return std::abs(g / gap - 1) < kPar.oneGap; };
    return static_cast<double>(std::count_if(gaps.begin(), gaps.end(), close)) / static_cast<double>(gaps.size());
  };
  const double median = medianOf(gaps);
  if (shareNear(median) > kPar.oneTempo) return std::nullopt;
  const double half = shareNear(median / 2), twice = shareNear(median * 2);
  const double finer = half >= kPar.otherTempo ? median / 2 : median;
  if (half < kPar.otherTempo && twice < kPar.otherTempo) return std::nullopt;
  // The median of those near it: a tempo wanders.
  std::erase_if(gaps, [&](double g) { return std::abs(g / finer - 1) >= kPar.oneGap; });
  return Bpm(60.0 / medianOf(gaps));
}

/// Off-beats that were taken for beats, in a stretch or all through: bars begin half-way between them. What begins a
/// bar is judged by harmony, bass and drums over stretches of 64 beats.
std::vector<Seconds> offOffBeats(const std::vector<Seconds>& beats, const OnsetStrength& onsets,
                                 const NoteActivations& notes) {
  constexpr std::size_t kStretch = 128;  // halves of beats
  const auto halves = divided(beats, 2);
  const auto evidence = downbeatEvidence(halves, onsets, notes);
  const auto off = [&](std::size_t from, std::size_t to) {
    const std::vector<double> part(evidence.begin() + static_cast<std::ptrdiff_t>(from),
                                   evidence.begin() + static_cast<std::ptrdiff_t>(to));
    double on = -1e9, between = -1e9;
    for (const std::size_t bar : {6U, 8U})
      for (std::size_t phase = 0; phase < bar; ++phase)
        (phase % 2 == 0 ? on : between) = std::max(phase % 2 == 0 ? on : between, meanOfEvery(part, phase, bar));
    return between > on + kPar.clearlyOff;
  };
  std::vector<Seconds> result;
  bool moved = false;
  for (std::size_t from = 0; from < halves.size(); from += kStretch) {
    // A last stretch that is short is judged with what comes before it.
    const std::size_t to = std::min(halves.size(), from + kStretch);
    const bool shift = off((to - std::min(to, kStretch)) / 2 * 2, to);
    moved = moved || shift;
    for (std::size_t i = from + (shift ? 1 : 0); i < to; i += 2)
      if (result.empty() || i < 2 || halves[i] - result.back() > (halves[i] - halves[i - 2]) * kPar.leastGap)
        result.push_back(halves[i]);
  }
  return moved ? result : beats;
}

/// Half a beat too many or too few within a steady tempo: the tracker took the off-beats for the beats before or after
/// it. @return the tempo, or nothing where there is no such slip
std::optional<Bpm> tempoAroundSlip(const std::vector<Seconds>& beats) {
  const auto gaps = gapsOf(beats);
  const double median = medianOf(gaps);
  const auto steady = [&](double gap) { return std::abs(gap / median - 1) < kPar.steadyGap; };
  if (static_cast<double>(std::count_if(gaps.begin(), gaps.end(), steady)) <
      kPar.steadyShare * static_cast<double>(gaps.size()))
    return std::nullopt;
  for (std::size_t i = 0; i < gaps.size();) {
    double run = 0;
    while (i < gaps.size() && !steady(gaps[i])) run += gaps[i++] / median;
    if (std::abs(run - std::floor(run) - 0.5) < kPar.slip) return Bpm(60.0 / median);
    if (run == 0) ++i;
  }
  return std::nullopt;
}

/// How far the snare outweighs the kick, at each of the times.
std::vector<double> snareOverKick(const std::vector<Seconds>& times, const OnsetStrength& onsets) {
  std::vector<double> result;
  for (const Seconds t : times)
    result.push_back(static_cast<double>(strongestNear(onsets.snare, onsets.clock, t, kPar.nearHalf)) -
                     strongestNear(onsets.kick, onsets.clock, t, kPar.nearHalf));
  return result;
}

/// Kick on the beats and snare between them: the back beat is struck at twice the rate of a counted pair of beats.
bool backBeatBetween(const std::vector<Seconds>& beats, const OnsetStrength& onsets) {
  constexpr std::size_t kWindow = 16;
  constexpr double kClear = 0.3, kShare = 0.3;
  const auto halves = standardised(snareOverKick(divided(beats, 2), onsets));
  double alternation = 0, difference = 0;
  int windows = 0;
  for (std::size_t from = 0; from + 2 * kWindow < halves.size(); from += kWindow, ++windows) {
    double even = 0, odd = 0, between = 0;
    for (std::size_t i = 0; i < kWindow; ++i) {
      (i % 2 == 0 ? even : odd) += halves[from + 2 * i] / (0.5 * kWindow);
      between += halves[from + 2 * i + 1] / kWindow;
    }
    alternation += std::abs(even - odd);
    difference += between - 0.5 * (even + odd);
  }
  if (windows == 0) return false;
  alternation /= windows, difference /= windows;
  return difference > kClear && difference > kShare * alternation;
}

/// Bars of the main length from the beat `first` on, with others between where their first beats stand out so much
/// more that it pays for the change.
std::vector<std::size_t> layBars(const std::vector<double>& evidence, const Phase& phase) {
  const auto main = static_cast<std::size_t>(phase.meter);
  constexpr std::array<std::size_t, 7> kLengths = {2, 3, 4, 5, 6, 7, 12};
  // best[i][k]: best sum of evidence of bars up to beat i, where the last one was kLengths[k] long.
  struct Cell {
    double value = -1e9;
    std::size_t from = 0, kind = 0;
  };
  const std::size_t n = evidence.size();
  std::vector<std::array<Cell, kLengths.size()>> best(n + 1);
  const auto mainKind = static_cast<std::size_t>(std::find(kLengths.begin(), kLengths.end(), main) - kLengths.begin());
  for (std::size_t start = 0; start <= std::min<std::size_t>(main - 1, n); ++start)
    best[start][mainKind] = {start == phase.first ? 0.0 : -kPar.metreChange, n + 1, 0};
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t before = 0; before < kLengths.size(); ++before) {
      const double value = best[i][before].value;
      if (value < -1e8) continue;
      for (std::size_t k = 0; k < kLengths.size(); ++k) {
        // A change of metre is to three, four or six; two, five or seven beats are one odd bar.
        if (k != mainKind && (main == 12 || main == 2 * kLengths[k] || 2 * main == kLengths[k] || kLengths[k] == 12))
          continue;
        const bool odd = kLengths[k] == 2 || kLengths[k] == 5 || kLengths[k] == 7;
        const double cost = k == before && !odd ? 0.0 : k == mainKind ? 0.0 : kPar.metreChange;
        const std::size_t end = std::min(n, i + kLengths[k]);
        const double sum = value + evidence[i] - cost;
        if (sum > best[end][k].value) best[end][k] = {sum, i, before};
      }
    }
  std::vector<std::size_t> bars;
  std::size_t at = n, kind = 0;
  for (std::size_t k = 0; k < kLengths.size(); ++k)
    if (best[n][k].value > best[n][kind].value) kind = k;
  while (best[at][kind].from <= n) {
    const Cell cell = best[at][kind];
    bars.push_back(cell.from);
    at = cell.from, kind = cell.kind;
  }
  std::reverse(bars.begin(), bars.end());
  return bars;
}

}  // namespace

Tactus countedBeats(std::vector<Seconds> beats, const OnsetStrength& onsets, const NoteActivations& notes,
                    const std::function<std::vector<Seconds>(Bpm, double)>& track) {
  constexpr std::size_t kFewest = 8;  // beats that tell anything
  Tactus counted{.beats = std::move(beats)};
  if (counted.beats.size() < kFewest) return counted;
  // Nothing may be found at another tempo, as when the listening is cancelled: then they stay as they were.
  const auto trackAnew = [&](Bpm tempo, double factor) {
    auto anew = track(tempo, factor);
    if (anew.size() >= kFewest) counted.beats = onPhaseOf(counted.beats, std::move(anew));
  };
  if (const auto finer = finerOfTwoTempi(counted.beats)) trackAnew(*finer, kPar.wandering);
  const BeatProfile profile = profileOf(counted.beats, onsets.all, onsets.clock);
  const double onBeat = profile.near(0), tempo = tempoOf(counted.beats);
  const double third = std::min(profile.near(1.0 / 3), profile.near(2.0 / 3)), half = profile.near(0.5);

  const auto evidence = downbeatEvidence(counted.beats, onsets, notes);
  const bool inFours = findPhase(evidence, kCounted).meter == 4;
  if (third > kPar.third * onBeat && half < 0.5 * third) {
    if (third > kPar.alike * onBeat && 1.5 * tempo < kPar.fastest) {
      trackAnew(Bpm(1.5 * tempo), kPar.wandering);
      counted.reason = LevelReason::thirdsPaired;
    } else {
      counted.beats = divided(counted.beats, 3);
      counted.threes = true;
      counted.reason = LevelReason::compound;
    }
  } else if (std::max({half, profile.near(0.25), profile.near(0.75)}) > kPar.half * onBeat && tempo < kPar.slowest) {
    trackAnew(Bpm(2 * tempo), kPar.wandering);
    counted.reason = LevelReason::slowlyDivided;
  } else if (half > kPar.half * onBeat && 2 * tempo < kPar.fastestInFour && inFours &&
             backBeatBetween(counted.beats, onsets)) {
    trackAnew(Bpm(2 * tempo), kPar.wandering);
    counted.reason = LevelReason::halfCollides;
  } else if (tempo > kPar.fastestInFour && inFours) {
    counted.beats = halved(counted.beats, evidence);
    counted.reason = LevelReason::twiceIsFast;
  } else if (tempo > kPar.brisk && inFours &&
             std::max({profile.near(0.25), profile.near(0.33), half, profile.near(0.66), profile.near(0.75)}) <
                 kPar.divides * onBeat) {
    counted.beats = halved(counted.beats, evidence);
    counted.reason = LevelReason::twiceIsEmpty;
  }
  if (!counted.threes) counted.beats = offOffBeats(counted.beats, onsets, notes);
  if (const auto around = tempoAroundSlip(counted.beats)) trackAnew(*around, kPar.steady);
  return counted;
}

Bars findBars(const Tactus& counted, const OnsetStrength& onsets, const NoteActivations& notes) {
  const auto evidence = downbeatEvidence(counted.beats, onsets, notes);
  Phase phase;
  if (counted.threes) {
    std::vector<double> grouped;
    for (std::size_t i = 0; i < evidence.size(); i += 3) grouped.push_back(evidence[i]);
    phase = findPhase(grouped, kGroupsOfThree);
    if (phase.meter == 4 && halfBarBegins(grouped, phase)) phase.meter = 2, phase.first %= 2;
    phase.meter *= 3, phase.first *= 3;
  } else {
    phase = findPhase(evidence, kCounted);
    // Two bars of three, on one chord, look like a bar of six; but in a bar of six the fourth beat is no beginning.
    if (phase.meter == 6 && (halfBarBegins(evidence, phase) || tempoOf(counted.beats) < kPar.slowestEighths))
      phase.meter = 3, phase.first %= 3;
  }
  return {phase.meter, layBars(evidence, phase), phase.certainty};
}

}  // namespace ear
