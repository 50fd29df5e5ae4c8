// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <vector>

#include "core/exchange/facts.h"
#include "core/exchange/tab_piece.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

class Workbench;

/// Whether a file may hold tab or notation of another program.
bool isTabFile(const QString& file);

/// Tab of another program, taken as a phrase of a guitar from a bar of the recording on.
class ImportWindow : public QDialog {
  Q_OBJECT
 public:
  explicit ImportWindow(Workbench& bench, QWidget* parent = nullptr);

  void chooseFile();
  void read(const QString& file);

 private:
  void refresh();
  void showPiece();
  void take();
  void takeKnown();

  Workbench& bench_;
  QLabel *sentence_, *state_;
  QListWidget* pieces_;
  QSpinBox* bar_;
  QComboBox* part_;
  QPushButton *take_, *facts_;
  std::vector<TabPiece> read_;
  std::optional<JamsContent> known_;  // of the recording as a whole
};

}  // namespace ear
