// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <filesystem>
#include <map>

#include "app/closeup/bar_lane.h"
#include "app/closeup/chord_lane.h"
#include "app/closeup/passage_handles.h"
#include "app/closeup/pitch_lane.h"
#include "app/closeup/ruler_lane.h"
#include "app/closeup/sound_lane.h"
#include "app/closeup/tab_lane.h"

namespace ear {

/// A stretch of the recording near by: lanes one below the other on one axis of time, the passage in hand over them.
class CloseUp : public QWidget {
  Q_OBJECT
 public:
  explicit CloseUp(Workbench& bench, QWidget* parent = nullptr);

  TimeSpan window() const { return window_; }
  void setWindow(TimeSpan window);
  void zoom(double factor, Seconds around);
  void zoomToPassage();
  void zoomOut();
  /// The pitch map under the sound, or the sound alone.
  void showPitchMap(bool on);

  BarLane& bars() { return *bars_; }
  ChordLane& chords() { return *chords_; }
  TabLane& tab() { return *tab_; }
  SoundLane& sound() { return *sound_; }
  PitchLane& pitchMap() { return *pitch_; }
  const PitchLane& pitchMap() const { return *pitch_; }
  /// Where a lane lies now; nothing for one that is not shown.
  QRectF areaOf(const Lane& lane) const;

  double xOf(Seconds t) const { return all().xOf(t); }
  Seconds timeAt(double x) const { return all().timeAt(x); }

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
  enum class Hold { none, lane, passage };
  LaneView all() const { return {QRectF(rect()), window_}; }
  LaneView viewOf(const Lane& lane) const { return {areaOf(lane), window_}; }
  Lane* laneAt(QPointF at) const;
  Hold holdAt(QPointF at, Qt::KeyboardModifiers modifiers) const;
  void forget();
  void followPlayhead();
  void seeSound();
  void seePassage();
  void paintLanes(QPainter& p);
  void paintEmpty(QPainter& p) const;

  Workbench& bench_;
  TimeSpan window_;
  std::map<std::filesystem::path, TimeSpan> windows_;  // last seen of each recording
  // Children of the window, from the top down.
  RulerLane* ruler_;
  BarLane* bars_;
  ChordLane* chords_;
  TabLane* tab_;
  SoundLane* sound_;
  PitchLane* pitch_;
  std::vector<Lane*> lanes_;
  PassageHandles passage_;
  Hold hold_ = Hold::none;
  Lane* held_ = nullptr;  // the lane that was pressed
  QPointF pressedAt_;
  bool moved_ = false;
};

}  // namespace ear
