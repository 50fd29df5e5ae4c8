// SPDX-License-Identifier: GPL-3.0-or-later
// The tuning, the chords of the form and the grips as pictures.
#include <algorithm>
#include <cmath>

#include "app/paper/sheet_item.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr std::size_t kRowsTogether = 3;
constexpr int kMiddleLeft = Qt::AlignLeft | Qt::AlignVCenter;

/// A string as thick as it sounds low: the lowest of `count` has number 0.
double thickness(std::size_t string, std::size_t count, const SheetStyle& style) {
  return style.of(0.15 +
                  0.4 * (1.0 - static_cast<double>(string) / static_cast<double>(std::max<std::size_t>(1, count - 1))));
}

void paintTuning(QPainter& p, const SheetTuning& b, const SheetStyle& style, double top) {
  const Theme& t = style.theme;
  // Without a capo a short piece of the neck tells which string is which.
  const double row = style.of(5.2), neck = style.of(30), end = neck + style.of(b.capo > 0 ? 70 : 26);
  const auto count = b.strings.size();
  const auto yOf = [&](std::size_t i) { return top + row * (static_cast<double>(i) + 0.5); };
  const int frets = b.capo > 0 ? 8 : 3;
  const double fret = (end - neck) / frets;
  p.setPen(QPen(t.ink, style.of(0.7)));
  p.drawLine(QPointF(neck, yOf(0) - style.of(1)), QPointF(neck, yOf(count - 1) + style.of(1)));
  p.setPen(QPen(t.hairline, style.of(0.18)));
  for (int f = 1; f < frets; ++f)
    p.drawLine(QPointF(neck + f * fret, yOf(0)), QPointF(neck + f * fret, yOf(count - 1)));
  for (std::size_t i = 0; i < count; ++i) {
    const auto& s = b.strings[i];
    const double y = yOf(i);
    p.setPen(QPen(t.softInk, thickness(count - 1 - i, count, style)));
    p.drawLine(QPointF(neck, y), QPointF(end, y));
    p.setFont(style.small());
    p.setPen(t.softInk);
    p.drawText(QRectF(0, y - row / 2, style.of(14), row), kMiddleLeft, text(s.name));
    p.setFont(s.changed ? style.font(4.0, QFont::Bold) : style.font(4.0, QFont::Medium));
    p.setPen(s.changed ? t.accent : t.ink);
    p.drawText(QRectF(style.of(15), y - row / 2, style.of(17), row), kMiddleLeft, text(s.note));
    p.setFont(style.body());
    p.setPen(t.ink);
    p.drawText(QRectF(end + style.of(3), y - row / 2, style.of(22), row), Qt::AlignRight | Qt::AlignVCenter,
               text(s.hertz) + QStringLiteral(" Hz"));
    p.setPen(t.softInk);
    p.drawText(QRectF(end + style.of(29), y - row / 2, style.of(34), row), kMiddleLeft, text(s.cents));
  }
  if (b.capo <= 0) return;
  const double x = neck + fret * std::min(b.capo - 0.5, 7.5);
  double from = 1e9, to = -1e9;
  for (std::size_t i = 0; i < count; ++i)
    if (b.strings[i].underCapo) from = std::min(from, yOf(i)), to = std::max(to, yOf(i));
  p.setPen(Qt::NoPen);
  p.setBrush(t.accent);
  p.drawRoundedRect(QRectF(x - style.of(0.9), from - style.of(1.6), style.of(1.8), to - from + style.of(3.2)),
                    style.of(0.9), style.of(0.9));
  p.setPen(t.accent);
  p.setFont(style.strong());
  p.drawText(QRectF(x - style.of(20), to + style.of(1.8), style.of(40), style.of(5)), Qt::AlignCenter,
             QObject::tr("capo %1").arg(b.capo));
}

double widestChord(const SheetChart::Bar& bar, const SheetStyle& style) {
  double wide = 0;
  for (const SheetChord& c : bar.chords)
    wide += std::max(QFontMetricsF(style.name()).horizontalAdvance(text(c.sounding)),
                     QFontMetricsF(style.small()).horizontalAdvance(text(c.shape))) +
            style.of(2.5);
  return wide;
}

