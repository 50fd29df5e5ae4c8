// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPixmap>

#include "app/closeup/attack_marks.h"
#include "app/closeup/lane.h"

namespace ear {

/// Both sides of the sound, kept as a picture until the window changes, with marks where something is struck.
class SoundLane : public Lane {
  Q_OBJECT
 public:
  SoundLane(Workbench& bench, QObject* parent);

  /// A quarter of what is left, the pitch map gets the rest; all of it without the map.
  int height(int room) const override;
  void setAlone(bool alone);
  void paint(QPainter& p, const LaneView& view) override;
  bool crossed() const override { return true; }
  void forget() override { picture_ = {}; }
  AttackMarks& attacks() { return attacks_; }

 private:
  void draw();

  Workbench& bench_;
  AttackMarks attacks_;
  bool alone_ = false;
  QPixmap picture_;
  QSizeF size_;
  TimeSpan window_;
};

}  // namespace ear
