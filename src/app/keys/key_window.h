// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

class QKeySequenceEdit;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace ear {

class KeyMap;

/// Every command with its key and its pedal switch, to change, print and put back.
class KeyWindow : public QDialog {
  Q_OBJECT
 public:
  KeyWindow(KeyMap& map, QWidget* parent);

 private:
  QAction* chosen() const;
  void fill();
  void tryKey();
  void refresh();
  void printCard(bool pdf);

  KeyMap& map_;
  QTableWidget* table_;
  QLineEdit* filter_;
  QKeySequenceEdit* key_;
  QLabel *state_, *pedals_;
  QPushButton *set_, *none_, *standard_, *learn_, *forget_;
};

}  // namespace ear
