#pragma once

#include <QPointF>
#include <optional>

#include "core/study/grid.h"

class QPainter;

namespace ear {

class CloseUp;
class Workbench;

/// Sections, bars and beats of the close-up: drawn, and bar lines taken hold of.
class GridLane {
 public:
  GridLane(Workbench& bench, CloseUp& closeUp) : bench_(bench), closeUp_(closeUp) {}

  static constexpr int kTop = 26, kHeight = 24;

  void paint(QPainter& p) const;
  /// The words of the lesson's note that is pinned there, or empty.
  QString noteAt(QPointF at) const;
  static bool contains(double y) { return kTop <= y && y < kTop + kHeight; }

  /// The bar line under the pointer, as a beat of the grid.
  std::optional<std::size_t> lineAt(QPointF at) const;
  /// Moves it, as one step of undo for the whole drag. @param alone  its neighbours stay where they are
  void drag(std::size_t beat, Seconds to, bool alone);

 private:
  void paintSections(QPainter& p) const;
  void paintCues(QPainter& p) const;
  void paintNotes(QPainter& p) const;

  Workbench& bench_;
  CloseUp& closeUp_;
};

}  // namespace ear
