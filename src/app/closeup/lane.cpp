// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/lane.h"

namespace ear {

void Lane::paintThrough(QPainter&, const LaneView&) {}
void Lane::paintOver(QPainter&, const LaneView&) {}

Lane::Hold Lane::holdAt(QPointF, Qt::KeyboardModifiers, const LaneView&) const {
  return Hold::none;
}
void Lane::grab(QPointF, Qt::KeyboardModifiers, const LaneView&) {}
void Lane::drag(QPointF, Qt::KeyboardModifiers, const LaneView&) {}
void Lane::letGo(QPointF, bool, const LaneView&) {}

void Lane::clicked(QPointF, const LaneView&) {}
void Lane::doubleClicked(QPointF, const LaneView&) {}
void Lane::menu(QPointF, QPoint, const LaneView&) {}
bool Lane::wheel(const QWheelEvent&, const LaneView&) {
  return false;
}
QString Lane::tip(QPointF, const LaneView&) const {
  return {};
}

}  // namespace ear
