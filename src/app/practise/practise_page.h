// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

/// Where a ladder, a chain or an answer is, in a sentence; empty while nothing runs.
QString practiceWords(const PracticeKeeper& practice);

/// The drawer's page of ways to repeat: ladder, chain, call and answer, and the log of what was reached.
class PractisePage : public QWidget {
  Q_OBJECT
 public:
  explicit PractisePage(Workbench& bench, QWidget* parent = nullptr);

 private:
  QWidget* makeLadder();
  QWidget* makeChain();
  QWidget* makeLog();
  QSpinBox* number(const char* name, const QString& title, int low, int high, const QString& suffix);
  void store();
  void listPhrases();
  void moveInChain(int by);
  void listLog();
  void refresh();

  Workbench& bench_;
  QLabel *sentence_, *detail_;
  QPushButton *stop_, *ladder_, *clean_, *chain_, *answer_;
  QSpinBox *from_, *to_, *step_, *repeats_, *times_;
  QDoubleSpinBox* breath_;
  QComboBox* countedBy_;
  QCheckBox* bar_;
  QListWidget *phrases_, *log_;
};

}  // namespace ear
