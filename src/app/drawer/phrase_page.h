// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "core/phrase/note.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;
class QTableWidget;

namespace ear {

class QuestionsBox;
class Workbench;

/// The phrase in hand beside its tab: what it is, what is wrong with it by arithmetic and by ear, the note that is
/// chosen and other places for it, and what of the study is still open.
class PhrasePage : public QWidget {
  Q_OBJECT
 public:
  explicit PhrasePage(Workbench& bench, QWidget* parent = nullptr);
  /// Another phrase is to be seen below the one in hand; empty: no longer.
  Q_SIGNAL void besideWanted(const std::string& phrase);
  QuestionsBox& questions() { return *questions_; }
  /// Puts the cursor where it is said what was made easier.
  void describeLevel();

 private:
  void refresh();
  void listDoubts();
  void showChosen();
  void showLink();
  std::string likeThis() const;
  void listHarmonics(const Note& note);

  Workbench& bench_;
  QLabel *hint_, *link_, *state_, *note_;
  QLineEdit *name_, *remark_, *made_;
  QSpinBox* number_;
  QComboBox* faith_;
  QPushButton *detach_, *beside_, *check_, *confirm_, *meant_, *levelAway_;
  QTableWidget* doubts_;
  QListWidget* ways_;
  QuestionsBox* questions_;
  std::vector<int> rows_;  // notes of the table
  int placings_ = 0;       // ways of the list; behind them stand harmonics
  std::vector<FretPosition> harmonics_;
};

}  // namespace ear
