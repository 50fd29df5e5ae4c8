// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QRectF>

#include "core/study/study.h"

class QPainter;

namespace ear {

/// A section of the form as a block: its letter, how long it is and what it is called, as far as there is room.
/// @param bars  0 where no bars are known
void paintSection(QPainter& p, QRectF block, const Section& section, int bars);

}  // namespace ear
