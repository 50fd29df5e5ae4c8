// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/spacing.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace ear {
namespace {

constexpr double kSixteenth = 2.3;   // distance of sixteenths
constexpr double kDoubling = 1.25;   // more for each value twice as long
constexpr double kCharacter = 0.95;  // width of a figure
constexpr double kApart = 0.9;       // between two figures
constexpr double kBarLine = 1.6;     // before the first note of a bar
constexpr double kLead = 1.8;        // before the first moment

double characters(const std::string& text) {
  return static_cast<double>(std::count_if(text.begin(), text.end(), [](char c) { return (c & 0xC0) != 0x80; }));
}

double gapFor(Beats length) {
  const double sixteenths = std::max(0.25, length.value() * 4);
  return std::max(1.2, kSixteenth + kDoubling * std::log2(sixteenths));
}

}  // namespace

Spacing::Spacing(const TabScore& score) {
  std::map<Beats, double> needs;  // width of what stands there
  for (const TabHead& head : score.heads) {
    double& need = needs[head.at];
    need = std::max(need, characters(head.text) * kCharacter + kApart);
  }
  for (const RhythmRow& row : score.voices)
    for (const RhythmPiece& piece : row.pieces) needs.try_emplace(piece.at, kCharacter + kApart);
  for (const TabMark& mark : score.marks)
    if (mark.kind == TabMark::Kind::word) {
      double& need = needs[mark.from];
      need = std::max(need, characters(mark.text) * 0.62 + kApart);
    }
  for (const TabStretch& open : score.stretches) needs.try_emplace(open.from, kCharacter + kApart);
  if (needs.empty()) {
    width_ = 2 * kLead;
    return;
  }
  needs.try_emplace(score.to, 0.0);
  double x = kLead;
  for (auto at = needs.begin(); at != needs.end(); ++at) {
    columns_.push_back({at->first, x});
    const auto next = std::next(at);
    if (next == needs.end()) break;
    x += std::max(gapFor(next->first - at->first), at->second);
    for (const Beats line : score.barLines)
      if (line > at->first && line <= next->first) x += kBarLine;
  }
  width_ = x + kLead;
}

double Spacing::xOf(Beats at) const {
  if (columns_.empty()) return kLead;
  const auto after =
      std::lower_bound(columns_.begin(), columns_.end(), at, [](const Column& c, Beats place) { return c.at < place; });
  if (after == columns_.end()) return columns_.back().x + (at - columns_.back().at).value() * 2 * kSixteenth;
  if (after->at == at || after == columns_.begin()) return after->x - (after->at - at).value() * 2 * kSixteenth;
  const Column& before = *std::prev(after);
  return before.x + (after->x - before.x) * (at - before.at).value() / (after->at - before.at).value();
}

Beats Spacing::nearestTo(double x) const {
  const auto nearest = std::min_element(columns_.begin(), columns_.end(), [&](const Column& a, const Column& b) {
    return std::abs(a.x - x) < std::abs(b.x - x);
  });
  return nearest == columns_.end() ? Beats(0) : nearest->at;
}

}  // namespace ear
