// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QLineEdit;
class QListWidget;

namespace ear {

/// Words for the lesson, typed while it loops: each is pinned to where the sound was when its first letter was typed.
class LessonNotesBox : public QWidget {
  Q_OBJECT
 public:
  explicit LessonNotesBox(Workbench& bench, QWidget* parent = nullptr);
  void startTyping();

 private:
  void keep();
  void edit(int row);
  void refresh();

  Workbench& bench_;
  QLineEdit* line_;
  QListWidget* list_;
  std::optional<Seconds> begun_;  // where the sound was at the first letter
};

}  // namespace ear
