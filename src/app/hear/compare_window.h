// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QImage>
#include <QTimer>
#include <memory>

#include "app/workbench/background_job.h"
#include "core/listening/form/repeat_difference.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace ear {

class Workbench;

/// Two times of one phrase one above the other on the time of the first, with what differs between them marked.
class RepeatChart : public QWidget {
  Q_OBJECT
 public:
  explicit RepeatChart(Workbench& bench, QWidget* parent = nullptr);
  void show(std::shared_ptr<const RepeatDifference> difference);

 signals:
  /// A click: the column, and whether in the lower one.
  void chosen(std::size_t column, bool second);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  Workbench& bench_;
  std::shared_ptr<const RepeatDifference> difference_;
  QImage first_, second_;
};

/// The passage against another time it is played: another verse, another chorus.
class CompareWindow : public QDialog {
  Q_OBJECT
 public:
  explicit CompareWindow(Workbench& bench, QWidget* parent);
  ~CompareWindow() override;
  bool working() const { return job_.running(); }

 private:
  void find();
  void compare();

  Workbench& bench_;
  QLabel *sentence_, *state_;
  QComboBox* other_;
  RepeatChart* chart_;
  QPushButton *hearFirst_, *hearSecond_;
  TimeSpan passage_;
  QTimer pause_;
  std::vector<TimeSpan> repeats_;
  BackgroundJob job_;
  std::shared_ptr<const RepeatDifference> difference_;
};

}  // namespace ear
