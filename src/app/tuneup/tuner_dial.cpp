// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tuneup/tuner_dial.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"

namespace ear {
namespace {
constexpr double kReach = 50.0;  // cents
}

TunerDial::TunerDial(QWidget* parent) : QWidget(parent) {
  setFixedHeight(96);
  setMinimumWidth(300);
  setAccessibleName(tr("Cents from the string's pitch"));
}

void TunerDial::show(std::optional<Cents> off) {
  off_ = off;
  setAccessibleDescription(off ? tr("%1 cents").arg(off->value, 0, 'f', 1) : tr("nothing sounds"));
  update();
}

void TunerDial::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double left = 22, right = width() - 22, floor = height() - 26;
  const auto xOf = [&](double cents) { return left + (cents + kReach) / (2 * kReach) * (right - left); };
  p.fillRect(QRectF(QPointF(xOf(-kInTune), 10), QPointF(xOf(kInTune), floor)), t.accentWash);
  p.setFont(Theme::font(Theme::Face::small));
  for (int c = -50; c <= 50; c += 5) {
    const bool labelled = c % 25 == 0;
    p.setPen(QPen(labelled ? t.softInk : t.hairline, c == 0 ? 2 : 1));
    p.drawLine(QPointF(xOf(c), labelled ? floor - 26 : floor - 12), QPointF(xOf(c), floor));
    if (!labelled) continue;
    p.setPen(t.softInk);
    p.drawText(QRectF(xOf(c) - 24, floor + 4, 48, 18), Qt::AlignCenter,
               c == 0 ? tr("right") : QString::number(c).replace('-', QStringLiteral("−")));
  }
  p.setPen(QPen(t.hairline, 1));
  p.drawLine(QPointF(left, floor), QPointF(right, floor));
  if (!off_) return;
  const double x = xOf(std::clamp(off_->value, -kReach, kReach));
  const bool in = std::abs(off_->value) <= kInTune;
  p.setPen(Qt::NoPen);
  p.setBrush(in ? t.accent : t.warning);
  p.drawRoundedRect(QRectF(x - 2.5, 8, 5, floor - 8), 2.5, 2.5);
}

}  // namespace ear
