// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>

#include "core/study/study.h"

namespace ear {

/// What a tile of the brief shows.
struct TileFace {
  QString sentence;  ///< empty: not known
  QString figure;
  QString standing;  ///< "measured, sure"
  QString about;     ///< of what, where that is more than the fact's name
  Origin origin = Origin::measured;
  bool working = false;
  QString whyUnknown;
};

/// One fact of the brief: a plain sentence, its figure, and where it comes from. A click opens its evidence.
class FactTile : public QAbstractButton {
  Q_OBJECT
 public:
  FactTile(const QString& fact, QWidget* parent = nullptr);
  void show(const TileFace& face);
  const TileFace& face() const { return face_; }
  /// Its sentence alone, on one line.
  void fold(bool on);
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void enterEvent(QEnterEvent* event) override;
  void leaveEvent(QEvent* event) override;

 private:
  void paintFolded(QPainter& p) const;
  QString fact_;
  TileFace face_;
  bool folded_ = false;
};

}  // namespace ear
