// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/bar_lane.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr double kReach = 5;        // pixels
constexpr double kNumberRoom = 34;  // pixels between two numbered bars
constexpr double kLetterRoom = 44;  // pixels that letter and number of a section's first bar take

}  // namespace

void BarLane::paintSections(QPainter& p, const LaneView& view) const {
  const auto& form = bench_.brief().form;
  if (!form) return;
  const Theme& t = Theme::current();
  const QRectF area = view.area;
  for (const auto& s : form->value) {
    const double from = std::max(area.left(), view.xOf(s.span.start)),
                 to = std::min(area.right(), view.xOf(s.span.end));
    if (to > from) p.fillRect(QRectF(from, area.top(), to - from, kHeight), t.block(text(s.letter)));
    if (to - from > 24) {
      p.setPen(t.ink);
      p.setFont(Theme::font(Theme::Face::strong));
      p.drawText(QRectF(from + 5, area.top(), 16, kHeight), Qt::AlignLeft | Qt::AlignVCenter, text(s.letter));
    }
    if (to - from <= 60 || s.name.empty()) continue;
    p.setPen(t.ink);
    p.setFont(Theme::font(Theme::Face::small));
    const QRectF room(from + kLetterRoom, area.top(), to - from - kLetterRoom - 8, kHeight);
    p.drawText(room, Qt::AlignRight | Qt::AlignVCenter,
               QFontMetrics(p.font()).elidedText(text(s.name), Qt::ElideRight, static_cast<int>(room.width())));
  }
}

BarLane::Density BarLane::density(const LaneView& view) const {
  const Grid& grid = bench_.time().grid();
  const double perBeat =
      (view.xOf(grid.back().time) - view.xOf(grid.front().time)) / static_cast<double>(grid.size() - 1);
  Density d{perBeat, perBeat * meterOf(grid), 1};
  while (d.perBar > 0 && d.every * d.perBar < kNumberRoom) d.every *= 2;
  return d;
}

void BarLane::paint(QPainter& p, const LaneView& view) {
  paintSections(p, view);
  const Grid& grid = bench_.time().grid();
  if (grid.size() < 2) return;
  const Theme& t = Theme::current();
  const auto& form = bench_.brief().form;
  const auto startsSection = [&](Seconds bar) {
    return form && std::any_of(form->value.begin(), form->value.end(),
                               [&](const Section& s) { return std::abs((s.span.start - bar).value) < 0.1; });
  };
  const auto [perBeat, perBar, every] = density(view);
  const double top = view.area.top(), foot = view.area.bottom();
  p.setFont(Theme::font(Theme::Face::small));
  int bar = 0;
  for (const Beat& beat : grid) {
    if (beat.bar) ++bar;
    if (!view.window.contains(beat.time)) continue;
    const double x = view.xOf(beat.time);
    if (beat.bar && (bar - 1) % every == 0) {
      p.setPen(QPen(t.softInk, 1));
      p.drawLine(QPointF(x, top), QPointF(x, foot));
      p.setPen(t.ink);
      // Where a section starts its letter stands first.
      const double room = startsSection(beat.time) || x < 20 ? 22 : 4;
      p.drawText(QRectF(x + room, top, 40, kHeight), Qt::AlignLeft | Qt::AlignVCenter, QString::number(bar));
    }
    if (beat.fixed && perBeat > 4) {  // held by hand: a foot under the lane
      p.setPen(Qt::NoPen);
      p.setBrush(t.ink);
      p.drawRect(QRectF(x - 2.5, foot - 4, 5, 4));
    }
  }
}

void BarLane::paintThrough(QPainter& p, const LaneView& crossed) {
  const Grid& grid = bench_.time().grid();
  if (grid.size() < 2) return;
  const Theme& t = Theme::current();
  const auto [perBeat, perBar, every] = density(crossed);
  const QPen ofBeat(t.hairline, 1, Qt::DotLine), ofBar(t.softInk, 1);
  int bar = 0;
  for (const Beat& beat : grid) {
    if (beat.bar) ++bar;
    if (!crossed.window.contains(beat.time)) continue;
    const bool shown = beat.bar ? (bar - 1) % every == 0 && perBar > 8 : perBeat > 12;
    if (!shown) continue;
    p.setPen(beat.bar ? ofBar : ofBeat);
    const double x = crossed.xOf(beat.time);
    p.drawLine(QPointF(x, crossed.area.top()), QPointF(x, crossed.area.bottom()));
  }
}

std::optional<std::size_t> BarLane::lineAt(QPointF at, const LaneView& view) const {
  const Grid& grid = bench_.time().grid();
  for (std::size_t i = 0; i < grid.size(); ++i)
    if (grid[i].bar && std::abs(view.xOf(grid[i].time) - at.x()) <= kReach) return i;
  return std::nullopt;
}

Lane::Hold BarLane::holdAt(QPointF at, Qt::KeyboardModifiers, const LaneView& view) const {
  return lineAt(at, view) ? Hold::firm : Hold::none;
}

void BarLane::grab(QPointF at, Qt::KeyboardModifiers, const LaneView& view) {
  held_ = lineAt(at, view);
}

void BarLane::drag(QPointF to, Qt::KeyboardModifiers modifiers, const LaneView& view) {
  const Neighbours neighbours = modifiers.testFlag(Qt::ShiftModifier) ? Neighbours::stay : Neighbours::follow;
  bench_.time().edit(
      tr("Move bar line"), [&](Grid& grid) { moveBeat(grid, *held_, view.timeAt(to.x()), neighbours); },
      Evidence::Kind::barsMoved, "bar-line-" + std::to_string(*held_));
}

void BarLane::letGo(QPointF at, bool moved, const LaneView& view) {
  bench_.document().endMerge();
  if (!moved) bench_.selection().goTo(view.timeAt(at.x()));
}

QString BarLane::tip(QPointF at, const LaneView& view) const {
  if (lineAt(at, view))
    return tr(
        "Drag the bar line: the beats on both sides spread along. With Shift only this line moves. B starts a bar "
        "at the playhead.");
  if (const auto& form = bench_.brief().form)
    for (const Section& s : form->value)
      if (s.span.contains(view.timeAt(at.x())))
        return s.name.empty() ? text(s.letter) : tr("%1: %2").arg(text(s.letter), text(s.name));
  return {};
}

}  // namespace ear
