// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/sound_lane.h"

#include <QPainter>
#include <algorithm>

#include "app/theme/theme.h"
#include "app/workbench/workbench.h"

namespace ear {

namespace {

constexpr int kLeast = 44, kMost = 84;  // pixels over the pitch map

}  // namespace

SoundLane::SoundLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench), attacks_(bench, this) {
  connect(&attacks_, &AttackMarks::changed, this, &Lane::changed);
}

int SoundLane::height(int room) const {
  return alone_ ? room : std::clamp(room / 4, kLeast, kMost);
}

void SoundLane::setAlone(bool alone) {
  alone_ = alone;
  emit changed();
}

void SoundLane::paint(QPainter& p, const LaneView& view) {
  const double ratio = p.device()->devicePixelRatioF();
  if (picture_.isNull() || window_ != view.window || size_ != view.area.size()) {
    size_ = view.area.size();
    window_ = view.window;
    picture_ = QPixmap((size_ * ratio).toSize());
    picture_.setDevicePixelRatio(ratio);
    picture_.fill(Qt::transparent);
    draw();
  }
  p.drawPixmap(view.area.topLeft(), picture_);
  attacks_.paint(p, view);
}

void SoundLane::draw() {
  const Theme& t = Theme::current();
  QPainter p(&picture_);
  const auto width = static_cast<int>(size_.width());
  const double rate = bench_.transport().player().recording()->sampleRate, lane = size_.height() / 2;
  const auto timeAt = [&](int x) {
    return window_.start + window_.length() * (static_cast<double>(x) / std::max(1, width));
  };
  const bool near = window_.length().value * rate < 3.0 * width, tight = lane < 40;
  p.setRenderHint(QPainter::Antialiasing, near);
  for (std::size_t side = 0; side < 2; ++side) {
    const double middle = lane * (static_cast<double>(side) + 0.5), half = lane / 2.0 - (tight ? 1 : 6);
    p.setPen(t.hairline);
    p.drawLine(QPointF(0, middle), QPointF(width, middle));
    QPolygonF curve;
    QList<QLineF> extents, bodies;
    for (int x = 0; x < width; ++x) {
      const Extent e = bench_.analysis().envelope().extent(side, {timeAt(x), timeAt(x + 1)});
      const double high = middle - std::min(1.0F, e.high) * half, low = middle - std::max(-1.0F, e.low) * half;
      const double body = std::min(1.0F, e.rms) * half;
      if (near) {
        curve.append(QPointF(x, (high + low) / 2));
      } else {
        extents.append(QLineF(x + 0.5, high, x + 0.5, std::max(low, high + 1)));
        bodies.append(QLineF(x + 0.5, middle - body, x + 0.5, middle + body));
      }
    }
    p.setPen(t.sound);
    p.drawLines(extents);
    p.setPen(t.accent);
    p.drawLines(bodies);
    p.drawPolyline(curve);
    p.setFont(Theme::font(Theme::Face::small));
    const QString name = side == 0 ? QObject::tr("left") : QObject::tr("right");
    const int room = QFontMetrics(p.font()).horizontalAdvance(name) + 12;
    // To the very edge: what stood out behind it looked like a sound of its own.
    const QRectF plate(width - room, lane * static_cast<double>(side) + (tight ? 1 : 6), room, tight ? lane - 2 : 18);
    p.setPen(Qt::NoPen);
    p.setBrush(t.ground);
    p.drawRect(plate);
    p.setPen(t.softInk);
    p.drawText(plate, Qt::AlignCenter, name);
  }
}

}  // namespace ear
