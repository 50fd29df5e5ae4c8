// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/phrase_grid.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/listening/rhythm/phrase_grid_weights.h"

namespace ear {
namespace {

static_assert(kPhraseGridWeights.size() == GridSigns::kCount);

constexpr double kUsualTempo = 100;                      // beats a minute
constexpr double kNearOnset = 0.04, kNearStroke = 0.05;  // seconds
constexpr std::size_t kFewestBeats = 3;

std::vector<Seconds> halfWay(const std::vector<Seconds>& beats) {
  std::vector<Seconds> between;
  for (std::size_t i = 0; i + 1 < beats.size(); ++i) between.push_back(beats[i] + (beats[i + 1] - beats[i]) * 0.5);
  return between;
}

std::vector<Seconds> everySecond(const std::vector<Seconds>& beats, std::size_t first) {
  std::vector<Seconds> some;
  for (std::size_t i = first; i < beats.size(); i += 2) some.push_back(beats[i]);
  return some;
}

double surestStrokeNear(const GuitarActivations& guitar, Seconds t) {
  float surest = 0;
  for (std::size_t i = guitar.clock.frameAt(t - Seconds(kNearStroke));
       i < guitar.count() && guitar.clock.timeOf(i) < t + Seconds(kNearStroke); ++i) {
    const auto now = guitar.struckAt(i);
    surest = std::max(surest, *std::max_element(now.begin(), now.end()));
  }
  return static_cast<double>(surest);
}

/// What is the same for all bars over some beats.
GridSigns signsOfBeats(const std::vector<Seconds>& beats, const OnsetStrength& onsets,
                       const GuitarActivations& guitar) {
  std::array<double, 4> starts{}, strokes{};  // on each quarter of a beat
  const auto n = static_cast<double>(beats.size());
  for (std::size_t i = 0; i < beats.size(); ++i) {
    const Seconds gap = i + 1 < beats.size() ? beats[i + 1] - beats[i] : beats[i] - beats[i - 1];
    for (std::size_t q = 0; q < 4; ++q) {
      const Seconds t = beats[i] + gap * (0.25 * static_cast<double>(q));
      starts[q] += static_cast<double>(strongestNear(onsets.all, onsets.clock, t, kNearOnset)) / n;
      strokes[q] += surestStrokeNear(guitar, t) / n;
    }
  }
  GridSigns signs;
  const double octaves = std::log2(60 * (n - 1) / (beats.back() - beats.front()).value / kUsualTempo);
  signs.of[GridSigns::farTempo] = octaves * octaves;
  signs.of[GridSigns::onBeat] = starts[0] - starts[2];
  signs.of[GridSigns::between] = starts[2];
  signs.of[GridSigns::quarters] = (starts[1] + starts[3]) / 2;
  signs.of[GridSigns::strokesOnBeat] = strokes[0] - strokes[2];
  signs.of[GridSigns::strokesOnQuarters] = (strokes[1] + strokes[3]) / 2;
  return signs;
}

}  // namespace

std::vector<GridCandidate> gridCandidates(const std::vector<Seconds>& tracked, const OnsetStrength& onsets,
                                          const NoteActivations& notes, const GuitarActivations& guitar) {
  std::vector<GridCandidate> candidates;
  const auto add = [&](const std::vector<Seconds>& beats, bool shifted, bool halved) {
    if (beats.size() < kFewestBeats) return;
    GridSigns signs = signsOfBeats(beats, onsets, guitar);
    signs.of[GridSigns::shifted] = shifted ? 1 : 0;
    signs.of[GridSigns::halved] = halved ? 1 : 0;
    const auto ofBeats = downbeatSigns(beats, onsets, notes, guitar);
    for (const std::size_t meter : {4U, 3U}) {
      signs.of[GridSigns::three] = meter == 3 ? 1 : 0;
      for (std::size_t first = 0; first < std::min(meter, beats.size()); ++first) {
        const std::size_t bars = (beats.size() - first + meter - 1) / meter;
        for (std::size_t k = 0; k < kDownbeatSigns; ++k) {
          signs.of[k] = 0;
          for (std::size_t i = first; i < beats.size(); i += meter)
            signs.of[k] += ofBeats[i][k] / static_cast<double>(bars);
        }
        candidates.push_back({beats, static_cast<int>(meter), first, signs});
      }
    }
  };
  add(tracked, false, false);
  add(halfWay(tracked), true, false);
  for (const std::size_t first : {0U, 1U}) add(everySecond(tracked, first), false, true);
  return candidates;
}

PhraseGrid readPhraseGrid(const std::vector<Seconds>& tracked, const OnsetStrength& onsets,
                          const NoteActivations& notes, const GuitarActivations& guitar) {
  auto candidates = gridCandidates(tracked, onsets, notes, guitar);
  if (candidates.empty()) return {tracked, {}};
  std::vector<double> odds;
  for (const auto& c : candidates)
    odds.push_back(std::inner_product(c.signs.of.begin(), c.signs.of.end(), kPhraseGridWeights.begin(), 0.0));
  const auto top = std::max_element(odds.begin(), odds.end());
  const double all =
      std::accumulate(odds.begin(), odds.end(), 0.0, [&](double sum, double o) { return sum + std::exp(o - *top); });
  auto& best = candidates[static_cast<std::size_t>(top - odds.begin())];
  PhraseGrid grid{std::move(best.beats), {.meter = best.meter, .first = {}, .certainty = 1 / all}};
  for (std::size_t i = best.first; i < grid.beats.size(); i += static_cast<std::size_t>(best.meter))
    grid.bars.first.push_back(i);
  return grid;
}

}  // namespace ear
