// SPDX-License-Identifier: GPL-3.0-or-later
// A whole neck on paper.
#include <algorithm>

#include "app/paper/sheet_item.h"
#include "app/theme/words.h"

namespace ear {
namespace {

constexpr double kRow = 5.0, kNames = 8.0, kOpen = 8.0, kMostFret = 13.0;  // mm
constexpr int kWithDots[] = {3, 5, 7, 9, 12, 15, 17, 19, 21};              // as on nearly every neck

void paintNeck(QPainter& p, const SheetNeck& b, const SheetStyle& style, double width, double top) {
  const Theme& t = style.theme;
  const auto count = static_cast<int>(b.strings.size());
  const double nut = style.of(kNames + kOpen), row = style.of(kRow);
  const double fret = std::min(style.of(kMostFret), (width - nut) / std::max(1, b.frets));
  const double end = nut + fret * b.frets;
  const auto yOf = [&](int string) { return top + row * (count - 1 - string + 0.5); };
  p.setFont(style.font(2.4));
  for (int f = 1; f <= b.frets; ++f) {
    p.setPen(QPen(t.hairline, style.of(0.2)));
    p.drawLine(QPointF(nut + f * fret, yOf(count - 1)), QPointF(nut + f * fret, yOf(0)));
    if (std::find(std::begin(kWithDots), std::end(kWithDots), f) == std::end(kWithDots)) continue;
    p.setPen(t.softInk);
    p.drawText(QRectF(nut + (f - 1) * fret, yOf(0) + row * 0.6, fret, style.of(4)), Qt::AlignCenter,
               QString::number(f));
  }
  p.setPen(QPen(t.ink, style.of(0.8)));
  p.drawLine(QPointF(nut, yOf(count - 1)), QPointF(nut, yOf(0)));
  for (int string = 0; string < count; ++string) {
    const double y = yOf(string);
    p.setPen(QPen(t.softInk, style.of(0.15 + 0.3 * (count - 1 - string) / std::max(1, count - 1))));
    p.drawLine(QPointF(nut, y), QPointF(end, y));
    p.setPen(t.softInk);
    p.setFont(style.small());
    p.drawText(QRectF(0, y - row / 2, style.of(kNames), row), Qt::AlignLeft | Qt::AlignVCenter,
               text(b.strings[static_cast<std::size_t>(string)]));
  }
  for (const SheetNeck::Dot& dot : b.dots) {
    const double x = dot.fret == 0 ? nut - style.of(kOpen / 2) : nut + (dot.fret - 0.5) * fret, y = yOf(dot.string);
    p.setPen(QPen(t.ink, style.of(0.25)));
    p.setBrush(dot.tonic ? t.accent : t.ground);
    const QRectF head(x - style.of(2.3), y - style.of(2.1), style.of(4.6), style.of(4.2));
    p.drawRoundedRect(head, style.of(1.2), style.of(1.2));
    p.setFont(style.font(2.5, QFont::DemiBold));
    p.setPen(dot.tonic ? t.onAccent : t.ink);
    p.drawText(head, Qt::AlignCenter, text(dot.label));
  }
}

}  // namespace

std::vector<SheetItem> itemsOf(const SheetNeck& block, const SheetStyle& style, double width) {
  std::vector<SheetItem> items{wordsItem(text(block.name), style.name(), style.theme.ink, width)};
  items.back().staysWithNext = true;
  const double high = style.of(kRow) * static_cast<double>(block.strings.size()) + style.of(5);
  items.push_back({high, [=](QPainter& p, double top) { paintNeck(p, block, style, width, top); }, style.of(1.5)});
  if (block.capo > 0)
    items.push_back(
        wordsItem(QObject::tr("Frets are counted from the capo."), style.small(), style.theme.softInk, width));
  return items;
}

}  // namespace ear
