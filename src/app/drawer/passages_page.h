// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QTreeWidget;
class QTreeWidgetItem;
class QPlainTextEdit;
class QPushButton;

namespace ear {

class LessonNotesBox;

/// What of the take was kept, passages and written phrases in one tree by where they lie, and what was heard in the
/// passage in hand.
class PassagesPage : public QWidget {
  Q_OBJECT
 public:
  explicit PassagesPage(Workbench& bench, QWidget* parent = nullptr);
  void editName();
  /// Opens the next of what was kept, or the one before.
  void step(int by);
  /// Puts the cursor where notes for the lesson are typed.
  void writeNote();

 private:
  void refresh();
  void fillTree();
  void openItem(const QTreeWidgetItem* item);
  void changeText();
  void givePart(const QString& part);
  void showParts(const Passage* open);

  Workbench& bench_;
  QLabel* hint_;
  QTreeWidget* tree_;
  QLineEdit* name_;
  QComboBox* part_;
  LessonNotesBox* notes_;
  QPlainTextEdit* text_;
  QPushButton *keep_, *back_, *remove_;
  QLabel* settings_;
};

}  // namespace ear
