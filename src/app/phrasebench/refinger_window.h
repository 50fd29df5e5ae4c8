// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <vector>

#include "core/phrase/refingering.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

class StringChoice;
class Workbench;

/// The same phrase in another place: written for another tuning or capo, higher or lower, elsewhere on the neck, or for
/// another guitar of the take; with what becomes unplayable.
class RefingerWindow : public QDialog {
  Q_OBJECT
 public:
  explicit RefingerWindow(Workbench& bench, QWidget* parent = nullptr);

 private:
  void refresh();
  void offerShapes(const Guitar& guitar);
  std::vector<FretPosition> placesInUse(const Guitar& guitar) const;
  Guitar writtenFor() const;
  Guitar playedOn() const;
  void take(bool asLevel);

  Workbench& bench_;
  QComboBox *from_, *to_, *over_, *tone_;
  QSpinBox *capo_, *higher_, *hand_;
  StringChoice* strings_;
  QLabel* lost_;
  QListWidget* ways_;
  QPushButton *here_, *level_;
  std::vector<Refingered> found_;
};

}  // namespace ear
