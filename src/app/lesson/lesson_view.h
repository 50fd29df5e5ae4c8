// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>
#include <QWidget>

class QLabel;
class QPushButton;

namespace ear {

class LessonPlanBox;
class LessonStage;
class Workbench;

/// The lesson, given from the screen: the plan at the left, the step in hand as large as it can be, the clock, and
/// along the foot what sounds and what comes next.
class LessonView : public QWidget {
  Q_OBJECT
 public:
  explicit LessonView(Workbench& bench, QWidget* parent);

  LessonStage& stage() { return *stage_; }
  LessonPlanBox& planBox() { return *plan_; }

 signals:
  void leaveWanted();

 protected:
  bool event(QEvent* event) override;
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void refresh();
  void showTime();
  void showSound();

  Workbench& bench_;
  QWidget* side_;
  LessonPlanBox* plan_;
  LessonStage* stage_;
  QLabel *title_, *about_, *clock_, *pace_, *count_, *sound_, *next_;
  QPushButton *back_, *go_, *on_, *leave_;
  QTimer second_;
  QString said_;  // to the user, until the lesson goes on: the desk's own line lies behind it
};

}  // namespace ear
