#pragma once

#include <QWidget>
#include <filesystem>
#include <map>

#include "app/closeup/attack_marks.h"
#include "app/closeup/grid_lane.h"
#include "app/closeup/pitch_layer.h"
#include "app/closeup/sound_layer.h"
#include "app/workbench/workbench.h"

namespace ear {

/// A stretch of the recording near by: times, bars and beats, the sound of both sides, the pitch map, the passage with
/// edges to drag.
class CloseUp : public QWidget {
  Q_OBJECT
 public:
  explicit CloseUp(Workbench& bench, QWidget* parent = nullptr);

  TimeSpan window() const { return window_; }
  void setWindow(TimeSpan window);
  void zoom(double factor, Seconds around);
  void zoomToPassage();
  void zoomOut();
  /// The chord lane's menu for the chord at a time: hear, loop, confirm, change.
  void chordMenu(Seconds at, QPoint globalPos);
  /// The pitch map under the sound, or the sound alone.
  void showPitchMap(bool on);
  bool pitchMapShown() const { return pitchShown_; }
  QRectF pitchArea() const;
  PitchLayer& pitchMap() { return pitch_; }
  AttackMarks& attacks() { return attacks_; }
  static constexpr int kSoundTop = 74;    ///< under ruler, bars and chords
  static constexpr int kLaneMiddle = 62;  ///< where the chord lane lies, for clicks of tests

  double xOf(Seconds t) const;
  Seconds timeAt(double x) const;

 signals:
  void windowChanged(TimeSpan window);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  bool event(QEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  enum class Grip { none, start, end, fresh, barLine, focus };
  QRectF soundArea() const;
  /// Where an edge that is dragged there comes to lie.
  Seconds snapped(Seconds to, Qt::KeyboardModifiers modifiers) const;
  void setFocusOctave(double y);
  void followPlayhead();
  Grip gripAt(double x) const;
  void paintRuler(QPainter& p) const;
  void paintChords(QPainter& p) const;
  bool inChordLane(double y) const;
  void paintEmpty(QPainter& p) const;

  Workbench& bench_;
  TimeSpan window_;
  std::map<std::filesystem::path, TimeSpan> windows_;  // last seen of each recording
  SoundLayer sound_;
  AttackMarks attacks_;
  PitchLayer pitch_;
  bool pitchShown_ = true;
  GridLane lane_;
  std::optional<std::size_t> line_;  // the bar line that is dragged
  Grip grip_ = Grip::none;
  double pressedAt_ = 0;
  bool moved_ = false;
};

}  // namespace ear
