// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>

#include "core/base/units.h"

namespace ear {

/// What the charts of the drawer share.
inline constexpr int kChartAxis = 18;  ///< room for labels under a chart

/// Smooth lines and the small face.
void prepareChart(QPainter& p);
/// The line on which a chart of that size stands. @return its height
int paintFloor(QPainter& p, QSize size);
/// The recording's beginning and end under a chart.
void paintTimeAxis(QPainter& p, const QRectF& under, Seconds duration);

}  // namespace ear
