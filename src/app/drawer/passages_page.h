// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace ear {

class LessonNotesBox;

/// The kept passages of the take, and what was heard in the one in hand.
class PassagesPage : public QWidget {
  Q_OBJECT
 public:
  explicit PassagesPage(Workbench& bench, QWidget* parent = nullptr);
  void editName();
  /// Puts the cursor where notes for the lesson are typed.
  void writeNote();

 private:
  void refresh();
  void changeText();
  void givePart(const QString& part);
  void showParts(const Passage* open);

  Workbench& bench_;
  QLabel* hint_;
  QListWidget* list_;
  QLineEdit* name_;
  QComboBox* part_;
  LessonNotesBox* notes_;
  QPlainTextEdit* text_;
  QPushButton *keep_, *back_, *remove_;
  QLabel* settings_;
};

}  // namespace ear
