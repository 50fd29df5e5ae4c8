// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/phrase_time.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace ear {
namespace {

constexpr int kOriginRaster = 4;
// A start that lies a twelfth of a beat off costs as much as a parting one step finer.
constexpr double kOff = 144.0, kFiner = 1.0;

struct Parting {
  int parts;
  double price;
};

/// Places of starts within one beat, all on one raster, rising and apart; and what that costs.
std::pair<double, std::vector<int>> fit(std::span<const double> within, const Parting& parting) {
  std::vector<int> places;
  double cost = kFiner * parting.price;
  for (const double w : within) {
    int place = static_cast<int>(std::lround(w * parting.parts));
    if (!places.empty()) place = std::max(place, places.back() + 1);
    const double off = w - static_cast<double>(place) / parting.parts;
    cost += kOff * off * off;
    places.push_back(place);
  }
  return {cost, places};
}

}  // namespace

PhraseTime::PhraseTime(const Phrase& phrase, const TimeMap& map) : map_(map) {
  if (!map.empty()) origin_ = map.nearest(phrase.span.start, kOriginRaster);
}

std::optional<TimeSpan> PhraseTime::spanOf(const Note& note) const {
  if (note.free) return note.free;
  if (!known()) return std::nullopt;
  return TimeSpan{timeOf(note.at), timeOf(note.end())};
}

std::vector<Beats> PhraseTime::barLines(Beats from, Beats to) const {
  std::vector<Beats> lines;
  const TimeMap::Anchor first = map_.placeOf(origin_ + from);
  // In a pickup the first line is the one that ends it.
  Beats line = from - first.within;
  for (int bar = std::max(1, first.bar);; ++bar) {
    lines.push_back(line);
    if (line >= to) return lines;
    // Beyond the last bar they go on in its length.
    line += std::max(Beats(1), map_.lengthOf(std::min(bar, map_.bars())));
  }
}

std::vector<Quantised> quantised(std::span<const Seconds> starts, const PhraseTime& time, const QuantiseRules& rules) {
  std::vector<Parting> partings = {{1, 0.0}, {2, 0.5}};
  if (rules.triplets) partings.push_back({3, 1.5});
  if (rules.finest >= 4) partings.push_back({4, 1.2});
  std::erase_if(partings, [&](const Parting& p) { return p.parts > rules.finest && p.parts != 3; });
  std::vector<Quantised> result;
  std::optional<Beats> last;
  for (std::size_t i = 0; i < starts.size();) {
    // A start shortly before a beat belongs to it.
    const double early = 1.0 / 12;
    const double beat = std::floor(time.placeOf(starts[i]) + early);
    std::vector<double> within;
    std::size_t end = i;
    for (; end < starts.size() && std::floor(time.placeOf(starts[end]) + early) == beat; ++end)
      within.push_back(time.placeOf(starts[end]) - beat);
    double best = std::numeric_limits<double>::infinity();
    std::vector<int> places;
    int parts = 1;
    for (const Parting& p : partings)
      if (auto [cost, found] = fit(within, p); cost < best) best = cost, places = std::move(found), parts = p.parts;
    for (std::size_t k = i; k < end; ++k) {
      Beats at = Beats(static_cast<std::int64_t>(beat)) + Beats(places[k - i], parts);
      if (last && at <= *last) at = *last + Beats(1, std::max(4, parts));
      result.push_back({at, time.timeOf(at) - starts[k]});
      last = at;
    }
    i = end;
  }
  return result;
}

}  // namespace ear
