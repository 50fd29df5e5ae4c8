// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/isolate/place_view.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr int kHeight = 96, kMargin = 10, kWords = 18;
constexpr double kReach = 6;  // pixels around an edge

}  // namespace

PlaceView::PlaceView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("isolate-place");
  setFixedHeight(kHeight);
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  setAccessibleName(tr("FretPosition between left and right"));
  setToolTip(
      tr("What sounds now between left and right. Drag the middle or an edge of the place; with the keys, Left and "
         "Right move it, Up and Down widen and narrow it"));
  connect(&bench.transport(), &Transport::positionChanged, this, &PlaceView::look);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &PlaceView::look);
  connect(&bench.transport(), &Transport::changed, this, qOverload<>(&QWidget::update));
}

double PlaceView::xOf(double place) const {
  return kMargin + (place + 1) / 2 * (width() - 2 * kMargin);
}

double PlaceView::placeAt(double x) const {
  return std::clamp((x - kMargin) / std::max(1, width() - 2 * kMargin) * 2 - 1, -1.0, 1.0);
}

void PlaceView::showEvent(QShowEvent*) {
  look();
}

/// Measures what sounds at the playhead; what is new comes at once, what ends sinks slowly enough to be read.
void PlaceView::look() {
  if (!isVisible()) return;
  const Recording* recording = bench_.transport().player().recording();
  StereoPicture now;
  if (recording != nullptr)
    now = stereoPictureAt(recording->left(), recording->right(),
                          std::llround(bench_.transport().position().value * recording->sampleRate));
  constexpr float kSink = 0.88F;
  for (std::size_t i = 0; i < now.level.size(); ++i)
    now.level[i] = bench_.transport().playing() ? std::max(now.level[i], picture_.level[i] * kSink) : now.level[i];
  picture_ = now;
  update();
}

void PlaceView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double floor = height() - kWords, top = 6;
  p.setPen(QPen(t.hairline, 1));
  p.setBrush(t.ground);
  p.drawRoundedRect(QRectF(0.5, 0.5, width() - 1, floor - 0.5), 4, 4);
  QPainterPath hill(QPointF(xOf(-1), floor));
  for (std::size_t i = 0; i < StereoPicture::kPlaces; ++i)
    hill.lineTo(xOf(2.0 * static_cast<double>(i) / (StereoPicture::kPlaces - 1) - 1),
                floor - static_cast<double>(picture_.level[i]) * (floor - top));
  hill.lineTo(xOf(1), floor);
  QColor wash = t.softInk;
  wash.setAlpha(80);
  p.setPen(QPen(t.softInk, 1));
  p.setBrush(wash);
  p.drawPath(hill);
  const Isolation& i = bench_.transport().isolation();
  const double from = xOf(std::max(-1.0, i.centre - i.width)), to = xOf(std::min(1.0, i.centre + i.width));
  const bool on = i.place != Isolation::Panned::all && bench_.transport().isolating();
  QColor place = t.accent;
  place.setAlpha(on ? 60 : 18);
  const auto shade = [&](double a, double b) { p.fillRect(QRectF(a, 1, b - a, floor - 1), place); };
  if (i.place == Isolation::Panned::remove)
    shade(1, from), shade(to, width() - 1);  // what is left over
  else
    shade(from, to);
  p.setPen(QPen(t.accent, on ? 2 : 1, on ? Qt::SolidLine : Qt::DashLine));
  for (const double x : {from, to}) p.drawLine(QPointF(x, 1), QPointF(x, floor));
  if (hasFocus()) {
    p.setPen(QPen(t.accent, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(QRectF(1, 1, width() - 2, floor - 1), 4, 4);
  }
  p.setFont(Theme::font(Theme::Face::small));
  p.setPen(t.softInk);
  const QRectF words(kMargin, floor + 2, width() - 2 * kMargin, kWords - 2);
  p.drawText(words, Qt::AlignLeft | Qt::AlignVCenter, tr("left"));
  p.drawText(words, Qt::AlignHCenter | Qt::AlignVCenter, tr("middle"));
  p.drawText(words, Qt::AlignRight | Qt::AlignVCenter, tr("right"));
}

PlaceView::Grip PlaceView::gripAt(double x) const {
  const Isolation& i = bench_.transport().isolation();
  if (std::abs(x - xOf(i.centre - i.width)) < kReach) return Grip::left;
  if (std::abs(x - xOf(i.centre + i.width)) < kReach) return Grip::right;
  return Grip::middle;
}

void PlaceView::put(double centre, double width) {
  Isolation i = bench_.transport().isolation();
  i.centre = centre, i.width = width;
  if (i.place == Isolation::Panned::all) i.place = Isolation::Panned::keep;
  bench_.transport().setIsolation(i);
}

void PlaceView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || !bench_.transport().hasSound()) return;
  const double x = event->position().x();
  const Isolation& i = bench_.transport().isolation();
  grip_ = gripAt(x);
  // Outside of the place the press fetches it.
  const bool inside = std::abs(placeAt(x) - i.centre) <= i.width;
  offset_ = grip_ == Grip::middle && inside ? i.centre - placeAt(x) : 0;
  if (grip_ == Grip::middle && !inside) put(placeAt(x), i.width);
}

void PlaceView::mouseMoveEvent(QMouseEvent* event) {
  const double x = event->position().x();
  const Isolation& i = bench_.transport().isolation();
  if (grip_ == Grip::none) {
    setCursor(gripAt(x) == Grip::middle ? Qt::ArrowCursor : Qt::SplitHCursor);
    return;
  }
  if (grip_ == Grip::middle)
    put(placeAt(x) + offset_, i.width);
  else
    put(i.centre, std::abs(placeAt(x) - i.centre));
}

void PlaceView::mouseReleaseEvent(QMouseEvent*) {
  grip_ = Grip::none;
  bench_.document().endMerge();
}

/// The arrow keys are the desk's elsewhere.
bool PlaceView::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->modifiers() == Qt::NoModifier && key->key() >= Qt::Key_Left && key->key() <= Qt::Key_Down) event->accept();
  }
  return QWidget::event(event);
}

void PlaceView::keyPressEvent(QKeyEvent* event) {
  constexpr double kStep = 0.05;
  const Isolation& i = bench_.transport().isolation();
  switch (event->key()) {
    case Qt::Key_Left:
      return put(i.centre - kStep, i.width);
    case Qt::Key_Right:
      return put(i.centre + kStep, i.width);
    case Qt::Key_Up:
      return put(i.centre, i.width + kStep);
    case Qt::Key_Down:
      return put(i.centre, i.width - kStep);
    default:
      QWidget::keyPressEvent(event);
  }
}

}  // namespace ear
