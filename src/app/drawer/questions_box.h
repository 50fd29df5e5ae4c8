// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;

namespace ear {

class Workbench;

/// What is not made out yet in the take, and who could settle it: jump there, loop it, answer it.
class QuestionsBox : public QWidget {
  Q_OBJECT
 public:
  explicit QuestionsBox(Workbench& bench, QWidget* parent = nullptr);
  /// Puts the cursor where a question is typed, about the passage in hand.
  void startTyping();

 private:
  void refresh();
  void add();
  void answer();
  std::string chosen() const;

  Workbench& bench_;
  QLabel* state_;
  QListWidget* list_;
  QLineEdit *text_, *answer_;
  QPushButton* remove_;
};

}  // namespace ear
