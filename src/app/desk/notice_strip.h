// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QLabel;
class QProgressBar;
class QPushButton;
class QTimer;

namespace ear {

/// One line under the study line: what is being done, with a way to stop it, and what the user should know.
class NoticeStrip : public QWidget {
  Q_OBJECT
 public:
  explicit NoticeStrip(Workbench& bench, QWidget* parent = nullptr);
  void say(const QString& sentence);

 signals:
  void relocateWanted();

 private:
  void refresh();
  Workbench& bench_;
  QLabel* text_;
  QProgressBar* bar_;
  QPushButton *cancel_, *relocate_, *dismiss_;
  QString sentence_;
};

}  // namespace ear
