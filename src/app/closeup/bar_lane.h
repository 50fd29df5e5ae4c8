// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "app/closeup/lane.h"
#include "core/study/grid.h"

namespace ear {

class Workbench;

/// Sections, bars and beats of the close-up; bar lines go through the lanes below, and can be taken hold of here.
class BarLane : public Lane {
  Q_OBJECT
 public:
  BarLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench) {}

  static constexpr int kHeight = 24;
  int height(int) const override { return kHeight; }
  void paint(QPainter& p, const LaneView& view) override;
  void paintThrough(QPainter& p, const LaneView& crossed) override;
  Hold holdAt(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) const override;
  void grab(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) override;
  /// One step of undo for the whole drag. With Shift its neighbours stay where they are.
  void drag(QPointF to, Qt::KeyboardModifiers modifiers, const LaneView& view) override;
  void letGo(QPointF at, bool moved, const LaneView& view) override;
  QString tip(QPointF at, const LaneView& view) const override;

 private:
  /// How dense the grid lies, in pixels.
  struct Density {
    double perBeat, perBar;
    int every;  ///< of how many bars one has its number
  };
  Density density(const LaneView& view) const;
  void paintSections(QPainter& p, const LaneView& view) const;
  /// The bar line under the pointer, as a beat of the grid.
  std::optional<std::size_t> lineAt(QPointF at, const LaneView& view) const;

  Workbench& bench_;
  std::optional<std::size_t> held_;  // the bar line that is dragged
};

}  // namespace ear
