// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>
#include <QWidget>

#include "app/workbench/workbench.h"
#include "core/playback/stereo_picture.h"

namespace ear {

/// What sounds now between left and right, as a hill, with the place that is kept or taken out over it: drag its middle
/// or its edges. Left and Right move it, Up and Down make it wider and narrower.
class PlaceView : public QWidget {
  Q_OBJECT
 public:
  explicit PlaceView(Workbench& bench, QWidget* parent = nullptr);

  double xOf(double place) const;
  double placeAt(double x) const;

 protected:
  bool event(QEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  enum class Grip { none, middle, left, right };
  Grip gripAt(double x) const;
  void look();
  /// A place that was off is kept as soon as it is moved.
  void put(double centre, double width);

  Workbench& bench_;
  StereoPicture picture_;
  Grip grip_ = Grip::none;
  double offset_ = 0;
};

}  // namespace ear
