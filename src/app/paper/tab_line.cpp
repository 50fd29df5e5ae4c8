// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/tab_line.h"

#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr double kGap = 11.0;         // of the painter's own pixels, which are scaled to the paper
constexpr double kNames = 2.6;        // gaps for the names of the strings
constexpr double kFull = 1.6;         // up to which a phrase's last line is drawn wider to fill its room
constexpr double kLastStretch = 1.3;  // else
constexpr double kBarLine = 1.25;     // gaps from a moment back to the bar line before it, as the painter draws it
constexpr double kStaves = 0.6;       // between two guitars

/// All that sounds at the time, for who breaks and spaces it.
TabScore together(const SheetPhrase& phrase) {
  std::vector<const TabScore*> scores{&phrase.score};
  for (const SheetPhrase& other : phrase.with) scores.push_back(&other.score);
  return scores.size() == 1 ? phrase.score : merged(scores);
}

}  // namespace

TabLine::Staff TabLine::staffOf(const SheetPhrase& b, Beats from, Beats to, const Theme& theme, bool first) {
  Staff staff{partOf(b.score, from, to), {}, 0.0};
  const TabScore& score = staff.part.score;
  TabLook& look = staff.look;
  look.gap = kGap;
  look.theme = theme;
  for (const auto& name : b.strings) look.stringNames << text(name);
  for (std::size_t i = 0; i < score.barLines.size(); ++i) {
    const std::size_t bar = staff.part.firstBar + i;
    const bool closing = i + 1 == score.barLines.size() && score.barLines.back() == score.to;
    if (closing || bar >= b.bars.size())
      look.barNames << QString();
    else if (!first)  // the guitar above has the numbers
      look.barNames << (i == 0 ? text(b.name) : QString());
    else
      look.barNames << (i == 0 ? QStringLiteral("%1   %2").arg(b.bars[bar]).arg(text(clockTenths(b.barTimes[bar])))
                               : QString::number(b.bars[bar]));
  }
  const auto within = [&](const auto& all, auto& own) {
    for (const auto& [at, name] : all)
      if (at >= score.from && at < score.to) own.emplace_back(at, text(name));
  };
  if (first) within(b.chords, look.chords);
  within(b.scales, look.scales);
  staff.height = TabPainter::heightFor(score, look) / kGap;
  return staff;
}

TabLine::TabLine(const SheetPhrase& phrase, Beats from, Beats to, double width, bool last, const Theme& theme) {
  staves_.push_back(staffOf(phrase, from, to, theme, true));
  for (const SheetPhrase& other : phrase.with) staves_.push_back(staffOf(other, from, to, theme, false));
  const TabScore all = partOf(together(phrase), from, to).score;
  spacing_ = std::make_unique<Spacing>(all);
  const double room = width - kNames;
  const bool closed = !all.barLines.empty() && all.barLines.back() == all.to;
  // Up to the last bar line where one closes the system.
  const double natural = closed ? spacing_->xOf(all.to) : spacing_->width();
  const double wanted = closed ? room + kBarLine : room;
  stretch_ = wanted / natural;
  if (last && stretch_ > kFull) stretch_ = kLastStretch;
  right_ = natural * stretch_ - (closed ? kBarLine : 0.0);
}

double TabLine::xOf(Beats at) const {
  return kNames + spacing_->xOf(at) * stretch_;
}

double TabLine::height() const {
  double high = kStaves * static_cast<double>(staves_.size() - 1);
  for (const Staff& staff : staves_) high += staff.height;
  return high;
}

void TabLine::paint(QPainter& p, double unit, double top) const {
  p.save();
  p.translate(0, top);
  p.scale(unit / kGap, unit / kGap);
  double y = 0, first = 0, low = 0;
  for (const Staff& staff : staves_) {
    const TabPainter painter(
        staff.part.score, [this](Beats at) { return xOf(at) * kGap; }, staff.look);
    painter.paint(p, kNames * kGap, (kNames + right_) * kGap, y);
    if (&staff == &staves_.front()) first = y + painter.yOf(staff.part.score.strings - 1);
    low = y + painter.bottomOfStrings();
    y += (staff.height + kStaves) * kGap;
  }
  if (staves_.size() > 1) {
    p.setPen(QPen(staves_.front().look.theme.ink, 0.16 * kGap));
    p.drawLine(QPointF(kNames * kGap, first), QPointF(kNames * kGap, low));
  }
  p.restore();
}

std::vector<std::shared_ptr<const TabLine>> tabLinesOf(const SheetPhrase& phrase, double width, const Theme& theme) {
  std::vector<std::shared_ptr<const TabLine>> lines;
  const auto systems = systemsOf(together(phrase), width - kNames);
  for (std::size_t i = 0; i < systems.size(); ++i)
    lines.push_back(std::make_shared<TabLine>(phrase, systems[i].score.from, systems[i].score.to, width,
                                              i + 1 == systems.size(), theme));
  return lines;
}

}  // namespace ear
