// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "core/exchange/jump_list.h"

class QLabel;
class QTableWidget;

namespace ear {

class Workbench;

/// All times of the take with their words: go there, copy, write to a file, read from one.
class JumpWindow : public QDialog {
  Q_OBJECT
 public:
  explicit JumpWindow(Workbench& bench, QWidget* parent);

  void copy();
  /// @return false, with a message, where it cannot be written
  bool writeTo(const QString& file);
  bool readFrom(const QString& file);

 private:
  void refresh();
  std::vector<Jump> jumps() const;

  Workbench& bench_;
  QTableWidget* table_;
  QLabel* said_;
};

}  // namespace ear
