// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/sheet_item.h"

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"

namespace ear {
namespace {

constexpr int kWrapped = Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop;

double heightOf(const QString& words, const QFont& font, double width) {
  return QFontMetricsF(font).boundingRect(QRectF(0, 0, width, 1e6), kWrapped, words).height();
}

SheetItem headingItem(const std::string& words, const SheetStyle& style, double width) {
  const QFont font = style.heading();
  const double line = style.of(1.6);
  return {line + QFontMetricsF(font).height() + style.of(0.8),
          [=](QPainter& p, double top) {
            const Theme& t = style.theme;
            p.setPen(QPen(t.hairline, style.of(0.2)));
            p.drawLine(QPointF(0, top), QPointF(width, top));
            p.setFont(font);
            p.setPen(t.ink);
            p.drawText(QRectF(0, top + line, width, mm(50)), Qt::AlignLeft | Qt::AlignTop, text(words));
          },
          style.of(5.5), true};
}

/// Widths that hold the cells, the last one taking what is left; what is too wide is broken within its cell.
std::vector<double> columnsOf(const SheetTable& table, const SheetStyle& style, double width) {
  std::vector<double> wide;
  const auto reach = [&](const std::vector<std::string>& cells, const QFont& font) {
    wide.resize(std::max(wide.size(), cells.size()), 0.0);
    for (std::size_t c = 0; c < cells.size(); ++c)
      wide[c] = std::max(wide[c], QFontMetricsF(font).horizontalAdvance(text(cells[c])) + style.of(4));
  };
  reach(table.head, style.small());
  for (const auto& row : table.rows) reach(row, style.body());
  if (wide.empty()) return wide;
  double sum = 0;
  for (const double w : wide) sum += w;
  // The widest gives way first.
  while (sum > width) {
    const auto widest = std::max_element(wide.begin(), wide.end());
    const double less = std::min(*widest - width / static_cast<double>(wide.size() + 1), sum - width);
    if (less <= 1) break;
    *widest -= less, sum -= less;
  }
  return wide;
}

void addRow(std::vector<SheetItem>& items, const std::vector<std::string>& cells, const std::vector<double>& wide,
            const SheetStyle& style, bool head) {
  const QFont font = head ? style.small() : style.body();
  double high = 0;
  for (std::size_t c = 0; c < cells.size(); ++c)
    high = std::max(high, heightOf(text(cells[c]), font, wide[c] - style.of(2)));
  items.push_back({high + style.of(1.1),
                   [=](QPainter& p, double top) {
                     const Theme& t = style.theme;
                     double left = 0;
                     p.setFont(font);
                     for (std::size_t c = 0; c < cells.size(); left += wide[c++]) {
                       p.setPen(head || (c == 0 && cells.size() > 1 && !head) ? t.softInk : t.ink);
                       p.drawText(QRectF(left, top + style.of(0.5), wide[c] - style.of(2), 1e5), kWrapped,
                                  text(cells[c]));
                     }
                   },
                   0.0, head});
}

/// Sets one block after the other.
struct Setter {
  std::vector<SheetItem>& items;
  const SheetStyle& style;
  double width;

  void add(std::vector<SheetItem> more) const { items.insert(items.end(), more.begin(), more.end()); }
  void operator()(const SheetHeading& b) const { items.push_back(headingItem(b.text, style, width)); }
  void operator()(const SheetWords& b) const {
    using Tone = SheetWords::Tone;
    const Theme& t = style.theme;
    const bool soft = b.tone == Tone::soft;
    items.push_back(wordsItem(text(b.text), soft ? style.small() : style.body(),
                              soft                      ? t.softInk
                              : b.tone == Tone::caution ? t.warning
                                                        : t.ink,
                              width));
    items.back().before = style.of(0.9);
  }
  void operator()(const SheetTable& b) const {
    const auto wide = columnsOf(b, style, width);
    if (!b.head.empty()) addRow(items, b.head, wide, style, true);
    for (const auto& row : b.rows) addRow(items, row, wide, style, false);
    // Neither the first nor the last row stands alone.
    if (b.rows.size() > 1)
      items[items.size() - b.rows.size()].staysWithNext = items[items.size() - 2].staysWithNext = true;
  }
  void operator()(const SheetPassage& b) const {
    items.push_back(wordsItem(text(b.name) + ": " + text(b.about), style.body(), style.theme.ink, width));
    items.back().before = style.of(2);
    if (b.typed.empty()) return;
    items.back().staysWithNext = true;
    // Typed lines keep their columns: where the longest does not fit, all become smaller.
    QFont font = style.typed();
    const QStringList lines = text(b.typed).split('\n');
    double widest = 1;
    for (const QString& line : lines) widest = std::max(widest, QFontMetricsF(font).horizontalAdvance(line));
    if (widest > width) font.setPixelSize(std::max(1, static_cast<int>(font.pixelSize() * width / widest)));
    const double high = QFontMetricsF(font).height();
    items.push_back({high * static_cast<double>(lines.size()), [=, ink = style.theme.ink](QPainter& p, double top) {
                       p.setFont(font);
                       p.setPen(ink);
                       for (qsizetype i = 0; i < lines.size(); ++i)
                         p.drawText(QPointF(0, top + high * (static_cast<double>(i) + 0.8)), lines[i]);
                     }});
  }
  void operator()(const SheetTuning& b) const { add(itemsOf(b, style, width)); }
  void operator()(const SheetChart& b) const { add(itemsOf(b, style, width)); }
  void operator()(const SheetBoxes& b) const { add(itemsOf(b, style, width)); }
  void operator()(const SheetNeck& b) const { add(itemsOf(b, style, width)); }
  void operator()(const SheetPhrase& b) const { add(itemsOf(b, style, width)); }
};

}  // namespace

SheetItem wordsItem(const QString& words, const QFont& font, const QColor& ink, double width) {
  return {heightOf(words, font, width), [=](QPainter& p, double top) {
            p.setFont(font);
            p.setPen(ink);
            p.drawText(QRectF(0, top, width, 1e6), kWrapped, words);
          }};
}

std::vector<SheetItem> itemsOf(const SheetBlock& block, const SheetStyle& style, double width) {
  std::vector<SheetItem> items;
  std::visit(Setter{items, style, width}, block);
  return items;
}

std::vector<SheetItem> itemsOf(const Sheet& sheet, const SheetStyle& style, double width) {
  const Theme& t = style.theme;
  std::vector<SheetItem> items{wordsItem(text(sheet.title), style.title(), t.ink, width),
                               wordsItem(text(sheet.recording), style.body(), t.softInk, width)};
  items.front().staysWithNext = true;
  for (const auto& block : sheet.blocks) std::visit(Setter{items, style, width}, block);
  return items;
}

}  // namespace ear
