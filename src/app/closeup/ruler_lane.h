// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/lane.h"

namespace ear {

class Workbench;

/// The clock of the recording, with the marks that were set and pins of the lesson's notes.
class RulerLane : public Lane {
  Q_OBJECT
 public:
  RulerLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench) {}

  static constexpr int kHeight = 26;
  int height(int) const override { return kHeight; }
  void paint(QPainter& p, const LaneView& view) override;
  QString tip(QPointF at, const LaneView& view) const override;

 private:
  void paintCues(QPainter& p, const LaneView& view) const;
  void paintNotes(QPainter& p, const LaneView& view) const;

  Workbench& bench_;
};

}  // namespace ear