void paintBars(QPainter& p, const std::vector<SheetChart::Bar>& bars, double wide, double high, const SheetStyle& style,
               double top) {
  const Theme& t = style.theme;
  const double room = high - style.of(1.2);
  for (std::size_t i = 0; i < bars.size(); ++i) {
    const QRectF cell(static_cast<double>(i) * wide, top, wide, room);
    p.fillRect(cell.adjusted(style.of(0.25), 0, -style.of(0.25), 0), t.panel);
    p.setPen(QPen(t.softInk, style.of(0.25)));
    p.drawLine(cell.topLeft(), cell.bottomLeft());
    if (i + 1 == bars.size()) p.drawLine(cell.topRight(), cell.bottomRight());
    if (i == 0) {
      p.setFont(style.font(2.2));
      p.setPen(t.softInk);
      p.drawText(QPointF(cell.left() + style.of(0.8), cell.top() + style.of(2.2)), QString::number(bars[i].number));
    }
    if (bars[i].chords.empty()) {  // the chord goes on
      p.setPen(QPen(t.softInk, style.of(0.3)));
      p.drawLine(QPointF(cell.center().x() - style.of(1.6), cell.center().y()),
                 QPointF(cell.center().x() + style.of(1.6), cell.center().y()));
    }
    const bool shapes =
        std::any_of(bars[i].chords.begin(), bars[i].chords.end(), [](const SheetChord& c) { return !c.shape.empty(); });
    double free = cell.left() + style.of(1.6);
    for (const SheetChord& c : bars[i].chords) {
      const double x = std::max(free, cell.left() + style.of(1.6) + c.at * (wide - style.of(2)));
      const QFont face = c.silent ? style.small() : style.name();
      p.setFont(face);
      p.setPen(c.open ? t.warning : c.silent ? t.softInk : t.ink);
      const QRectF line(x, cell.top() + (shapes ? style.of(3.0) : style.of(1.6)), wide,
                        shapes ? style.of(4.2) : room - style.of(1.2));
      p.drawText(line, kMiddleLeft, text(c.sounding));
      free = x + QFontMetricsF(face).horizontalAdvance(text(c.sounding)) + style.of(1.2);
      if (c.shape.empty()) continue;
      p.setFont(style.small());
      p.setPen(t.accent);
      p.drawText(QRectF(x, line.bottom(), wide, style.of(3.4)), kMiddleLeft, text(c.shape));
      free = std::max(free, x + QFontMetricsF(style.small()).horizontalAdvance(text(c.shape)) + style.of(1.2));
    }
  }
}

constexpr double kBoxWide = 33, kBoxHigh = 27;  // mm
constexpr int kBoxFrets = 4;

/// A grip lying as in tab: the highest string on top.
void paintBox(QPainter& p, const SheetBoxes::Box& b, const SheetStyle& style, double left, double top) {
  const Theme& t = style.theme;
  const auto count = b.frets.size();
  p.setFont(style.name());
  p.setPen(t.ink);
  p.drawText(QRectF(left, top, style.of(kBoxWide), style.of(4.5)), kMiddleLeft, text(b.sounding));
  if (!b.shape.empty()) {
    const double after = QFontMetricsF(style.name()).horizontalAdvance(text(b.sounding)) + style.of(2);
    p.setFont(style.small());
    p.setPen(t.accent);
    p.drawText(QRectF(left + after, top, style.of(kBoxWide), style.of(4.5)), kMiddleLeft, text(b.shape));
  }
  int low = 99, high = 0;
  for (const int f : b.frets)
    if (f > 0) low = std::min(low, f), high = std::max(high, f);
  const int first = high <= kBoxFrets ? 1 : low;
  const double gap = style.of(2.6), nut = left + style.of(5), fret = style.of(5.6), over = top + style.of(6.4);
  const auto yOf = [&](std::size_t string) { return over + gap * static_cast<double>(count - 1 - string); };
  const int frets = std::max(kBoxFrets, high - first + 1);
  p.setPen(QPen(t.hairline, style.of(0.2)));
  for (int f = 1; f <= frets; ++f) p.drawLine(QPointF(nut + f * fret, over), QPointF(nut + f * fret, yOf(0)));
  for (std::size_t s = 0; s < count; ++s) {
    p.setPen(QPen(t.softInk, thickness(s, count, style)));
    p.drawLine(QPointF(nut, yOf(s)), QPointF(nut + frets * fret, yOf(s)));
  }
  p.setPen(QPen(t.ink, style.of(first == 1 ? 0.8 : 0.25)));
  p.drawLine(QPointF(nut, over), QPointF(nut, yOf(0)));
  if (first > 1) {
    p.setFont(style.font(2.3));
    p.setPen(t.softInk);
    p.drawText(QRectF(nut, yOf(0) + style.of(1.2), fret, style.of(3)), Qt::AlignCenter, QString::number(first));
  }
  if (b.barre > 0) {
    std::size_t from = count, to = 0;
    for (std::size_t s = 0; s < count; ++s)
      if (b.frets[s] >= b.barre) from = std::min(from, s), to = std::max(to, s);
    if (from < to) {
      p.setPen(Qt::NoPen);
      p.setBrush(t.softInk);
      const double x = nut + (b.barre - first + 0.5) * fret;
      p.drawRoundedRect(
          QRectF(x - style.of(0.6), yOf(to) - style.of(1), style.of(1.2), yOf(from) - yOf(to) + style.of(2)),
          style.of(0.6), style.of(0.6));
    }
  }
  for (std::size_t s = 0; s < count; ++s) {
    const double y = yOf(s), side = style.of(0.9);
    p.setBrush(Qt::NoBrush);
    if (b.frets[s] < 0) {  // silent
      const double x = nut - style.of(2.4);
      p.setPen(QPen(t.softInk, style.of(0.25)));
      p.drawLine(QPointF(x - side, y - side), QPointF(x + side, y + side));
      p.drawLine(QPointF(x - side, y + side), QPointF(x + side, y - side));
    } else if (b.frets[s] == 0) {
      p.setPen(QPen(t.ink, style.of(0.25)));
      p.drawEllipse(QPointF(nut - style.of(2.4), y), side, side);
    } else {
      p.setPen(Qt::NoPen);
      p.setBrush(t.ink);
      p.drawEllipse(QPointF(nut + (b.frets[s] - first + 0.5) * fret, y), style.of(1.15), style.of(1.15));
    }
  }
}

}  // namespace

