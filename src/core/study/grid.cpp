// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/grid.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/statistics.h"
#include "core/base/text.h"
#include "core/listening/results/findings.h"

namespace ear {
namespace {

constexpr Seconds kTouch{0.05};      // a bar line this much before a border still belongs to what follows
constexpr double kSteady = 0.015;    // of the tempo, either way
constexpr double kSlowsDown = 0.06;  // of the tempo at the end

std::vector<double> gapsOf(const Grid& grid) {
  std::vector<double> gaps;
  for (std::size_t i = 1; i < grid.size(); ++i) gaps.push_back((grid[i].time - grid[i - 1].time).value);
  return gaps;
}

}  // namespace

Grid gridOf(const Take& take, const Findings* findings) {
  if (take.grid) return *take.grid->value;
  Grid grid;
  if (findings == nullptr || !findings->rhythm) return grid;
  const auto& bars = findings->rhythm->downbeats;
  for (const Seconds t : findings->rhythm->beats)
    grid.push_back({t, std::binary_search(bars.begin(), bars.end(), t), false});
  // The bar that is counted in is none of the song's: bar 1 is the first one that is played.
  if (!findings->form.empty() && findings->form.front().role == Role::countIn)
    for (Beat& beat : grid) beat.bar = beat.bar && beat.time > findings->form.front().span.end - kTouch;
  return grid;
}

void decideGrid(Take& take, const Grid& grid, Origin origin, const Evidence& evidence) {
  take.grid = Decision<Shared<Grid>>{grid, origin, 1.0, evidence};
  const auto tempo = tempoOf(grid);
  if (take.time && tempo) take.time->value.tempo = *tempo, take.time->value.meter = meterOf(grid);
}

int meterOf(const Grid& grid) {
  std::map<int, int> lengths;
  int length = 0;
  bool inBar = false;
  for (const Beat& beat : grid) {
    if (beat.bar) {
      if (inBar) ++lengths[length];
      inBar = true, length = 0;
    }
    ++length;
  }
  const auto usual =
      std::max_element(lengths.begin(), lengths.end(), [](auto& a, auto& b) { return a.second < b.second; });
  return usual == lengths.end() ? 4 : usual->first;
}

std::optional<Bpm> tempoOf(const Grid& grid) {
  const auto gaps = gapsOf(grid);
  if (gaps.empty()) return std::nullopt;
  const double median = medianOf(gaps);
  double sum = 0;
  int count = 0;
  for (const double g : gaps)
    if (std::abs(g - median) < 0.06 * median) sum += g, ++count;
  return Bpm(60.0 * count / sum);
}

std::vector<Seconds> barLines(const Grid& grid) {
  std::vector<Seconds> lines;
  for (const Beat& beat : grid)
    if (beat.bar) lines.push_back(beat.time);
  return lines;
}

std::vector<Seconds> beatTimes(const Grid& grid) {
  std::vector<Seconds> times;
  for (const Beat& beat : grid) times.push_back(beat.time);
  return times;
}

int barsIn(const Grid& grid, TimeSpan span) {
  return static_cast<int>(
      std::count_if(grid.begin(), grid.end(), [&](const Beat& b) { return b.bar && span.contains(b.time + kTouch); }));
}

Seconds snapToBar(const Grid& grid, Seconds t, Seconds reach) {
  Seconds best = t, distance = reach;
  for (const Beat& beat : grid)
    if (const Seconds off(std::abs((beat.time - t).value)); beat.bar && off <= distance)
      best = beat.time, distance = off;
  return best;
}

std::optional<BarPlace> barPlaceAt(const Grid& grid, Seconds t) {
  if (grid.size() < 2 || t < grid.front().time) return std::nullopt;
  const auto after = std::upper_bound(grid.begin(), grid.end(), t, [](Seconds s, const Beat& b) { return s < b.time; });
  const auto beat = after - 1;
  const Seconds length = after != grid.end() ? after->time - beat->time : beat->time - (beat - 1)->time;
  if (after == grid.end() && t >= beat->time + length) return std::nullopt;
  BarPlace place{0, 1, std::min(0.999999, (t - beat->time) / length)};
  place.bar = static_cast<int>(std::count_if(grid.begin(), after, [](const Beat& b) { return b.bar; }));
  for (auto b = beat; !b->bar && b != grid.begin(); --b) ++place.beat;
  return place;
}

std::string countedAt(const Grid& grid, Seconds t, const NotationPreferences& schools) {
  const auto place = barPlaceAt(grid, t);
  if (!place) return {};
  int parts = 4;
  if (schools.counting == NotationPreferences::Counting::ands) parts = 2;
  if (schools.counting == NotationPreferences::Counting::triplets) parts = 3;
  return std::to_string(place->bar) + ": " +
         countName(schools, place->beat, static_cast<int>(place->within * parts), parts);
}

std::string metreWords(const Grid& grid) {
  struct Bar {
    Seconds start;
    int beats;
  };
  std::vector<Bar> bars;
  for (const Beat& beat : grid) {
    if (beat.bar) bars.push_back({beat.time, 0});
    if (!bars.empty()) ++bars.back().beats;
  }
  if (!bars.empty()) bars.pop_back();  // the last one may be cut off
  const int usual = meterOf(grid);
  std::string words;
  for (std::size_t i = 0; i < bars.size();) {
    std::size_t end = i;
    while (end < bars.size() && bars[end].beats == bars[i].beats) ++end;
    if (bars[i].beats != usual) {
      const std::string number = std::to_string(bars[i].beats);
      words += words.empty() ? "" : ", ";
      if (end - i == 1)
        words += "a bar of " + number + " at " + clockTenths(bars[i].start);
      else
        words += "bars of " + number + " from " + clockTenths(bars[i].start) +
                 (end < bars.size() ? " to " + clockTenths(bars[end].start) : " on");
    }
    i = end;
  }
  return words;
}

std::vector<TempoPoint> tempoCurve(const Grid& grid) {
  constexpr std::size_t kReach = 4;
  std::vector<TempoPoint> curve;
  const auto gaps = gapsOf(grid);
  for (std::size_t i = 0; i < gaps.size(); ++i) {
    const std::size_t from = i > kReach ? i - kReach : 0, to = std::min(gaps.size(), i + kReach + 1);
    const double gap =
        medianOf({gaps.begin() + static_cast<std::ptrdiff_t>(from), gaps.begin() + static_cast<std::ptrdiff_t>(to)});
    curve.push_back({grid[i].time, Bpm(60.0 / gap)});
  }
  return curve;
}

std::string driftWords(const std::vector<TempoPoint>& curve) {
  if (curve.size() < 24) return {};
  std::vector<double> tempi;
  for (const auto& p : curve) tempi.push_back(p.tempo.value);
  const double usual = medianOf(tempi);
  // The last beats apart: a ritardando is no drift.
  const std::size_t closing = std::max<std::size_t>(8, curve.size() / 20);
  const auto body = std::pair(tempi.begin(), tempi.end() - static_cast<std::ptrdiff_t>(closing));
  const auto [low, high] = std::minmax_element(body.first, body.second);
  std::string words =
      *high - *low < 2 * kSteady * usual ? "steady" : "drifts between " + fixed(*low, 0) + " and " + fixed(*high, 0);
  if (tempi.back() < (1 - kSlowsDown) * usual) words += ", slows down at the end to " + fixed(tempi.back(), 0);
  return words;
}

}  // namespace ear
