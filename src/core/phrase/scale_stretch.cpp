// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/scale_stretch.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr std::size_t kLeast = 4;                     // notes
constexpr double kOutOfScale = 1.0, kOutOfBox = 0.6;  // of a note
constexpr double kOtherScale = 2.6, kOtherBox = 1.9;  // of a change
constexpr double kBlue = 0.3;                         // of the flat fifth, which belongs to neither
constexpr int kOctave = 12, kFlatFifth = 6;

/// What sounds of it, at the top of a bend.
std::optional<PitchClass> soundOf(const Guitar& guitar, const Note& note) {
  const auto pitch = note.bend ? bendTarget(guitar, note) : pitchAtStart(guitar, note);
  if (!pitch) return std::nullopt;
  return PitchClass(static_cast<int>(std::lround(pitch->value)));
}

struct Box {
  Scale scale;
  NeckRegion region;

  bool holds(FretPosition place) const {
    return std::find(region.places.begin(), region.places.end(), place) != region.places.end();
  }
};

std::vector<Box> boxesOn(const Guitar& guitar, const Scale& scale) {
  std::vector<Box> boxes;
  for (const NeckRegion& low : boxesOf(guitar, scale)) {
    boxes.push_back({scale, low});
    NeckRegion high = positionAt(guitar, scale, low.firstFinger + kOctave);
    high.number = low.number, high.label = low.label;
    if (!high.places.empty()) boxes.push_back({scale, high});
  }
  return boxes;
}

}  // namespace

const ScaleStretch* stretchAt(std::span<const ScaleStretch> stretches, Beats at) {
  const ScaleStretch* found = stretches.empty() ? nullptr : &stretches.front();
  for (const ScaleStretch& s : stretches)
    if (s.from <= at) found = &s;
  return found;
}

std::optional<NeckRegion> regionOf(const Guitar& guitar, const Scale& scale, int box, std::span<const Note> notes) {
  std::optional<NeckRegion> best;
  std::ptrdiff_t most = -1;
  for (const Box& b : boxesOn(guitar, scale)) {
    if (b.region.number != box) continue;
    const auto held = std::count_if(notes.begin(), notes.end(), [&](const Note& n) { return b.holds(n.place); });
    if (held > most) most = held, best = b.region;
  }
  return best;
}

std::vector<FretPosition> placesInBoxes(const Guitar& guitar, std::span<const ScaleStretch> stretches) {
  std::vector<FretPosition> places;
  for (const ScaleStretch& s : stretches)
    for (const Box& b : boxesOn(guitar, s.scale))
      if (b.region.number == s.box) places.insert(places.end(), b.region.places.begin(), b.region.places.end());
  return places;
}

ScaleUse scalesUsed(const Guitar& guitar, std::span<const Note> notes, PitchClass tonic) {
  ScaleUse use;
  std::vector<std::pair<const Note*, PitchClass>> line;
  for (const Note& n : notes)
    if (const auto pc = soundOf(guitar, n)) line.emplace_back(&n, *pc);
  if (line.size() < kLeast) return use;
  std::vector<Box> boxes = boxesOn(guitar, {tonic, ScaleKind::minorPentatonic});
  for (Box& b : boxesOn(guitar, {tonic, ScaleKind::majorPentatonic})) boxes.push_back(std::move(b));
  const auto costOf = [&](const Box& box, const Note& note, PitchClass pc) {
    const bool blue = pc == PitchClass(tonic.value + kFlatFifth) && box.scale.kind == ScaleKind::minorPentatonic;
    if (!box.scale.contains(pc)) return blue ? kBlue : kOutOfScale;
    // A bend starts from beside the scale as often as from within: only the hand is asked.
    const int first = box.region.firstFinger;
    const bool near = note.place.fret >= first - 1 && note.place.fret <= first + 4;
    return box.holds(note.place) || (note.bend && near) ? 0.0 : kOutOfBox;
  };
  const auto change = [&](const Box& a, const Box& b) {
    return a.scale.kind != b.scale.kind ? kOtherScale : a.region.firstFinger != b.region.firstFinger ? kOtherBox : 0.0;
  };
  const std::size_t count = boxes.size();
  std::vector<double> cost(count);
  std::vector<std::vector<std::size_t>> from(line.size(), std::vector<std::size_t>(count));
  for (std::size_t i = 0; i < line.size(); ++i) {
    std::vector<double> next(count);
    for (std::size_t b = 0; b < count; ++b) {
      std::size_t best = b;
      for (std::size_t a = 0; i > 0 && a < count; ++a)
        if (cost[a] + change(boxes[a], boxes[b]) < cost[best] + change(boxes[best], boxes[b])) best = a;
      from[i][b] = best;
      next[b] =
          (i > 0 ? cost[best] + change(boxes[best], boxes[b]) : 0.0) + costOf(boxes[b], *line[i].first, line[i].second);
    }
    cost = std::move(next);
  }
  auto at = static_cast<std::size_t>(std::min_element(cost.begin(), cost.end()) - cost.begin());
  std::vector<std::size_t> path(line.size());
  for (std::size_t i = line.size(); i-- > 0; at = from[i][at]) path[i] = at;
  use.of = static_cast<int>(line.size());
  for (std::size_t i = 0; i < line.size(); ++i) {
    const Box& box = boxes[path[i]];
    if (costOf(box, *line[i].first, line[i].second) == 0.0) ++use.inside;
    if (i == 0 || path[i] != path[i - 1]) use.stretches.push_back({line[i].first->at, box.scale, box.region.number});
  }
  return use;
}

}  // namespace ear
