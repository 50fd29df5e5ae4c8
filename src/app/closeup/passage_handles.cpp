// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/passage_handles.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/theme/theme.h"
#include "app/workbench/workbench.h"
#include "core/practice/snap.h"

namespace ear {
namespace {

constexpr double kReach = 7;      // pixels
constexpr double kSnapReach = 9;  // pixels

}  // namespace

/// @param handles  where the handles stand, so that they cover no name of a bar or chord
void PassageHandles::paint(QPainter& p, QRectF handles, const LaneView& all) const {
  const auto& passage = bench_.selection().passage();
  if (!passage) return;
  const Theme& t = Theme::current();
  const double from = all.xOf(passage->start), to = all.xOf(passage->end);
  QColor wash = t.accent;
  wash.setAlpha(34);
  p.fillRect(QRectF(from, all.area.top(), to - from, all.area.height()), wash);
  p.setPen(QPen(t.accent, 2));
  for (const double x : {from, to}) p.drawLine(QPointF(x, all.area.top()), QPointF(x, all.area.bottom()));
  p.setBrush(t.accent);
  p.setPen(Qt::NoPen);
  const double top = handles.top() + 3, height = handles.height() - 6;
  p.drawRoundedRect(QRectF(from - 1, top, 7, height), 2, 2);
  p.drawRoundedRect(QRectF(to - 6, top, 7, height), 2, 2);
}

PassageHandles::Edge PassageHandles::edgeAt(double x, const LaneView& all) const {
  const auto& passage = bench_.selection().passage();
  if (!passage) return Edge::none;
  const double toStart = std::abs(x - all.xOf(passage->start)), toEnd = std::abs(x - all.xOf(passage->end));
  if (std::min(toStart, toEnd) > kReach) return Edge::none;
  return toStart < toEnd ? Edge::start : Edge::end;
}

Seconds PassageHandles::snapped(double x, Qt::KeyboardModifiers modifiers, const LaneView& all) const {
  const Seconds at = all.timeAt(x);
  if (modifiers.testFlag(Qt::AltModifier) || bench_.transport().player().recording() == nullptr) return at;
  const Seconds reach = all.window.length() * (kSnapReach / std::max(1.0, all.area.width()));
  return snapEdge(*bench_.transport().player().recording(), bench_.time().grid(), at, reach);
}

void PassageHandles::grab(double x, const LaneView& all) {
  edge_ = edgeAt(x, all);
  pressedAt_ = x;
  drawing_ = false;
}

void PassageHandles::drag(double x, Qt::KeyboardModifiers modifiers, const LaneView& all) {
  const Seconds at = snapped(x, modifiers, all), least(Player::kShortestLoop);
  if (edge_ == Edge::none) {
    if (!std::exchange(drawing_, true)) bench_.selection().set(std::nullopt);
    bench_.selection().set(TimeSpan{snapped(pressedAt_, modifiers, all), at});
  } else if (const auto passage = bench_.selection().passage()) {
    bench_.selection().set(edge_ == Edge::start ? TimeSpan{std::min(at, passage->end - least), passage->end}
                                                : TimeSpan{passage->start, std::max(at, passage->start + least)});
  }
}

bool PassageHandles::letGo() {
  if (drawing_ && bench_.selection().passage()) bench_.transport().seek(bench_.selection().passage()->start);
  return std::exchange(edge_, Edge::none) != Edge::none;
}

}  // namespace ear
