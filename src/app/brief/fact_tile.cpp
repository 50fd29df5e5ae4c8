#include "app/brief/fact_tile.h"

#include <QPainter>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr int kMargin = 14;

/// The largest face at which the sentence fits on one line, else two lines at the smallest.
QFont fittingFont(const QString& text, int width) {
  QFont font = Theme::font(Theme::Face::sentence);
  for (const double size : {15.0, 14.0, 13.0, 12.0, 11.0}) {
    font.setPointSizeF(size);
    if (QFontMetrics(font).horizontalAdvance(text) <= width) break;
  }
  return font;
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
  return {200, Theme::kBriefRow - 2 * Theme::kGrid};
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

  const QRect inner = rect().adjusted(kMargin, 8, -kMargin, -8);
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
  QFont font = fittingFont(face_.sentence, inner.width());
  font.setWeight(face_.origin == Origin::measured ? QFont::Normal
                 : face_.origin == Origin::set    ? QFont::Medium
                                                  : QFont::Bold);
  p.setFont(font);
  p.setPen(t.ink);
  const QRect line = inner.adjusted(0, 18, 0, -18);
  p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
             QFontMetrics(font).elidedText(face_.sentence, Qt::ElideRight, line.width()));
  p.setFont(Theme::font(Theme::Face::small));
  p.setPen(t.softInk);
  p.drawText(inner, Qt::AlignLeft | Qt::AlignBottom,
             QFontMetrics(p.font()).elidedText(face_.figure, Qt::ElideRight, inner.width()));
  if (face_.origin != Origin::measured) {
    p.setPen(Qt::NoPen);
    p.setBrush(face_.origin == Origin::confirmed ? t.accent : t.softInk);
    p.drawRoundedRect(QRectF(0, 12, 4, height() - 24), 2, 2);
  }
}

}  // namespace ear
