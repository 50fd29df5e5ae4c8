// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/ruler_lane.h"

#include <QPainter>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/study/lesson_notes.h"

namespace ear {
namespace {

constexpr double kReach = 6;  // pixels
constexpr double kLabelRoom = 90;
constexpr double kLeastPlate = 24;  // a mark with less room is a pole alone
constexpr int kPlateEdge = 12;

/// A step of the ruler that leaves room for its label.
double rulerStep(double secondsPerPixel) {
  const double least = secondsPerPixel * kLabelRoom;
  for (const double step :
       {0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0})
    if (step >= least) return step;
  return 1800.0;
}

}  // namespace

void RulerLane::paint(QPainter& p, const LaneView& view) {
  const Theme& t = Theme::current();
  p.fillRect(view.area, t.panel);
  p.setFont(Theme::font(Theme::Face::small));
  const double step = rulerStep(view.window.length().value / std::max(1.0, view.area.width()));
  for (double s = std::floor(view.window.start.value / step) * step; s < view.window.end.value; s += step) {
    const double x = view.xOf(Seconds(s));
    p.setPen(t.hairline);
    p.drawLine(QPointF(x, view.area.top()), QPointF(x, view.area.bottom()));
    p.setPen(t.softInk);
    QString label = text(step < 1 ? clockTenths(Seconds(s + 1e-9)) : clockTime(Seconds(s + 1e-9)));
    if (step < 0.1) label = text(clockTime(Seconds(s + 1e-9))) + text(fixed(std::fmod(s + 1e-9, 1.0), 2)).mid(1);
    p.drawText(QRectF(x + 4, view.area.top(), 80, kHeight), Qt::AlignLeft | Qt::AlignVCenter, label);
  }
  if (bench_.take() == nullptr) return;
  paintCues(p, view);
  paintNotes(p, view);
}

/// Little pennants, with their words where there is room.
void RulerLane::paintCues(QPainter& p, const LaneView& view) const {
  const Theme& t = Theme::current();
  const double foot = view.area.bottom();
  const QFontMetrics metrics(p.font());
  const auto& cues = bench_.take()->cues;
  for (std::size_t i = 0; i < cues.size(); ++i) {
    if (!view.window.contains(cues[i].time)) continue;
    const double x = view.xOf(cues[i].time);
    p.setPen(QPen(t.warning, 1.5));
    p.drawLine(QPointF(x, 2), QPointF(x, foot));
    // Its words reach to the next one at most.
    const double room = (i + 1 < cues.size() ? view.xOf(cues[i + 1].time) : view.area.right()) - x;
    if (room < kLeastPlate) continue;
    const QString words = metrics.elidedText(text(cues[i].text), Qt::ElideRight, static_cast<int>(room) - kPlateEdge);
    const QRectF plate(x, 3, metrics.horizontalAdvance(words) + kPlateEdge, kHeight - 8);
    p.setBrush(t.ground);
    p.drawRoundedRect(plate, 2, 2);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, words);
  }
}

/// A pin for each note of the lesson; its words come when the pointer rests on it.
void RulerLane::paintNotes(QPainter& p, const LaneView& view) const {
  const Theme& t = Theme::current();
  const double foot = view.area.bottom();
  for (const auto& note : notesOf(bench_.document().study(), bench_.take()->id)) {
    if (!view.window.contains(note.time)) continue;
    const double x = view.xOf(note.time);
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(t.accentWash);
    p.drawLine(QPointF(x, foot - 9), QPointF(x, foot));
    p.drawRect(QRectF(x - 4, foot - 17, 8, 8));
  }
}

QString RulerLane::tip(QPointF at, const LaneView& view) const {
  if (bench_.take() == nullptr) return {};
  for (const auto& note : notesOf(bench_.document().study(), bench_.take()->id))
    if (std::abs(view.xOf(note.time) - at.x()) < kReach) return text(note.text);
  const Marker* before = nullptr;
  for (const auto& cue : bench_.take()->cues)
    if (view.xOf(cue.time) - kReach < at.x() && (before == nullptr || cue.time > before->time)) before = &cue;
  if (before == nullptr) return {};
  const QFontMetrics metrics(Theme::font(Theme::Face::small));
  const bool onPlate = at.x() < view.xOf(before->time) + metrics.horizontalAdvance(text(before->text)) + kPlateEdge;
  return onPlate ? text(before->text) : QString();
}

}  // namespace ear
