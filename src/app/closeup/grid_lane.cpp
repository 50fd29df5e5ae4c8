#include "app/closeup/grid_lane.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/closeup/close_up.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/study/lesson_notes.h"

namespace ear {
namespace {

constexpr double kReach = 5;        // pixels
constexpr double kNumberRoom = 34;  // pixels between two numbered bars

}  // namespace

void GridLane::paintSections(QPainter& p) const {
  const auto& form = bench_.brief().form;
  if (!form) return;
  const Theme& t = Theme::current();
  for (const auto& s : form->value) {
    const double from = std::max(0.0, closeUp_.xOf(s.span.start)),
                 to = std::min<double>(closeUp_.width(), closeUp_.xOf(s.span.end));
    if (to > from) p.fillRect(QRectF(from, kTop, to - from, kHeight), t.block(text(s.letter)));
    if (to - from > 60 && !s.name.empty()) {
      p.setPen(t.ink);
      p.setFont(Theme::font(Theme::Face::small));
      p.drawText(QRectF(to - 160, kTop, 152, kHeight), Qt::AlignRight | Qt::AlignVCenter,
                 QFontMetrics(p.font()).elidedText(text(s.name), Qt::ElideRight, 150));
    }
    if (to - from > 24) {
      p.setPen(t.ink);
      p.setFont(Theme::font(Theme::Face::strong));
      p.drawText(QRectF(from + 5, kTop, 16, kHeight), Qt::AlignLeft | Qt::AlignVCenter, text(s.letter));
    }
  }
}

/// Little pennants in the ruler, with their words where there is room.
void GridLane::paintCues(QPainter& p) const {
  if (bench_.take() == nullptr) return;
  const Theme& t = Theme::current();
  p.setFont(Theme::font(Theme::Face::small));
  for (const auto& cue : bench_.take()->cues) {
    if (!closeUp_.window().contains(cue.time)) continue;
    const double x = closeUp_.xOf(cue.time);
    const QString words = QFontMetrics(p.font()).elidedText(text(cue.text), Qt::ElideRight, 160);
    const QRectF plate(x, 3, QFontMetrics(p.font()).horizontalAdvance(words) + 12, kTop - 8);
    p.setPen(QPen(t.warning, 1.5));
    p.drawLine(QPointF(x, 2), QPointF(x, kTop));
    p.setBrush(t.ground);
    p.drawRoundedRect(plate, 2, 2);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, words);
  }
}

/// A pin on the ruler for each note of the lesson; its words come when the pointer rests on it.
void GridLane::paintNotes(QPainter& p) const {
  if (bench_.take() == nullptr) return;
  const Theme& t = Theme::current();
  for (const auto& note : notesOf(bench_.document().study(), bench_.take()->id)) {
    if (!closeUp_.window().contains(note.time)) continue;
    const double x = closeUp_.xOf(note.time);
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(t.accentWash);
    p.drawLine(QPointF(x, kTop - 9), QPointF(x, kTop));
    p.drawRect(QRectF(x - 4, kTop - 17, 8, 8));
  }
}

QString GridLane::noteAt(QPointF at) const {
  if (bench_.take() == nullptr || at.y() > kTop) return {};
  for (const auto& note : notesOf(bench_.document().study(), bench_.take()->id))
    if (std::abs(closeUp_.xOf(note.time) - at.x()) < 6) return text(note.text);
  return {};
}

void GridLane::paint(QPainter& p) const {
  paintSections(p);
  paintCues(p);
  paintNotes(p);
  const Grid& grid = bench_.time().grid();
  if (grid.size() < 2) return;
  const Theme& t = Theme::current();
  const auto& form = bench_.brief().form;
  const auto startsSection = [&](Seconds bar) {
    return form && std::any_of(form->value.begin(), form->value.end(),
                               [&](const Section& s) { return std::abs((s.span.start - bar).value) < 0.1; });
  };
  const double perBeat =
      (closeUp_.xOf(grid.back().time) - closeUp_.xOf(grid.front().time)) / static_cast<double>(grid.size() - 1);
  const double perBar = perBeat * meterOf(grid);
  int every = 1;
  while (perBar > 0 && every * perBar < kNumberRoom) every *= 2;
  const int bottom = closeUp_.height();
  p.setFont(Theme::font(Theme::Face::small));
  int bar = 0;
  for (const Beat& beat : grid) {
    if (beat.bar) ++bar;
    if (!closeUp_.window().contains(beat.time)) continue;
    const double x = closeUp_.xOf(beat.time);
    if (!beat.bar) {
      if (perBeat <= 12) continue;
      p.setPen(QPen(t.hairline, 1, Qt::DotLine));
      p.drawLine(QPointF(x, CloseUp::kSoundTop), QPointF(x, bottom));
    } else if ((bar - 1) % every == 0) {
      p.setPen(QPen(t.softInk, 1));
      p.drawLine(QPointF(x, kTop), QPointF(x, perBar > 8 ? bottom : kTop + kHeight));
      p.setPen(t.ink);
      // Where a section starts its letter stands first.
      const double room = startsSection(beat.time) || x < 20 ? 22 : 4;
      p.drawText(QRectF(x + room, kTop, 40, kHeight), Qt::AlignLeft | Qt::AlignVCenter, QString::number(bar));
    }
    if (beat.fixed && perBeat > 4) {  // held by hand: a foot under the lane
      p.setPen(Qt::NoPen);
      p.setBrush(t.ink);
      p.drawRect(QRectF(x - 2.5, kTop + kHeight - 4, 5, 4));
    }
  }
}

std::optional<std::size_t> GridLane::lineAt(QPointF at) const {
  if (!contains(at.y())) return std::nullopt;
  const Grid& grid = bench_.time().grid();
  for (std::size_t i = 0; i < grid.size(); ++i)
    if (grid[i].bar && std::abs(closeUp_.xOf(grid[i].time) - at.x()) <= kReach) return i;
  return std::nullopt;
}

void GridLane::drag(std::size_t beat, Seconds to, bool alone) {
  bench_.time().edit(
      QObject::tr("Move bar line"),
      [&](Grid& grid) { moveBeat(grid, beat, to, alone ? Neighbours::stay : Neighbours::follow); },
      QObject::tr("Bar lines moved by hand."), "bar-line-" + std::to_string(beat));
}

}  // namespace ear
