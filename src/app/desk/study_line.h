// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QMenuBar;

namespace ear {

/// The line on top: the menus, the study's title, the take and what it is, and what state things are in.
class StudyLine : public QWidget {
  Q_OBJECT
 public:
  explicit StudyLine(Workbench& bench, QWidget* parent = nullptr);
  QMenuBar* menus() { return menus_; }

 private:
  void refresh();

  Workbench& bench_;
  QMenuBar* menus_;
  QLineEdit* title_;
  QComboBox *take_, *kind_;
  QLabel *state_, *device_;
};

}  // namespace ear