std::vector<SheetItem> itemsOf(const SheetTuning& block, const SheetStyle& style, double) {
  const double high =
      style.of(5.2) * static_cast<double>(block.strings.size()) + (block.capo > 0 ? style.of(6) : style.of(1));
  return {{high, [=](QPainter& p, double top) { paintTuning(p, block, style, top); }, style.of(2)}};
}

std::vector<SheetItem> itemsOf(const SheetChart& block, const SheetStyle& style, double width) {
  double widest = style.of(16);
  bool shapes = false;
  for (const auto& section : block.sections)
    for (const auto& bar : section.bars) {
      widest = std::max(widest, widestChord(bar, style));
      for (const SheetChord& c : bar.chords) shapes = shapes || !c.shape.empty();
    }
  std::size_t inRow = 8;
  while (inRow > 2 && widest > width / static_cast<double>(inRow)) inRow /= 2;
  const double wide = width / static_cast<double>(inRow), high = shapes ? style.of(12.4) : style.of(9);
  std::vector<SheetItem> items;
  for (const auto& s : block.sections) {
    QString about =
        text(clockTenths(s.span.start)) + ", " + counted(s.barCount, QObject::tr("bar"), QObject::tr("bars"));
    if (!s.sameAs.empty()) about += QObject::tr(", chords as at %1").arg(text(s.sameAs));
    if (!s.difference.empty()) about += ", " + text(s.difference);
    const QString letter = text(s.letter), name = text(s.name);
    items.push_back({style.of(6.2),
                     [=](QPainter& p, double top) {
                       const Theme& t = style.theme;
                       double x = 0;
                       const auto word = [&](const QString& words, const QFont& font, const QColor& ink) {
                         if (words.isEmpty()) return;
                         p.setFont(font);
                         p.setPen(ink);
                         p.drawText(QRectF(x, top, width, style.of(5)), kMiddleLeft, words);
                         x += QFontMetricsF(font).horizontalAdvance(words) + style.of(2.2);
                       };
                       word(letter, style.name(), t.accent);
                       word(name, style.name(), t.ink);
                       word(about, style.small(), t.softInk);
                     },
                     style.of(1.6), !s.bars.empty()});
    for (std::size_t i = 0; i < s.bars.size(); i += inRow) {
      const std::vector<SheetChart::Bar> row(
          s.bars.begin() + static_cast<std::ptrdiff_t>(i),
          s.bars.begin() + static_cast<std::ptrdiff_t>(std::min(s.bars.size(), i + inRow)));
      // A section of few rows stays in one piece.
      const bool together = s.bars.size() <= kRowsTogether * inRow && i + inRow < s.bars.size();
      items.push_back(
          {high, [=](QPainter& p, double top) { paintBars(p, row, wide, high, style, top); }, 0.0, together});
    }
  }
  return items;
}

std::vector<SheetItem> itemsOf(const SheetBoxes& block, const SheetStyle& style, double width) {
  const auto inRow = std::max<std::size_t>(1, static_cast<std::size_t>((width + style.of(4)) / style.of(kBoxWide)));
  std::vector<SheetItem> items;
  for (std::size_t i = 0; i < block.boxes.size(); i += inRow) {
    const std::vector<SheetBoxes::Box> row(
        block.boxes.begin() + static_cast<std::ptrdiff_t>(i),
        block.boxes.begin() + static_cast<std::ptrdiff_t>(std::min(block.boxes.size(), i + inRow)));
    items.push_back({style.of(kBoxHigh),
                     [=](QPainter& p, double top) {
                       for (std::size_t k = 0; k < row.size(); ++k)
                         paintBox(p, row[k], style, static_cast<double>(k) * style.of(kBoxWide), top);
                     },
                     style.of(1.5)});
  }
  if (block.capo > 0) {
    items.push_back(
        wordsItem(QObject::tr("Frets are counted from the capo."), style.small(), style.theme.softInk, width));
    items[items.size() - 2].staysWithNext = true;
  }
  return items;
}

}  // namespace ear
