// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/lane.h"

namespace ear {

class Workbench;

/// PlaybackSettings chords, with the shape of the guitar in hand where it differs. What is measured and not sure is
/// drawn light, what was set medium, what was confirmed strong.
class ChordLane : public Lane {
  Q_OBJECT
 public:
  ChordLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench) {}

  static constexpr int kHeight = 24;
  int height(int) const override { return kHeight; }
  void paint(QPainter& p, const LaneView& view) override;
  void clicked(QPointF at, const LaneView& view) override;
  /// Makes the chord the passage, so that it loops.
  void doubleClicked(QPointF at, const LaneView& view) override;
  void menu(QPointF at, QPoint global, const LaneView& view) override;
  QString tip(QPointF at, const LaneView& view) const override;

  /// For the chord at a time: hear, loop, confirm, change.
  void menuFor(Seconds at, QPoint global);

 private:
  Workbench& bench_;
};

}  // namespace ear
