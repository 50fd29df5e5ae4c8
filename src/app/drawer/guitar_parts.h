// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QComboBox;
class QPushButton;

namespace ear {

class Workbench;

/// The guitars of the take: which is in hand, its name, where it sits, and whether it is as recorded.
class GuitarParts : public QWidget {
  Q_OBJECT
 public:
  explicit GuitarParts(Workbench& bench, QWidget* parent = nullptr);
  void refresh();

 private:
  void follow();
  void add();
  void remove();

  Workbench& bench_;
  QComboBox *parts_, *side_, *kind_;
  QPushButton* remove_;
};

}  // namespace ear
