// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/charts.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/drawer/chart_paint.h"
#include "app/theme/theme.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/parts.h"

namespace ear {
namespace {

constexpr int kSideLane = 26, kSideNames = 48;

}  // namespace

CentsHistogram::CentsHistogram(QWidget* parent) : QWidget(parent) {
  setFixedHeight(120);
  setAccessibleName(tr("Histogram of cents"));
  setToolTip(tr("How much of the steady sound lies how many cents from the tempered notes at A 440"));
}

void CentsHistogram::show(const std::optional<ReferencePitch>& measured, std::optional<Cents> decided) {
  measured_ = measured;
  decided_ = decided;
  update();
}

void CentsHistogram::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  const int floor = paintFloor(p, size());
  const auto xOf = [&](double cents) { return (cents + 50) / 100 * (width() - 1); };
  for (const int c : {-50, -25, 0, 25, 50}) {
    p.setPen(t.hairline);
    p.drawLine(QPointF(xOf(c), 0), QPointF(xOf(c), floor));
    p.setPen(t.softInk);
    const QRectF box(xOf(c) - 24, floor + 2, 48, kChartAxis);
    const auto side = c == -50 ? Qt::AlignRight : c == 50 ? Qt::AlignLeft : Qt::AlignHCenter;
    p.drawText(box, static_cast<int>(side | Qt::AlignVCenter),
               c == 0 ? "A 440" : QString::fromStdString(centsFigure(Cents(c))));
  }
  if (!measured_) return;
  const float top = std::max(1e-9F, *std::max_element(measured_->histogram.begin(), measured_->histogram.end()));
  p.setPen(Qt::NoPen);
  p.setBrush(t.softInk);
  for (int i = 0; i < 100; ++i) {
    const double h = static_cast<double>(measured_->histogram[static_cast<std::size_t>(i)] / top) * (floor - 16);
    p.drawRect(QRectF(xOf(i - 50), floor - h, width() / 100.0 - 0.6, h));
  }
  if (decided_) {
    p.setPen(QPen(t.accent, 2));
    p.drawLine(QPointF(xOf(decided_->value), 0), QPointF(xOf(decided_->value), floor));
    p.setFont(Theme::font(Theme::Face::strong));
    const bool right = decided_->value < 20;
    const QRectF box(xOf(decided_->value) + (right ? 5 : -65), 0, 60, 16);
    p.drawText(box, right ? Qt::AlignLeft : Qt::AlignRight, QString::fromStdString(centsFigure(*decided_, 1)));
  }
}

CurveChart::CurveChart(double reach, QString (*label)(double), QWidget* parent)
    : QWidget(parent), reach_(reach), label_(label) {
  setFixedHeight(104);
  setCursor(Qt::PointingHandCursor);
}

void CurveChart::show(std::vector<Point> points, Seconds duration) {
  points_ = std::move(points);
  duration_ = duration;
  update();
}

void CurveChart::paintEvent(QPaintEvent*) {
  constexpr Seconds kBreak{2.5};  // nothing was measured for so long
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  if (points_.empty() || duration_ <= Seconds(0)) return;
  const auto [least, most] =
      std::minmax_element(points_.begin(), points_.end(), [](auto& a, auto& b) { return a.value < b.value; });
  const double middle = (least->value + most->value) / 2;
  const double reach = std::max(reach_, 1.15 * (most->value - least->value) / 2);
  const double low = middle - reach, high = middle + reach;
  const int floor = paintFloor(p, size());
  const auto yOf = [&](double value) { return floor - (value - low) / (high - low) * floor; };
  const double step = reach > 40 ? 50 : reach > 15 ? 20 : reach > 6 ? 5 : 2;
  for (double v = std::ceil(low / step) * step; v <= high; v += step) {
    p.setPen(t.hairline);
    p.drawLine(QPointF(0, yOf(v)), QPointF(width(), yOf(v)));
    p.setPen(t.softInk);
    if (yOf(v) > 12) p.drawText(QPointF(2, yOf(v) - 2), label_(v));
  }
  QPainterPath path;
  for (std::size_t i = 0; i < points_.size(); ++i) {
    const QPointF at(points_[i].time / duration_ * width(), yOf(points_[i].value));
    i == 0 || points_[i].time - points_[i - 1].time > kBreak ? path.moveTo(at) : path.lineTo(at);
  }
  p.setPen(QPen(t.accent, 1.6));
  p.drawPath(path);
  paintTimeAxis(p, QRectF(0, floor, width(), kChartAxis), duration_);
}

