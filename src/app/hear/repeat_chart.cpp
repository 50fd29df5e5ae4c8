// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/hear/repeat_chart.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/closeup/pitch_picture.h"
#include "app/tab/tab_painter.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kBand = 26, kFirstRow = 12, kRowsShown = 138;  // pixels between the two; rows of the map that are shown
constexpr double kEdge = 10.0;                               // pixels at each side, for the number of the first note
constexpr double kGap = 9.0;                                 // pixels between two strings
constexpr int kRaster = 960;                                 // of a beat: where the tab asks for a time

QImage pictureOf(const std::vector<float>& map, std::size_t columns) {
  QImage picture(static_cast<int>(columns), kRowsShown, QImage::Format_Indexed8);
  picture.setColorTable(pitchColours());
  for (int row = 0; row < kRowsShown; ++row)
    for (std::size_t c = 0; c < columns; ++c)
      picture.scanLine(kRowsShown - 1 - row)[c] =
          static_cast<uchar>(std::lround(255 * map[c * PitchMap::kRows + static_cast<std::size_t>(row + kFirstRow)]));
  return picture;
}

/// The time of a place between those that are known, evenly.
Seconds timeOf(const std::vector<std::pair<Beats, Seconds>>& times, Beats at) {
  const auto next =
      std::lower_bound(times.begin(), times.end(), at, [](const auto& t, Beats b) { return t.first < b; });
  if (next == times.end()) return times.back().second;
  if (next == times.begin() || next->first == at) return next->second;
  const auto before = std::prev(next);
  const double share = (at - before->first).value() / (next->first - before->first).value();
  return before->second + (next->second - before->second) * share;
}

TabLook lookOf(const RepeatChart::Written& side) {
  TabLook look;
  look.gap = kGap;
  look.rhythm = false;
  look.selected = side.differing;
  return look;
}

}  // namespace

RepeatChart::RepeatChart(QWidget* parent) : QWidget(parent) {
  setObjectName("compare-chart");
  setMinimumHeight(320);
  setAccessibleName(tr("Both times one above the other"));
  setToolTip(tr(
      "Above the passage, below the other time; marked where they differ, in the sound and in what is written. Click "
      "either to hear it from there"));
}

void RepeatChart::show(std::shared_ptr<const RepeatDifference> difference) {
  difference_ = std::move(difference);
  if (difference_ && difference_->columns > 0) {
    first_ = pictureOf(difference_->first, difference_->columns);
    second_ = pictureOf(difference_->second, difference_->columns);
  }
  update();
}

void RepeatChart::setWritten(Written first, Written second) {
  above_ = std::move(first);
  below_ = std::move(second);
  update();
}

double RepeatChart::xOf(const std::vector<Seconds>& columns, Seconds at) const {
  const double all = (columns.back() - columns.front()).value, wide = width() - 2 * kEdge;
  if (at < columns.front()) return kEdge - (columns.front() - at).value / all * wide;
  if (at > columns.back()) return kEdge + wide + (at - columns.back()).value / all * wide;
  const auto next = std::lower_bound(columns.begin(), columns.end(), at);
  return kEdge + static_cast<double>(next - columns.begin()) * wide / static_cast<double>(columns.size());
}

double RepeatChart::tabHeight(const Written& side) const {
  return side.times.empty() ? 0.0 : TabPainter::heightFor(side.view.score, lookOf(side)) + 4;
}

void RepeatChart::paintTab(QPainter& p, const Written& side, const std::vector<Seconds>& columns, double top) const {
  if (side.times.empty()) return;
  const TabPainter tab(
      side.view.score,
      [&](Beats at) { return xOf(columns, timeOf(side.times, Beats(std::llround(at.value() * kRaster), kRaster))); },
      lookOf(side));
  p.save();
  p.setClipRect(QRectF(0, top, width(), tabHeight(side)));  // a phrase may go on behind what is compared
  tab.paint(p, 0, width(), top + 2);
  p.restore();
}

void RepeatChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(rect(), t.panel);
  if (!difference_ || difference_->columns == 0) return;
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const int tabAbove = static_cast<int>(tabHeight(above_)), tabBelow = static_cast<int>(tabHeight(below_));
  const int half = (height() - kBand - tabAbove - tabBelow) / 2;
  const int edge = static_cast<int>(kEdge), wide = width() - 2 * edge;
  const QRect above(edge, tabAbove, wide, half), below(edge, tabAbove + half + kBand, wide, half);
  p.drawImage(above, first_);
  p.drawImage(below, second_);
  paintTab(p, above_, difference_->firstTime, 0);
  paintTab(p, below_, difference_->secondTime, below.bottom() + 1);
  const double column = static_cast<double>(wide) / static_cast<double>(difference_->columns);
  // How much they differ, between the two; and the stretches where it matters.
  p.setRenderHint(QPainter::Antialiasing, false);
  p.setPen(Qt::NoPen);
  for (std::size_t c = 0; c < difference_->columns; ++c) {
    const double share = std::clamp(static_cast<double>(difference_->difference[c]), 0.0, 1.0);
    p.setBrush(difference_->difference[c] > RepeatDifference::kDiffers ? t.warning : t.softInk);
    p.drawRect(QRectF(kEdge + static_cast<double>(c) * column, below.top() - 3 - share * (kBand - 6), column + 0.5,
                      share * (kBand - 6)));
  }
  for (const TimeSpan& span : difference_->differs) {
    const double from = xOf(difference_->firstTime, span.start), to = xOf(difference_->firstTime, span.end);
    p.setPen(QPen(t.warning, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(QRectF(from, above.top() + 1, to - from, half - 2));
    p.drawRect(QRectF(from, below.top() + 1, to - from, half - 2));
  }
  p.setFont(Theme::font(Theme::Face::small));
  const auto plate = [&](const QRect& area, const QString& words) {
    const QRectF box(area.left() + 6, area.top() + 6, QFontMetrics(p.font()).horizontalAdvance(words) + 10, 18);
    p.setPen(Qt::NoPen);
    p.setBrush(t.ground);
    p.drawRoundedRect(box, 3, 3);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, words);
  };
  plate(above, tr("the passage, from %1").arg(text(clockTenths(difference_->firstTime.front()))));
  plate(below, tr("the other time, from %1").arg(text(clockTenths(difference_->secondTime.front()))));
}

void RepeatChart::mousePressEvent(QMouseEvent* event) {
  if (!difference_ || difference_->columns == 0) return;
  const double share = std::clamp((event->position().x() - kEdge) / std::max(1.0, width() - 2 * kEdge), 0.0, 0.999);
  emit chosen(static_cast<std::size_t>(share * static_cast<double>(difference_->columns)),
              event->position().y() > (height() + tabHeight(above_) - tabHeight(below_)) / 2.0);
}

}  // namespace ear
