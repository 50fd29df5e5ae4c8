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

}  // namespace

TabLine::TabLine(const SheetPhrase& b, TabSystem part, double width, bool last, const Theme& theme)
    : part_(std::move(part)), spacing_(part_.score) {
  const TabScore& score = part_.score;
  const double room = width - kNames;
  const bool closed = !score.barLines.empty() && score.barLines.back() == score.to;
  // Up to the last bar line where one closes the system.
  const double natural = closed ? spacing_.xOf(score.to) : spacing_.width();
  const double wanted = closed ? room + kBarLine : room;
  stretch_ = wanted / natural;
  if (last && stretch_ > kFull) stretch_ = kLastStretch;
  right_ = natural * stretch_ - (closed ? kBarLine : 0.0);
  look_.gap = kGap;
  look_.theme = theme;
  for (const auto& name : b.strings) look_.stringNames << text(name);
  for (std::size_t i = 0; i < score.barLines.size(); ++i) {
    const std::size_t bar = part_.firstBar + i;
    const bool closing = i + 1 == score.barLines.size() && closed;
    if (closing || bar >= b.bars.size())
      look_.barNames << QString();
    else
      look_.barNames << (i == 0 ? QStringLiteral("%1   %2").arg(b.bars[bar]).arg(text(clockTenths(b.barTimes[bar])))
                                : QString::number(b.bars[bar]));
  }
  const auto within = [&](const auto& all, auto& own) {
    for (const auto& [at, name] : all)
      if (at >= score.from && at < score.to) own.emplace_back(at, text(name));
  };
  within(b.chords, look_.chords);
  within(b.scales, look_.scales);
}

double TabLine::xOf(Beats at) const {
  return kNames + spacing_.xOf(at) * stretch_;
}

double TabLine::height() const {
  return TabPainter::heightFor(part_.score, look_) / kGap;
}

void TabLine::paint(QPainter& p, double unit, double top) const {
  p.save();
  p.translate(0, top);
  p.scale(unit / kGap, unit / kGap);
  const TabPainter painter(
      part_.score, [this](Beats at) { return xOf(at) * kGap; }, look_);
  painter.paint(p, kNames * kGap, (kNames + right_) * kGap, 0);
  p.restore();
}

std::vector<std::shared_ptr<const TabLine>> tabLinesOf(const SheetPhrase& phrase, double width, const Theme& theme) {
  std::vector<std::shared_ptr<const TabLine>> lines;
  auto systems = systemsOf(phrase.score, width - kNames);
  for (std::size_t i = 0; i < systems.size(); ++i)
    lines.push_back(std::make_shared<TabLine>(phrase, std::move(systems[i]), width, i + 1 == systems.size(), theme));
  return lines;
}

}  // namespace ear
