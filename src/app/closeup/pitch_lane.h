// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/pitch_picture.h"

namespace ear {

/// The pitch map of the close-up: which notes sound when, the voice that was followed, and the notes that were asked
/// for.
class PitchLane : public Lane {
  Q_OBJECT
 public:
  PitchLane(Workbench& bench, QObject* parent);

  /// All that is left, or nothing.
  int height(int room) const override { return shown_ ? room : 0; }
  void paint(QPainter& p, const LaneView& view) override;
  void paintOver(QPainter& p, const LaneView& view) override;
  bool crossed() const override { return true; }
  void forget() override { picture_.forget(); }
  /// Ctrl plays the note, Alt hears only the octave around it.
  Hold holdAt(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) const override;
  void grab(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) override;
  void drag(QPointF to, Qt::KeyboardModifiers modifiers, const LaneView& view) override;
  bool wheel(const QWheelEvent& event, const LaneView& view) override;
  QString tip(QPointF at, const LaneView& view) const override;

  bool shown() const { return shown_; }
  void setShown(bool on);
  const PitchAxis& axis() const { return axis_; }
  /// Parts of the map in the window are still being computed.
  bool busy() const { return picture_.busy(); }
  /// "E4: string 1 open, string 2 fret 5", with how far off the line it lies.
  QString placesOf(double midi) const;

 private:
  /// Stretches the range of pitches around one, or moves it.
  void zoom(double factor, double around);
  void scroll(double semitones);
  void focusOctave(double midi);
  void paintNames(QPainter& p, QRectF area) const;
  void paintHints(QPainter& p, const LaneView& view) const;

  Workbench& bench_;
  PitchPicture picture_;
  PitchAxis axis_;
  bool shown_ = true;
  bool focusing_ = false;  // an octave is drawn along
};

}  // namespace ear
