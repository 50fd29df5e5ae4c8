// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>

#include "core/base/units.h"

namespace ear {

/// How far a string is from where it belongs: a flat scale of 50 cents to both sides, with the zone that is in tune.
class TunerDial : public QWidget {
  Q_OBJECT
 public:
  explicit TunerDial(QWidget* parent = nullptr);
  /// Nothing sounds: empty.
  void show(std::optional<Cents> off);

  static constexpr double kInTune = 3.0;  // cents: little enough for two guitars not to beat audibly

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::optional<Cents> off_;
};

}  // namespace ear