void CurveChart::mousePressEvent(QMouseEvent* event) {
  if (duration_ > Seconds(0)) emit clicked(duration_ * std::clamp(event->position().x() / width(), 0.0, 1.0));
}

SidesChart::SidesChart(QWidget* parent) : QWidget(parent) {
  setFixedHeight(3 * kSideLane + kChartAxis);
  setAccessibleName(tr("Where sound sits over time"));
  setToolTip(tr("How loud the steady sound is left, in the middle and right. Click to go there."));
}

void SidesChart::show(const std::vector<SidePoint>& sides, Seconds duration) {
  sides_ = sides;
  duration_ = duration;
  update();
}

double SidesChart::xOf(Seconds t) const {
  return kSideNames + (width() - kSideNames - 1) * (duration_ > Seconds(0) ? t / duration_ : 0.0);
}

void SidesChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  for (const Side side : kAllSides) {
    const auto lane = static_cast<int>(side);
    const double floor = (lane + 1) * kSideLane - 2;
    p.setPen(t.softInk);
    p.drawText(QRectF(0, lane * kSideLane, kSideNames, kSideLane), Qt::AlignLeft | Qt::AlignVCenter,
               QString::fromUtf8(sideWord(side).data()));
    p.setPen(t.hairline);
    p.drawLine(QPointF(kSideNames, floor), QPointF(width(), floor));
    if (sides_.size() < 2) continue;
    QPainterPath hill(QPointF(xOf(sides_.front().time), floor));
    for (const auto& point : sides_) {
      const double level = std::sqrt(static_cast<double>(point.level[static_cast<std::size_t>(side)]));
      hill.lineTo(xOf(point.time), floor - level * (kSideLane - 5));
    }
    hill.lineTo(xOf(sides_.back().time), floor);
    p.setPen(Qt::NoPen);
    p.setBrush(side == Side::centre ? t.softInk : t.accent);
    p.drawPath(hill);
  }
  paintTimeAxis(p, QRectF(kSideNames, 3 * kSideLane, width() - kSideNames, kChartAxis), duration_);
}

void SidesChart::mousePressEvent(QMouseEvent* event) {
  const double share = (event->position().x() - kSideNames) / std::max(1, width() - kSideNames);
  emit clicked(duration_ * std::clamp(share, 0.0, 1.0));
}

BarChart::BarChart(QWidget* parent) : QWidget(parent) {
  setFixedHeight(108);
}

void BarChart::show(std::vector<Bar> bars) {
  bars_ = std::move(bars);
  update();
}

void BarChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  const int floor = paintFloor(p, size());
  const double step = static_cast<double>(width()) / static_cast<double>(std::max<std::size_t>(1, bars_.size()));
  for (std::size_t i = 0; i < bars_.size(); ++i) {
    const double x = static_cast<double>(i) * step, h = static_cast<double>(bars_[i].height) * (floor - 8);
    p.setPen(Qt::NoPen);
    p.setBrush(bars_[i].marked ? t.accent : t.softInk);
    p.drawRect(QRectF(x + (step > 6 ? 2 : 0), floor - h, step - (step > 6 ? 4 : 0.3), h));
    if (bars_[i].noted) {  // a wedge above it
      const double middle = x + step / 2, top = std::max(7.0, floor - h - 1);
      p.setBrush(t.ink);
      p.drawPolygon(QPolygonF({{middle - 4, top - 6}, {middle + 4, top - 6}, {middle, top}}));
    }
    p.setPen(bars_[i].marked ? t.ink : t.softInk);
    if (!bars_[i].label.isEmpty())
      p.drawText(QRectF(x + step / 2 - 24, floor + 2, 48, kChartAxis), Qt::AlignHCenter | Qt::AlignVCenter,
                 bars_[i].label);
  }
}

}  // namespace ear
