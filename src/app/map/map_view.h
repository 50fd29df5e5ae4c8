// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

namespace ear {

/// The whole recording: form blocks with their letters, a small picture of the sound, kept passages, the playhead.
/// A click goes there, a drag makes a passage.
class MapView : public QWidget {
  Q_OBJECT
 public:
  explicit MapView(Workbench& bench, QWidget* parent = nullptr);

  double xOf(Seconds t) const;
  Seconds timeAt(double x) const;
  /// What the close-up shows, drawn as a bracket.
  void setWindow(TimeSpan window);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void resizeEvent(QResizeEvent*) override { redraw(); }
  void contextMenuEvent(QContextMenuEvent* event) override;
  bool event(QEvent* event) override;

 private:
  void paintForm(QPainter& p) const;
  void paintMarks(QPainter& p) const;
  std::optional<std::size_t> borderAt(QPointF at) const;
  void paintChords(QPainter& p) const;
  void paintSound(QPainter& p) const;
  void drawPicture();
  void redraw();
  const Section* sectionAt(Seconds t, const Form& form) const;

  Workbench& bench_;
  QPixmap picture_;  // null when it has to be drawn anew
  TimeSpan window_;
  double pressedAt_ = -1;
  bool dragging_ = false;
  std::optional<std::size_t> border_;  // the section whose start is dragged
};

}  // namespace ear
