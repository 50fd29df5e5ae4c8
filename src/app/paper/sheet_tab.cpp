// SPDX-License-Identifier: GPL-3.0-or-later
// A written phrase on paper.
#include "app/paper/sheet_item.h"
#include "app/paper/tab_line.h"
#include "app/theme/words.h"

namespace ear {
namespace {

SheetItem nameItem(const SheetPhrase& b, const SheetStyle& style, double width) {
  const double high = style.of(6);
  return {high,
          [=](QPainter& p, double top) {
            const Theme& t = style.theme;
            double x = 0;
            if (b.number > 0) {
              const QString number = QString::number(b.number);
              p.setFont(style.name());
              const double wide = std::max(high, QFontMetricsF(style.name()).horizontalAdvance(number) + style.of(3));
              p.setPen(Qt::NoPen);
              p.setBrush(t.accent);
              p.drawRoundedRect(QRectF(0, top, wide, high), style.of(1.2), style.of(1.2));
              p.setPen(t.onAccent);
              p.drawText(QRectF(0, top, wide, high), Qt::AlignCenter, number);
              x = wide + style.of(2.4);
            }
            p.setFont(style.name());
            p.setPen(t.ink);
            p.drawText(QRectF(x, top, width - x, high), Qt::AlignLeft | Qt::AlignVCenter, text(b.name));
            x += QFontMetricsF(style.name()).horizontalAdvance(text(b.name)) + style.of(3);
            p.setFont(style.small());
            p.setPen(t.softInk);
            p.drawText(QRectF(x, top, width - x, high), Qt::AlignLeft | Qt::AlignVCenter, text(b.about.front()));
          },
          style.of(5), true};
}

}  // namespace

std::vector<SheetItem> tabItems(const SheetPhrase& block, const SheetStyle& style, double width) {
  std::vector<SheetItem> items;
  const double unit = style.gap();
  const auto lines = tabLinesOf(block, width / unit, style.theme);
  for (std::size_t i = 0; i < lines.size(); ++i) {
    // No line of a phrase stands alone at the foot or the head of a page.
    const bool together = lines.size() <= 3 ? i + 1 < lines.size() : i == 0 || i + 2 == lines.size();
    items.push_back({lines[i]->height() * unit,
                     [unit, line = lines[i]](QPainter& p, double top) { line->paint(p, unit, top); }, style.of(2.2),
                     together});
  }
  return items;
}

std::vector<SheetItem> itemsOf(const SheetPhrase& block, const SheetStyle& style, double width) {
  std::vector<SheetItem> items{nameItem(block, style, width)};
  for (std::size_t i = 1; i < block.about.size(); ++i) {
    items.push_back(wordsItem(text(block.about[i]), style.body(), style.theme.ink, width));
    items.back().before = style.of(1);
    items.back().staysWithNext = true;
  }
  for (SheetItem& line : tabItems(block, style, width)) items.push_back(std::move(line));
  if (!block.remark.empty()) {
    items.back().staysWithNext = true;
    items.push_back(wordsItem(text(block.remark), style.body(), style.theme.ink, width));
    items.back().before = style.of(1);
  }
  items.back().staysWithNext = false;
  return items;
}

}  // namespace ear
