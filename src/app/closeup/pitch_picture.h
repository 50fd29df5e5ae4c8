// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPixmap>
#include <QRgb>
#include <QVector>
#include <memory>

#include "app/closeup/lane.h"
#include "app/closeup/pitch_axis.h"
#include "app/closeup/pitch_tiles.h"
#include "app/workbench/workbench.h"

namespace ear {

/// 256 colours of the theme from nothing to as loud as it gets, for pictures of a pitch map.
QVector<QRgb> pitchColours();

/// The pitch map itself: tiles of it, computed beside the window, on lines of the recording's own pitch.
class PitchPicture : public QObject {
  Q_OBJECT
 public:
  explicit PitchPicture(Workbench& bench);

  void paint(QPainter& p, const LaneView& view, const PitchAxis& axis);
  /// Parts of the map in the last look are still being computed.
  bool busy() const { return tiles_.busy(); }
  void forget() { picture_ = {}; }

 signals:
  void changed();

 private:
  void refresh();
  void draw(const LaneView& view, const PitchAxis& axis, double ratio);
  QImage drawTiles(QSize size, TimeSpan window, const PitchAxis& axis);

  Workbench& bench_;
  PitchTiles tiles_;
  std::shared_ptr<const Recording> recording_;
  Cents offset_;
  Isolation::Channel channel_ = Isolation::Channel::both;
  // What was drawn last, until the window, the size, the range or a tile changes.
  QPixmap picture_;
  QSizeF size_;
  TimeSpan window_;
  PitchAxis axis_;
};

/// From which room on each semitone has its line and its name; with less only the tonic has.
constexpr double kPitchNameRoom = 12;  // pixels

}  // namespace ear
