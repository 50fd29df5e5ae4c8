// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/chordbox/neck_grid.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr int kNames = 44, kNut = 56, kColumn = 68, kRow = 38, kFoot = 26, kTop = 10;
constexpr int kHighestFirst = 17;

}  // namespace

NeckGrid::NeckGrid(QWidget* parent) : QWidget(parent), frets_(6, kSilent) {
  setObjectName("neck-grid");
  setAccessibleName(tr("Neck"));
  setToolTip(tr(
      "Click a fret to stop the string there, or at the nut to open and to silence it. Arrows and Return do the same; "
      "Page Up and Page Down move along the neck."));
  setFocusPolicy(Qt::StrongFocus);
  setFixedSize(kNames + kNut + kFrets * kColumn + 12, kTop + 6 * kRow + kFoot);
}

void NeckGrid::setGuitar(const Guitar& guitar, const QStringList& names, Spelling spelling, bool fromNut) {
  guitar_ = guitar;
  names_ = names;
  fromNut_ = fromNut;
  spelling_ = spelling;
  frets_.resize(guitar.tuning.count(), kSilent);
  update();
}

void NeckGrid::setPlaces(const std::vector<FretPosition>& places) {
  std::fill(frets_.begin(), frets_.end(), kSilent);
  for (const FretPosition p : places) frets_[static_cast<std::size_t>(p.string)] = p.fret;
  scrollTo(frets_);
  update();
  emit changed();
}

std::vector<FretPosition> NeckGrid::places() const {
  std::vector<FretPosition> list;
  for (std::size_t s = 0; s < frets_.size(); ++s)
    if (frets_[s] != kSilent) list.push_back({static_cast<int>(s), frets_[s]});
  return list;
}

void NeckGrid::scrollTo(const std::vector<int>& frets) {
  int low = 99, high = 0;
  for (std::size_t s = 0; s < frets.size(); ++s) {
    if (frets[s] <= 0) continue;
    const int at = columnOf({static_cast<int>(s), frets[s]}) + first_ - 1;
    low = std::min(low, at), high = std::max(high, at);
  }
  if (high == 0 || (low >= first_ && high < first_ + kFrets)) return;
  first_ = high <= kFrets ? 1 : std::min(low, kHighestFirst);
}

QRectF NeckGrid::cell(int string, int column) const {
  const int row = guitar_.strings() - 1 - string;
  const int x = column == 0 ? kNames : kNames + kNut + (column - 1) * kColumn;
  return QRect(x, kTop + row * kRow, column == 0 ? kNut : kColumn, kRow);
}

int NeckGrid::fretAt(int string, int column) const {
  if (column == 0) return 0;
  const int fret = first_ + column - 1;
  return partial() ? std::max(0, fret - guitar_.fromNut({string, 0})) : fret;
}

int NeckGrid::columnOf(FretPosition place) const {
  return place.fret <= 0 ? 0 : (partial() ? guitar_.fromNut(place) : place.fret) - first_ + 1;
}

QPoint NeckGrid::pointOf(FretPosition place) const {
  return cell(place.string, columnOf(place)).center().toPoint();
}

void NeckGrid::press(int string, int column) {
  int& fret = frets_[static_cast<std::size_t>(string)];
  const int wanted = fretAt(string, column);
  fret = fret == wanted ? kSilent : wanted;
  update();
  emit changed();
}

void NeckGrid::mousePressEvent(QMouseEvent* event) {
  for (int s = 0; s < guitar_.strings(); ++s)
    for (int c = 0; c < columns(); ++c)
      if (cell(s, c).contains(event->position())) {
        cursorString_ = s, cursorColumn_ = c;
        press(s, c);
      }
}

void NeckGrid::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Up:
      cursorString_ = std::min(guitar_.strings() - 1, cursorString_ + 1);
      break;
    case Qt::Key_Down:
      cursorString_ = std::max(0, cursorString_ - 1);
      break;
    case Qt::Key_Left:
      cursorColumn_ = std::max(0, cursorColumn_ - 1);
      break;
    case Qt::Key_Right:
      cursorColumn_ = std::min(kFrets, cursorColumn_ + 1);
      break;
    case Qt::Key_PageUp:
      first_ = std::max(1, first_ - 1);
      break;
    case Qt::Key_PageDown:
      first_ = std::min(kHighestFirst, first_ + 1);
      break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      press(cursorString_, cursorColumn_);
      break;
    default:
      QWidget::keyPressEvent(event);
      return;
  }
  update();
}

void NeckGrid::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF low = cell(0, 1), high = cell(guitar_.strings() - 1, 1);
  for (int c = 1; c <= columns(); ++c) {
    const double x = kNames + kNut + (c - 1) * kColumn;
    p.setPen(QPen(t.hairline, c == 1 && first_ == 1 ? 5 : 1.5));
    p.drawLine(QPointF(x, high.center().y()), QPointF(x, low.center().y()));
    if (c == columns()) continue;
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::small));
    p.drawText(QRectF(x, low.bottom(), kColumn, kFoot), Qt::AlignCenter,
               QString::number(first_ + c - 1 + (fromNut_ && !partial() ? guitar_.capo.fret : 0)));
  }
  for (int s = 0; s < guitar_.strings(); ++s) {
    const double y = cell(s, 0).center().y();
    p.setPen(QPen(t.softInk, 1.0 + 0.25 * (guitar_.strings() - 1 - s)));
    p.drawLine(QPointF(kNames + kNut, y), QPointF(kNames + kNut + kFrets * kColumn, y));
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::text));
    p.drawText(QRectF(0, y - kRow / 2.0, kNames - 8, kRow), Qt::AlignRight | Qt::AlignVCenter,
               s < names_.size() ? names_[s] : QString());
    const int fret = frets_[static_cast<std::size_t>(s)];
    const int column = columnOf({s, fret});
    if (fret == kSilent) {
      p.drawText(cell(s, 0), Qt::AlignCenter, QStringLiteral("×"));
      continue;
    }
    if (column < 0 || column > kFrets) continue;
    QRectF dot(0, 0, 34, 26);
    dot.moveCenter(cell(s, column).center());
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(fret == 0 ? t.ground : t.accent);
    p.drawRoundedRect(dot, 6, 6);
    p.setPen(fret == 0 ? t.ink : t.onAccent);
    p.setFont(Theme::font(Theme::Face::strong));
    p.drawText(dot, Qt::AlignCenter,
               QString::fromStdString(pitchClassName(PitchClass(guitar_.pitch({s, fret})), spelling_)));
  }
  if (hasFocus()) {
    p.setPen(QPen(t.ink, 1, Qt::DotLine));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(cell(cursorString_, cursorColumn_).adjusted(4, 3, -4, -3), 5, 5);
  }
}

}  // namespace ear
