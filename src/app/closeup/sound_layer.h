#pragma once

#include <QPixmap>
#include <QRectF>

#include "app/workbench/workbench.h"

namespace ear {

/// Both sides of the sound in a window of time, kept as a picture until the window changes.
class SoundLayer {
 public:
  explicit SoundLayer(Workbench& bench) : bench_(bench) {}
  void forget() { picture_ = {}; }
  void paint(QPainter& p, QRectF area, TimeSpan window);

 private:
  void draw(TimeSpan window);

  Workbench& bench_;
  QPixmap picture_;
  QSizeF size_;
  TimeSpan window_;
};

}  // namespace ear
