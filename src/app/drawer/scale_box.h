// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QVariant>
#include <QWidget>
#include <optional>

#include "core/theory/scale.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace ear {

class Workbench;

/// The scales that a phrase is said to use, with their boxes and where it goes over to another one; and what its notes
/// lie in, as long as that is not what is stated.
class ScaleBox : public QWidget {
  Q_OBJECT
 public:
  explicit ScaleBox(Workbench& bench, QWidget* parent = nullptr);

 private:
  void refresh();
  void showUsed();
  std::optional<Scale> scaleOf(const QVariant& kind) const;

  Workbench& bench_;
  QComboBox *scale_, *box_, *switch_;
  QLabel* used_;
  QPushButton* takeUsed_;
};

}  // namespace ear
