// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/time_charts.h"

#include <QHelpEvent>
#include <QImage>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <algorithm>
#include <cmath>

#include "app/drawer/chart_paint.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/theory/rhythm_values.h"

namespace ear {
SwingChart::SwingChart(QWidget* parent) : QWidget(parent) {
  setFixedHeight(84);
  setObjectName("swing-picture");
  setAccessibleName(tr("Where the off-beats fall"));
  setToolTip(tr("How often and how strongly something starts at each place of a beat, over all beats"));
}

void SwingChart::show(const std::optional<BeatProfile>& profile, const Swing& swing) {
  profile_ = profile;
  swing_ = swing;
  update();
}

void SwingChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  const int floor = paintFloor(p, size());
  const std::pair<double, QString> places[] = {{0, tr("beat")},
                                               {0.25, QStringLiteral("¼")},
                                               {0.5, QStringLiteral("½")},
                                               {2.0 / 3, QStringLiteral("⅔")},
                                               {0.75, {}}};
  for (const auto& [share, name] : places) {
    const double x = share * (width() - 1);
    p.setPen(QPen(t.hairline, 1, share == 0.75 || share == 0.25 ? Qt::DotLine : Qt::SolidLine));
    p.drawLine(QPointF(x, 0), QPointF(x, floor));
    p.setPen(t.softInk);
    p.drawText(QRectF(share == 0 ? x : x - 30, floor + 2, 60, kChartAxis - 2),
               share == 0 ? Qt::AlignLeft : Qt::AlignHCenter, name);
  }
  if (!profile_) return;
  double top = 1e-9;
  for (const double s : profile_->strength) top = std::max(top, s);
  QPainterPath hill(QPointF(0, floor));
  for (std::size_t i = 0; i < BeatProfile::kPlaces; ++i)
    hill.lineTo(static_cast<double>(i) / BeatProfile::kPlaces * (width() - 1),
                floor - profile_->strength[i] / top * (floor - 4));
  hill.lineTo(width() - 1, floor - profile_->strength[0] / top * (floor - 4));
  hill.lineTo(width() - 1, floor);
  QColor wash = t.softInk;
  wash.setAlpha(90);
  p.setPen(QPen(t.softInk, 1));
  p.setBrush(wash);
  p.drawPath(hill);
  // What the reading says, drawn where its off-beat lies.
  const double half = swing_.level == SwingLevel::sixteenths ? 0.5 : 1.0;
  const double x = swingShare(swing_.ratio) * half * (width() - 1);
  p.setPen(QPen(t.accent, 2));
  p.drawLine(QPointF(x, 0), QPointF(x, floor));
}

SimilarityChart::SimilarityChart(QWidget* parent) : QWidget(parent) {
  setFixedHeight(300);
  setObjectName("similarity");
  setAccessibleName(tr("Which bars are alike"));
}

void SimilarityChart::show(const SelfSimilarityPicture& picture, const Form& form, std::vector<Seconds> bars) {
  picture_ = picture;
  form_ = form;
  bars_ = std::move(bars);
  update();
}

double SimilarityChart::side() const {
  return std::min(width(), height());
}

/// FretPosition along either edge of a time, by bars.
double SimilarityChart::placeOf(Seconds t) const {
  const auto bar = std::upper_bound(bars_.begin(), bars_.end(), t + Seconds(0.05)) - bars_.begin() - 1;
  const double rows = static_cast<double>(picture_.size) * picture_.barsEach;
  return std::clamp(static_cast<double>(std::max<std::ptrdiff_t>(0, bar)) / rows, 0.0, 1.0) * side();
}

Seconds SimilarityChart::timeAt(double place) const {
  const double rows = static_cast<double>(picture_.size) * picture_.barsEach;
  const auto bar = static_cast<std::size_t>(std::clamp(place / side(), 0.0, 0.9999) * rows);
  return bar < bars_.size() ? bars_[bar] : Seconds(0);
}

void SimilarityChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  prepareChart(p);
  if (picture_.size == 0) {
    p.setPen(t.softInk);
    p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, tr("Measure the recording to see which bars are alike."));
    return;
  }
  const auto n = static_cast<int>(picture_.size);
  QImage image(n, n, QImage::Format_RGB32);
  const QColor far = t.ground, near = t.ink;
  for (int y = 0; y < n; ++y)
    for (int x = 0; x < n; ++x) {
      const double how =
          picture_.alike[static_cast<std::size_t>(y) * picture_.size + static_cast<std::size_t>(x)] / 15.0;
      const auto mix = [&](int a, int b) { return static_cast<int>(std::lround(a + (b - a) * how)); };
      image.setPixel(x, y,
                     qRgb(mix(far.red(), near.red()), mix(far.green(), near.green()), mix(far.blue(), near.blue())));
    }
  p.setRenderHint(QPainter::SmoothPixmapTransform, false);
  p.drawImage(QRectF(0, 0, side(), side()), image);
  p.setBrush(Qt::NoBrush);
  for (std::size_t i = 0; i < form_.size(); ++i) {
    const double y = placeOf(form_[i].span.start),
                 y2 = i + 1 < form_.size() ? placeOf(form_[i + 1].span.start) : side();
    for (std::size_t j = 0; j < form_.size(); ++j) {
      if (form_[j].letter != form_[i].letter) continue;
      const double x = placeOf(form_[j].span.start),
                   x2 = j + 1 < form_.size() ? placeOf(form_[j + 1].span.start) : side();
      p.setPen(QPen(t.accent, i == j ? 1.0 : 2.0));
      p.drawRect(QRectF(x + 0.5, y + 0.5, x2 - x - 1, y2 - y - 1));
    }
    const QRectF plate(y + 2, y + 2, 14, 14);
    p.setPen(Qt::NoPen);
    p.setBrush(t.ground);
    if (y2 - y > 14) p.drawRect(plate);
    p.setBrush(Qt::NoBrush);
    p.setPen(t.ink);
    if (y2 - y > 14) p.drawText(plate, Qt::AlignCenter, text(form_[i].letter));
  }
}

void SimilarityChart::mousePressEvent(QMouseEvent* event) {
  if (picture_.size > 0) emit clicked(timeAt(event->position().x()));
}

bool SimilarityChart::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip && picture_.size > 0) {
    const auto* help = static_cast<QHelpEvent*>(event);
    if (help->x() < side() && help->y() < side())
      QToolTip::showText(
          help->globalPos(),
          tr("%1 against %2. Dark where the bars are alike; frames where sections share a letter. Click to "
             "go to the upper time.")
              .arg(text(clockTenths(timeAt(help->x()))), text(clockTenths(timeAt(help->y())))),
          this);
    return true;
  }
  return QWidget::event(event);
}

}  // namespace ear
