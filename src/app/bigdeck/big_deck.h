// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QLabel;

namespace ear {

/// The whole window for who stands two metres off with a guitar: the passage, the speed, where the count is and what
/// comes next.
class BigDeck : public QWidget {
  Q_OBJECT
 public:
  explicit BigDeck(Workbench& bench, QWidget* parent);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  QString nextWords() const;

  Workbench& bench_;
};

}  // namespace ear
