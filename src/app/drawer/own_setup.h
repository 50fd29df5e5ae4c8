// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/study/study.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace ear {

class Workbench;

/// Decides how the guitar in hand is tuned and capoed, as one step of undo.
void decideSetup(Workbench& bench, const QString& label, const GuitarSetup& setup, Origin origin,
                 const Evidence& evidence);

/// Strings, capo and frets of the guitar in hand, set by hand.
class OwnSetup : public QWidget {
  Q_OBJECT
 public:
  explicit OwnSetup(Workbench& bench, QWidget* parent = nullptr);
  void refresh();

 private:
  void makeStrings();
  void makeCapo();
  void follow();
  void setOwn();
  void setNickname();

  Workbench& bench_;
  QComboBox *tuning_, *capoStrings_;
  QSpinBox *capo_, *frets_;
  QLineEdit* nickname_;
  QLabel *shifts_, *wrong_;
};

}  // namespace ear
