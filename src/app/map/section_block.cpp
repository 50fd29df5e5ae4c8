// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/map/section_block.h"

#include <QPainter>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {

void paintSection(QPainter& p, QRectF block, const Section& s, int bars) {
  const Theme& t = Theme::current();
  p.setPen(Qt::NoPen);
  p.setBrush(t.block(text(s.letter)));
  p.drawRoundedRect(block, 3, 3);
  if (!s.difference.empty()) {  // same, but different
    QColor lines = t.ink;
    lines.setAlpha(40);
    p.setBrush(QBrush(lines, Qt::BDiagPattern));
    p.drawRoundedRect(block, 3, 3);
  }
  p.setPen(t.ink);
  const QRectF inside = block.adjusted(7, 2, -4, -2);
  p.setFont(Theme::font(Theme::Face::strong));
  const QString letter = text(s.letter);
  if (block.width() > 12) p.drawText(inside, Qt::AlignLeft | Qt::AlignTop, letter);
  const int afterLetter = QFontMetrics(p.font()).horizontalAdvance(letter) + 6;
  p.setFont(Theme::font(Theme::Face::small));
  const QFontMetrics metrics(p.font());
  const QString length = counted(bars, QObject::tr("bar"), QObject::tr("bars"));
  if (bars > 0 && inside.width() > afterLetter + metrics.horizontalAdvance(length))
    p.drawText(inside.adjusted(afterLetter, 1, 0, 0), Qt::AlignLeft | Qt::AlignTop, length);
  // A guess has its question mark.
  const bool guess = s.name.empty() && !s.guess.empty();
  const QString under = guess ? text(s.guess) + "?" : s.name.empty() ? text(clockTime(s.span.start)) : text(s.name);
  if (inside.width() > 22)
    p.drawText(inside, Qt::AlignLeft | Qt::AlignBottom,
               metrics.elidedText(under, Qt::ElideRight, static_cast<int>(inside.width())));
}

}  // namespace ear
