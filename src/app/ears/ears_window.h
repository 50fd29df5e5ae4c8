// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

class QLabel;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace ear {

class Workbench;

/// How much the ears got today and this week, against a published allowance, with the one setting that needs.
class EarsWindow : public QDialog {
  Q_OBJECT
 public:
  explicit EarsWindow(Workbench& bench, QWidget* parent);

 private:
  void refresh();

  Workbench& bench_;
  QLabel *now_, *today_, *week_, *mark_;
  QProgressBar* bar_;
  QPushButton *talk_, *forget_;
  QSpinBox* reminder_;
};

}  // namespace ear
