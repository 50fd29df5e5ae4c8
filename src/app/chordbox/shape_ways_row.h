// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/theory/notation_preferences.h"
#include "core/theory/shape_ways.h"

class QComboBox;

namespace ear {

/// "Shapes of E that sound G: capo 3": which capo, and which strings where none reaches it.
class ShapeWaysRow : public QWidget {
  Q_OBJECT
 public:
  explicit ShapeWaysRow(QWidget* parent);
  /// Names of notes as the studio spells them.
  void setSpelling(Spelling spelling);

 signals:
  void tried(ShapeWay way);  ///< it is to be seen on the neck

 private:
  void refresh();

  QComboBox *shapes_, *sounding_, *ways_;
  std::vector<ShapeWay> found_;
};

}  // namespace ear
