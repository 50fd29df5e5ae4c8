// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/brief/fact_tile.h"

#include <QPainter>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr int kMargin = 14;
constexpr int kCaption = 15;  // the line with the fact's name

/// Sets the text as large as it fits on one line, else on as many lines as there is room for in the smallest size; only
/// what is longer still is cut, and stands whole in the tip.
void drawFitted(QPainter& p, const QRect& room, Qt::Alignment vertical, QFont font, std::initializer_list<double> sizes,
                const QString& text) {
  for (const double size : sizes) {
    font.setPointSizeF(size);
    const QFontMetrics metrics(font);
    if (metrics.horizontalAdvance(text) <= room.width() && metrics.height() <= room.height()) {
      p.setFont(font);
      p.drawText(room, static_cast<int>(Qt::AlignLeft | vertical), text);
      return;
    }
  }
  p.setFont(font);
  const QFontMetrics metrics(font);
  const int wrapped = static_cast<int>(Qt::AlignLeft | vertical) | Qt::TextWordWrap;
  const bool fits = metrics.boundingRect(room, wrapped, text).height() <= room.height();
  p.drawText(room, fits ? wrapped : static_cast<int>(Qt::AlignLeft | vertical),
             fits ? text : metrics.elidedText(text, Qt::ElideRight, room.width()));
}

}  // namespace

FactTile::FactTile(const QString& fact, QWidget* parent) : QAbstractButton(parent), fact_(fact) {
  setCheckable(true);
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setAccessibleName(fact);
}

QSize FactTile::sizeHint() const {
  return {200, folded_ ? Theme::kBriefLine - 6 : Theme::kBriefRow - 2 * Theme::kGrid};
}

void FactTile::fold(bool on) {
  folded_ = on;
  updateGeometry();
  update();
}

void FactTile::show(const TileFace& face) {
  face_ = face;
  setAccessibleDescription(face.sentence.isEmpty() ? face.whyUnknown : face.sentence + ", " + face.standing);
  update();
}

void FactTile::enterEvent(QEnterEvent*) {
  update();
}
void FactTile::leaveEvent(QEvent*) {
  update();
}

void FactTile::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF box = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
  p.setPen(hasFocus() ? QPen(t.accent, 2) : QPen(isChecked() || underMouse() ? t.accent : t.hairline, 1));
  p.setBrush(isChecked() ? t.accentWash : t.panel);
  p.drawRoundedRect(box, 6, 6);

  if (folded_) return paintFolded(p);
  const QRect inner = rect().adjusted(kMargin, 7, -kMargin, -7);
  p.setFont(Theme::font(Theme::Face::small));
  p.setPen(t.softInk);
  p.drawText(inner, Qt::AlignLeft | Qt::AlignTop, face_.about.isEmpty() ? fact_ : face_.about);
  if (face_.sentence.isEmpty()) {
    p.setFont(Theme::font(Theme::Face::text));
    p.drawText(inner.adjusted(0, 22, 0, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
               face_.working ? tr("Listening …") : face_.whyUnknown);
    return;
  }
  // Measured is drawn light, set plain, confirmed strong; the mark and the words say the same.
  p.drawText(inner, Qt::AlignRight | Qt::AlignTop, face_.standing);
  QFont font = Theme::font(Theme::Face::sentence);
  font.setWeight(face_.origin == Origin::measured ? QFont::Normal
                 : face_.origin == Origin::set    ? QFont::Medium
                                                  : QFont::Bold);
  p.setPen(t.ink);
  // One of the two lines may need two: the other leaves it the room.
  const QFont small = Theme::font(Theme::Face::small);
  const int figureLines = QFontMetrics(small).horizontalAdvance(face_.figure) > inner.width() ? 2 : 1;
  const int figureHeight = figureLines * QFontMetrics(small).height();
  drawFitted(p, inner.adjusted(0, kCaption, 0, -figureHeight), Qt::AlignVCenter, font,
             {15.0, 14.0, 13.0, 12.0, 11.0, 10.0}, face_.sentence);
  p.setPen(t.softInk);
  drawFitted(p, inner.adjusted(0, inner.height() - figureHeight, 0, 0), Qt::AlignBottom, small, {small.pointSizeF()},
             face_.figure);
  if (face_.origin != Origin::measured) {
    p.setPen(Qt::NoPen);
    p.setBrush(face_.origin == Origin::confirmed ? t.accent : t.softInk);
    p.drawRoundedRect(QRectF(0, 12, 4, height() - 24), 2, 2);
  }
}

void FactTile::paintFolded(QPainter& p) const {
  const Theme& t = Theme::current();
  QRect inner = rect().adjusted(8, 0, -8, 0);
  const QString sentence = !face_.sentence.isEmpty() ? face_.sentence : face_.working ? tr("Listening …") : tr("open");
  QFont font = Theme::font(Theme::Face::text);
  font.setWeight(face_.origin == Origin::confirmed ? QFont::Bold
                 : face_.origin == Origin::set     ? QFont::Medium
                                                   : QFont::Normal);
  p.setFont(Theme::font(Theme::Face::small));
  p.setPen(t.softInk);
  p.drawText(inner, Qt::AlignLeft | Qt::AlignVCenter, fact_);
  inner.adjust(QFontMetrics(p.font()).horizontalAdvance(fact_) + 8, 0, 0, 0);
  p.setFont(font);
  p.setPen(face_.sentence.isEmpty() ? t.softInk : t.ink);
  if (QFontMetrics(font).horizontalAdvance(sentence) > inner.width()) {
    font.setPointSizeF(Theme::font(Theme::Face::small).pointSizeF());
    p.setFont(font);
  }
  p.drawText(inner, Qt::AlignLeft | Qt::AlignVCenter,
             QFontMetrics(font).elidedText(sentence, Qt::ElideRight, inner.width()));
}

}  // namespace ear
