// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/chart_paint.h"

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {

void prepareChart(QPainter& p) {
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(Theme::font(Theme::Face::small));
}

int paintFloor(QPainter& p, QSize size) {
  const int floor = size.height() - kChartAxis;
  p.setPen(Theme::current().hairline);
  p.drawLine(0, floor, size.width(), floor);
  return floor;
}

void paintTimeAxis(QPainter& p, const QRectF& under, Seconds duration) {
  p.setPen(Theme::current().softInk);
  p.drawText(under, Qt::AlignLeft | Qt::AlignVCenter, "0:00");
  p.drawText(under, Qt::AlignRight | Qt::AlignVCenter, text(clockTime(duration)));
}

}  // namespace ear
