// SPDX-License-Identifier: GPL-3.0-or-later
// A written phrase on paper.
#include <memory>

#include "app/sheet/sheet_item.h"
#include "app/tab/tab_painter.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/engraving/spacing.h"
#include "core/engraving/systems.h"

namespace ear {
namespace {

constexpr double kGap = 11.0;         // of the painter's own pixels, which are scaled to the paper
constexpr double kNames = 2.6;        // gaps for the names of the strings
constexpr double kFull = 1.6;         // up to which a phrase's last line is drawn wider to fill its room
constexpr double kLastStretch = 1.3;  // else
constexpr double kBarLine = 1.25;     // gaps from a moment back to the bar line before it, as the painter draws it

/// A system with all that its painter looks at.
struct System {
  TabSystem part;
  std::unique_ptr<Spacing> spacing;
  TabLook look;
  double stretch = 1.0, right = 0.0;  // right end of the strings, in gaps behind their left end
};

std::shared_ptr<System> systemOf(const SheetPhrase& b, TabSystem part, double room, bool last) {
  auto s = std::make_shared<System>();
  s->part = std::move(part);
  const TabScore& score = s->part.score;
  s->spacing = std::make_unique<Spacing>(score);
  const bool closed = !score.barLines.empty() && score.barLines.back() == score.to;
  // Up to the last bar line where one closes the system.
  const double natural = closed ? s->spacing->xOf(score.to) : s->spacing->width();
  const double wanted = closed ? room + kBarLine : room;
  s->stretch = wanted / natural;
  if (last && s->stretch > kFull) s->stretch = kLastStretch;
  s->right = natural * s->stretch - (closed ? kBarLine : 0.0);
  TabLook& look = s->look;
  look.gap = kGap;
  look.theme = Theme::paper();
  for (const auto& name : b.strings) look.stringNames << text(name);
  for (std::size_t i = 0; i < score.barLines.size(); ++i) {
    const std::size_t bar = s->part.firstBar + i;
    const bool closing = i + 1 == score.barLines.size() && closed;
    if (closing || bar >= b.bars.size())
      look.barNames << QString();
    else
      look.barNames << (i == 0 ? QStringLiteral("%1   %2").arg(b.bars[bar]).arg(text(clockTenths(b.barTimes[bar])))
                               : QString::number(b.bars[bar]));
  }
  const auto within = [&](const auto& all, auto& own) {
    for (const auto& [at, name] : all)
      if (at >= score.from && at < score.to) own.emplace_back(at, text(name));
  };
  within(b.chords, look.chords);
  within(b.scales, look.scales);
  return s;
}

void paintSystem(QPainter& p, const System& s, double unit, double top) {
  p.save();
  p.translate(0, top);
  p.scale(unit / kGap, unit / kGap);
  const double left = kNames * kGap;
  const TabPainter painter(
      s.part.score, [&](Beats at) { return left + s.spacing->xOf(at) * s.stretch * kGap; }, s.look);
  painter.paint(p, left, left + s.right * kGap, 0);
  p.restore();
}

SheetItem nameItem(const SheetPhrase& b, const SheetStyle& style, double width) {
  const double high = style.of(6);
  return {high,
          [=](QPainter& p, double top) {
            const Theme& t = Theme::paper();
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

std::vector<SheetItem> itemsOf(const SheetPhrase& block, const SheetStyle& style, double width) {
  std::vector<SheetItem> items{nameItem(block, style, width)};
  for (std::size_t i = 1; i < block.about.size(); ++i) {
    items.push_back(wordsItem(text(block.about[i]), style.body(), Theme::paper().ink, width));
    items.back().before = style.of(1);
    items.back().staysWithNext = true;
  }
  const double unit = style.gap(), room = width / unit - kNames;
  auto systems = systemsOf(block.score, room);
  for (std::size_t i = 0; i < systems.size(); ++i) {
    const auto system = systemOf(block, std::move(systems[i]), room, i + 1 == systems.size());
    const double high = TabPainter::heightFor(system->part.score, system->look) * unit / kGap;
    // No line of a phrase stands alone at the foot or the head of a page.
    const bool together = systems.size() <= 3 ? i + 1 < systems.size() : i == 0 || i + 2 == systems.size();
    items.push_back(
        {high, [=](QPainter& p, double top) { paintSystem(p, *system, unit, top); }, style.of(2.2), together});
  }
  if (!block.remark.empty()) {
    items.back().staysWithNext = true;
    items.push_back(wordsItem(text(block.remark), style.body(), Theme::paper().ink, width));
    items.back().before = style.of(1);
  }
  items.back().staysWithNext = false;
  return items;
}

}  // namespace ear
