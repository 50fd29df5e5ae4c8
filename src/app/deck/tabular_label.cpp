// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/deck/tabular_label.h"

#include <QPainter>

#include "app/theme/theme.h"

namespace ear {

TabularLabel::TabularLabel(const QFont& font, QWidget* parent) : QWidget(parent) {
  setFont(font);
}

void TabularLabel::setText(const QString& text) {
  if (text == text_) return;
  text_ = text;
  setAccessibleName(text);
  updateGeometry();
  update();
}

int TabularLabel::widthOf(QChar c) const {
  const QFontMetrics metrics(font());
  if (!c.isDigit()) return metrics.horizontalAdvance(c);
  int widest = 0;
  for (char d = '0'; d <= '9'; ++d) widest = std::max(widest, metrics.horizontalAdvance(QLatin1Char(d)));
  return widest;
}

QSize TabularLabel::sizeHint() const {
  int width = 0;
  for (const QChar c : text_) width += widthOf(c);
  return {width, QFontMetrics(font()).height()};
}

void TabularLabel::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setFont(font());
  p.setPen(Theme::current().ink);
  int x = 0;
  for (const QChar c : text_) {
    const int w = widthOf(c);
    p.drawText(QRect(x, 0, w, height()), Qt::AlignCenter, QString(c));
    x += w;
  }
}

}  // namespace ear
