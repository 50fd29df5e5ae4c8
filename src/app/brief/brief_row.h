// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <array>

#include "app/brief/fact_tile.h"
#include "app/workbench/workbench.h"

namespace ear {

/// The tiles of the brief, in the order of the work.
class BriefRow : public QWidget {
  Q_OBJECT
 public:
  enum Fact { pitch, guitar, key, time, form };
  static constexpr int kFacts = 5;
  explicit BriefRow(Workbench& bench, QWidget* parent = nullptr);
  FactTile* tile(Fact fact) { return tiles_[fact]; }
  /// All of it in one line, or as tiles again.
  void fold(bool on);
  void setOpen(int fact);  ///< marks the tile whose evidence is shown; -1 for none

 signals:
  void opened(int fact);

 private:
  void refresh();
  TileFace guitarFace(const Brief& brief) const;
  QString shapesWords(const Brief& brief) const;
  Workbench& bench_;
  std::array<FactTile*, kFacts> tiles_;
};

}  // namespace ear
