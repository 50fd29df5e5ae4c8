// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QButtonGroup;
class QCheckBox;
class QLabel;
class QPushButton;
class QSpinBox;

namespace ear {

/// A sentence for what is heard, such as "Left, what rings, 200 to 4000 Hz".
QString isolationWords(const Isolation& isolation);

/// The drawer's page on what of the sound is heard.
class IsolatePage : public QWidget {
  Q_OBJECT
 public:
  explicit IsolatePage(Workbench& bench, QWidget* parent = nullptr);

 private:
  /// A row of buttons of which one is down; `choose` gets its number.
  QButtonGroup* choice(const QString& name, const QString& title, const QStringList& words, const QStringList& tips,
                       std::function<void(Isolation&, int)> choose);
  QSpinBox* frequency(const QString& name, const QString& title, const QString& tip, Hertz Isolation::*which,
                      int first);
  void change(const std::function<void(Isolation&)>& change);
  void refresh();

  Workbench& bench_;
  QLabel *sentence_, *level_;
  QPushButton *whole_, *clear_;
  QButtonGroup *channel_, *place_, *part_;
  QSpinBox *low_, *high_, *focus_;
  QCheckBox* bass_;
};

}  // namespace ear
