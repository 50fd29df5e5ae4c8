// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/neck/neck_map.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr int kNames = 34, kFoot = 18, kTop = 4;
constexpr double kOpen = 0.8;  // width of the open strings' column, in frets

}  // namespace

NeckMap::NeckMap(QWidget* parent) : QWidget(parent) {
  setAccessibleName(tr("Neck"));
  setToolTip(tr("Click a place to hear its note at the recording's pitch"));
}

void NeckMap::setGuitar(const Guitar& guitar, const QStringList& names, bool fromNut, int frets) {
  guitar_ = guitar;
  names_ = names;
  fromNut_ = fromNut;
  frets_ = frets;
  update();
}

void NeckMap::setMarks(std::vector<NeckMark> marks) {
  marks_ = std::move(marks);
  update();
}

void NeckMap::setHand(std::optional<std::pair<int, int>> frets) {
  hand_ = frets;
  update();
}

void NeckMap::setLit(std::set<int> strings) {
  lit_ = std::move(strings);
  update();
}

double NeckMap::rowHeight() const {
  return static_cast<double>(height() - kTop - kFoot) / std::max(1, guitar_.strings());
}

/// Left edge of a fret's column; 0 is the open string.
double NeckMap::xOfFret(int fromNut) const {
  const double unit = (width() - kNames - 4) / (frets_ + kOpen);
  return kNames + (fromNut == 0 ? 0.0 : (fromNut - 1 + kOpen) * unit);
}

QRectF NeckMap::cell(int string, int fromNut) const {
  const double top = kTop + (guitar_.strings() - 1 - string) * rowHeight();
  return {QPointF(xOfFret(fromNut), top), QPointF(xOfFret(fromNut + 1), top + rowHeight())};
}

QPoint NeckMap::pointOf(FretPosition place) const {
  return cell(place.string, guitar_.fromNut(place)).center().toPoint();
}

QPoint NeckMap::pointOfName(int string) const {
  return {kNames / 2, pointOf({string, 0}).y()};
}

void NeckMap::paintWood(QPainter& p) const {
  const Theme& t = Theme::current();
  const double low = kTop + guitar_.strings() * rowHeight();
  const int capo = guitar_.capo.fret;
  if (hand_) {
    const double from = xOfFret(std::max(0, hand_->first + capo)), to = xOfFret(hand_->second + capo + 1);
    p.fillRect(QRectF(from, kTop, to - from, low - kTop), t.accentWash);
  }
  for (int f = 1; f <= frets_ + 1; ++f) {
    p.setPen(QPen(t.hairline, f == 1 ? 4 : 1.2));
    p.drawLine(QPointF(xOfFret(f), kTop), QPointF(xOfFret(f), low));
    if (f > frets_) break;
    const int shown = fromNut_ ? f : f - capo;
    if (shown < 0) continue;
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::small));
    p.drawText(QRectF(xOfFret(f), low, xOfFret(f + 1) - xOfFret(f), kFoot), Qt::AlignCenter,
               shown == 0 ? tr("capo") : QString::number(shown));
  }
  for (int s = 0; s < guitar_.strings(); ++s) {
    const double y = cell(s, 0).center().y();
    p.setPen(QPen(t.softInk, 0.8 + 0.2 * (guitar_.strings() - 1 - s)));
    p.drawLine(QPointF(xOfFret(1), y), QPointF(width() - 4, y));
    p.setPen(lit_.contains(s) ? t.accent : t.softInk);
    p.setFont(Theme::font(lit_.contains(s) ? Theme::Face::strong : Theme::Face::small));
    p.setOpacity(isLit(s) ? 1.0 : 0.4);
    p.drawText(QRectF(0, y - rowHeight() / 2, kNames - 6, rowHeight()), Qt::AlignRight | Qt::AlignVCenter,
               s < names_.size() ? names_[s] : QString());
    p.setOpacity(1.0);
    if (guitar_.capo.covers(static_cast<std::size_t>(s)))
      p.fillRect(QRectF(xOfFret(capo + 1) - 9, y - rowHeight() / 2, 6, rowHeight() + 0.5), t.ink);
  }
}

void NeckMap::paintMark(QPainter& p, const NeckMark& mark) const {
  const Theme& t = Theme::current();
  const int fret = guitar_.fromNut(mark.place);
  if (fret > frets_) return;
  const QRectF box = cell(mark.place.string, fret);
  const double h = std::min(rowHeight() - 2, 20.0);
  QRectF dot(0, 0, std::clamp(box.width() - 4, 10.0, 34.0), h);
  dot.moveCenter(box.center());
  p.setOpacity(!isLit(mark.place.string) ? 0.12 : mark.faded ? 0.35 : 1.0);
  QColor fill = t.panel;
  QPen line(t.softInk, 1.2);
  QColor letters = t.ink;
  switch (mark.kind) {
    case NeckMark::Kind::root:
      fill = t.accent, line = QPen(t.accent, 1.2), letters = t.onAccent;
      break;
    case NeckMark::Kind::chord:
      fill = t.ground, line = QPen(t.accent, 2.2);
      break;
    case NeckMark::Kind::inside:
      break;
    case NeckMark::Kind::outside:
      line = QPen(t.warning, 1.4, Qt::DashLine), letters = t.warning;
      break;
  }
  p.setPen(line);
  p.setBrush(fill);
  // A cut corner says "outside" to those who do not see the colour.
  if (mark.kind == NeckMark::Kind::outside) {
    p.drawPolygon(QPolygonF(
        {dot.topLeft() + QPointF(5, 0), dot.topRight(), dot.bottomRight() - QPointF(5, 0), dot.bottomLeft()}));
  } else {
    p.drawRoundedRect(dot, 5, 5);
  }
  if (h >= 13) {
    p.setPen(letters);
    QFont font = Theme::font(Theme::Face::small);
    if (mark.kind == NeckMark::Kind::root) font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.drawText(dot, Qt::AlignCenter, mark.label);
  }
  p.setOpacity(1.0);
}

void NeckMap::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  paintWood(p);
  for (const auto& mark : marks_) paintMark(p, mark);
}

void NeckMap::mousePressEvent(QMouseEvent* event) {
  for (int s = 0; s < guitar_.strings(); ++s) {
    if (event->position().x() < kNames && std::abs(event->position().y() - pointOf({s, 0}).y()) <= rowHeight() / 2)
      return emit named(s);
    for (int f = 0; f <= frets_; ++f) {
      if (!cell(s, f).contains(event->position())) continue;
      const int capo = guitar_.capo.covers(static_cast<std::size_t>(s)) ? guitar_.capo.fret : 0;
      emit struck({s, std::max(0, f - capo)});  // behind the capo it sounds as at the capo
      return;
    }
  }
}

}  // namespace ear
