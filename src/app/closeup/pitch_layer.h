#pragma once

#include <QPixmap>
#include <QRectF>
#include <QRgb>
#include <QVector>
#include <optional>

#include "app/closeup/pitch_tiles.h"
#include "app/workbench/workbench.h"

namespace ear {

/// 256 colours of the theme from nothing to as loud as it gets, for pictures of a pitch map.
QVector<QRgb> pitchColours();

/// The pitch map of the close-up: which notes sound when, on lines of the recording's own pitch.
class PitchLayer : public QObject {
  Q_OBJECT
 public:
  explicit PitchLayer(Workbench& bench, QObject* parent);

  void paint(QPainter& p, QRectF area, TimeSpan window);
  /// Parts of the map in the window are still being computed.
  bool busy() const { return tiles_.busy(); }
  /// The theme has changed.
  void changeColours();
  /// Names of the lines, over whatever was drawn on the map.
  void paintNames(QPainter& p, QRectF area) const;

  /// The voice that was followed, with what the hand does, and the notes that were asked for.
  void paintHeard(QPainter& p, QRectF area, TimeSpan window) const;

  /// MIDI pitch (of the recording's own tuning) at a height, and back.
  double pitchAt(double y, QRectF area) const;
  double yOf(double midi, QRectF area) const;
  /// Stretches the range of pitches around one, or moves it.
  void zoom(double factor, double around);
  void scroll(double semitones);
  /// "E4: string 1 open, string 2 fret 5", with how far off the line it lies.
  QString placesOf(double midi) const;

 signals:
  void changed();

 private:
  void refresh();
  void paintVoice(QPainter& p, QRectF area, TimeSpan window) const;
  QImage drawTiles(QSize size, TimeSpan window);

  Workbench& bench_;
  PitchTiles tiles_;
  double low_ = 38, high_ = 86;  // MIDI, of the lower and upper edge
  std::shared_ptr<const Recording> recording_;
  Cents offset_;
  Isolation::Channel channel_ = Isolation::Channel::both;
  // What was drawn last, until the window, the size or a tile changes.
  QPixmap picture_;
  QSizeF size_;
  TimeSpan window_;
};

}  // namespace ear
