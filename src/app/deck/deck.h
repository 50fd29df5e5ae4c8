// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/commands/commands.h"
#include "app/workbench/workbench.h"

class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QSlider;
class QSpinBox;

namespace ear {

class TabularLabel;

/// Playing: start and stop, the passage's edges, speed, pitch, level. Every button is a command with a key.
class Deck : public QWidget {
  Q_OBJECT
 public:
  Deck(Workbench& bench, const Commands& commands, QWidget* parent = nullptr);

 private:
  void layOut();
  void makeFields();
  QPushButton* buttonFor(const QString& command, const QString& label, int width = 0);
  void refresh();
  void showPosition();
  void offerOwnSpeeds();

  Workbench& bench_;
  const Commands& commands_;
  QPushButton* play_ = nullptr;
  TabularLabel* clock_ = nullptr;
  QLabel* bar_ = nullptr;
  TabularLabel *start_ = nullptr, *end_ = nullptr;
  QLabel *length_ = nullptr, *sound_ = nullptr;
  QSpinBox* speed_ = nullptr;
  QPushButton* ownSpeeds_ = nullptr;
  QDoubleSpinBox* shift_ = nullptr;
  QSlider* volume_ = nullptr;
};

}  // namespace ear
