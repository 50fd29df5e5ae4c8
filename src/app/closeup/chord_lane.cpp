// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/chord_lane.h"

#include <QInputDialog>
#include <QMenu>
#include <QPainter>
#include <algorithm>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kLeastChord = 3;   // pixels: narrower ones would be a wall of lines
constexpr int kLeastNamed = 14;  // pixels

}  // namespace

void ChordLane::paint(QPainter& p, const LaneView& view) {
  const Theme& t = Theme::current();
  const double top = view.area.top();
  p.fillRect(view.area, t.ground);
  p.setPen(t.hairline);
  p.drawLine(QPointF(view.area.left(), view.area.bottom() - 1), QPointF(view.area.right(), view.area.bottom() - 1));
  if (bench_.take() == nullptr) return;
  const QFont small = Theme::font(Theme::Face::small);
  double free = 0;  // where the name before ends
  for (const auto& c : bench_.document().chords()) {
    if (c.span.end < view.window.start || c.span.start > view.window.end) continue;
    const double from = std::max(view.area.left(), view.xOf(c.span.start)),
                 to = std::min(view.area.right(), view.xOf(c.span.end));
    if (to - from < kLeastChord) continue;
    p.setPen(t.hairline);
    if (view.xOf(c.span.start) >= view.area.left()) p.drawLine(QPointF(from, top), QPointF(from, top + kHeight));
    if (!c.chord || from + 4 < free || to - from < kLeastNamed) continue;
    QFont font = Theme::font(Theme::Face::text);
    font.setWeight(c.origin == Origin::confirmed ? QFont::Bold
                   : c.origin == Origin::set     ? QFont::Medium
                                                 : QFont::Normal);
    p.setFont(font);
    p.setPen(c.certainty > 0.6 ? t.ink : t.softInk);
    const Session::ChordWords words = bench_.session().chordWords(*c.chord);
    const QString name = text(words.sounding), shape = text(words.shape);
    const int needed = QFontMetrics(font).horizontalAdvance(name);
    p.drawText(QRectF(from + 5, top, std::max<double>(needed, to - from), kHeight), Qt::AlignLeft | Qt::AlignVCenter,
               name);
    free = from + 5 + needed;
    if (shape.isEmpty() || free + 8 + QFontMetrics(small).horizontalAdvance(shape) > to) continue;
    p.setFont(small);
    p.setPen(t.softInk);
    p.drawText(QRectF(free + 6, top, to - free, kHeight), Qt::AlignLeft | Qt::AlignVCenter, shape);
  }
}

void ChordLane::clicked(QPointF at, const LaneView& view) {
  const auto chord = bench_.chords().at(view.timeAt(at.x()));
  if (chord && chord->chord && !bench_.transport().playing()) bench_.voice().chord(*chord->chord);
}

void ChordLane::doubleClicked(QPointF at, const LaneView& view) {
  const auto chord = bench_.chords().at(view.timeAt(at.x()));
  if (!chord || !chord->chord) return;
  bench_.selection().set(std::nullopt);
  bench_.selection().set(chord->span);
  bench_.transport().seek(chord->span.start);
}

void ChordLane::menu(QPointF at, QPoint global, const LaneView& view) {
  menuFor(view.timeAt(at.x()), global);
}

void ChordLane::menuFor(Seconds at, QPoint global) {
  const auto chord = bench_.chords().at(at);
  if (!chord) return;
  auto* window = qobject_cast<QWidget*>(parent());
  auto* menu = new QMenu(window);
  menu->setObjectName("chord-menu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  if (chord->chord) {
    menu->addAction(tr("Hear %1").arg(text(bench_.session().chordWords(*chord->chord).sounding)), this,
                    [this, c = *chord->chord] { bench_.voice().chord(c); });
    menu->addAction(tr("Loop it"), this, [this, span = chord->span] { bench_.selection().playSpot(span); });
    menu->addSeparator();
    menu->addAction(tr("Confirm by ear"), this, [this, c = *chord] {
      bench_.chords().decide(tr("Confirm chord"), c.span, c.chord, Origin::confirmed);
    });
  }
  menu->addAction(tr("It is another chord …"), this, [this, window, c = *chord] {
    bool fine = false;
    const QString typed = QInputDialog::getText(
        window, tr("Chord"), tr("What sounds here, such as F#m7 or D/F# (empty: no chord):"), QLineEdit::Normal,
        c.chord ? text(chordName(*c.chord, bench_.session().spelling())) : QString(), &fine);
    if (fine) bench_.chords().decideTyped(c.span, typed);
  });
  if (chord->origin != Origin::measured)
    menu->addAction(tr("Back to measured"), this, [this, span = chord->span] { bench_.chords().backToMeasured(span); });
  menu->popup(global);
}

QString ChordLane::tip(QPointF at, const LaneView& view) const {
  const auto chord = bench_.chords().at(view.timeAt(at.x()));
  if (!chord || !chord->chord) return {};
  QString notes;
  for (const PitchClass pc : notesOf(*chord->chord))
    notes += (notes.isEmpty() ? "" : " ") + text(pitchClassName(pc, bench_.session().spelling()));
  const auto [sounding, shape] = bench_.session().chordWords(*chord->chord);
  QString known = text(originWord(chord->origin));
  if (chord->origin == Origin::measured) {
    const QString root = text(certaintyWord(chord->certainty));
    known += chord->kindCertainty > 0 ? tr(", root %1, kind %2").arg(root, text(certaintyWord(chord->kindCertainty)))
                                      : ", " + root;
  }
  return tr("%1%2: %3\n%4 to %5, %6. Click to hear it, double-click to loop it, right-click to confirm or change it (J "
            "at the playhead).")
      .arg(text(sounding), shape.empty() ? QString() : tr(", %1 shape").arg(text(shape)), notes,
           text(clockTenths(chord->span.start)), text(clockTenths(chord->span.end)), known);
}

}  // namespace ear
