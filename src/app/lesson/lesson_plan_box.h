// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QListWidgetItem;
class QPushButton;
class QSpinBox;

namespace ear {

class Workbench;

/// The steps of the lesson as a list, and under it what changes them.
class LessonPlanBox : public QWidget {
  Q_OBJECT
 public:
  explicit LessonPlanBox(Workbench& bench, QWidget* parent = nullptr);

  /// Whether the tools to change the plan are shown.
  void showTools(bool on);
  void setTypeSize(int pixels);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  QWidget* makeTools();
  void refresh();
  void listSteps();
  void showStep();
  void showLast();
  void fillAdding();
  void takeOrder();

  Workbench& bench_;
  QListWidget* list_;
  QLabel *last_, *missing_;
  QPushButton *change_, *addMissing_, *make_, *add_, *remove_;
  QWidget* tools_;
  QComboBox *order_, *level_;
  QLineEdit* words_;
  QSpinBox *minutes_, *speed_, *target_;
  QCheckBox *beginners_, *hand_;
  bool filling_ = false;
};

}  // namespace ear
