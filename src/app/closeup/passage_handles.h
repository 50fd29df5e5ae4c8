// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/lane.h"

namespace ear {

class Workbench;

/// The passage in hand over all lanes: a wash, and edges to drag; a drag where nothing else is marks a new one.
class PassageHandles {
 public:
  explicit PassageHandles(Workbench& bench) : bench_(bench) {}

  void paint(QPainter& p, QRectF handles, const LaneView& all) const;
  bool heldAt(double x, const LaneView& all) const { return edgeAt(x, all) != Edge::none; }

  /// Takes hold of the edge there, or is ready to mark a new passage.
  void grab(double x, const LaneView& all);
  /// Edges snap to attack, beat and bar, but not with Alt.
  void drag(double x, Qt::KeyboardModifiers modifiers, const LaneView& all);
  /// @return whether an edge was held, not a new passage drawn
  bool letGo();

 private:
  enum class Edge { none, start, end };
  Edge edgeAt(double x, const LaneView& all) const;
  Seconds snapped(double x, Qt::KeyboardModifiers modifiers, const LaneView& all) const;

  Workbench& bench_;
  Edge edge_ = Edge::none;
  double pressedAt_ = 0;
  bool drawing_ = false;  // a new passage
};

}  // namespace ear
