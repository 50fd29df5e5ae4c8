// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTimer>
#include <optional>

#include "core/practice/dose.h"

namespace ear {

class Workbench;

/// Keeps the account of what the ears get, day by day over all studies, and reminds of rests.
class ListeningGuard : public QObject {
  Q_OBJECT
 public:
  explicit ListeningGuard(Workbench& bench);
  ~ListeningGuard() override;

  /// A-weighted level of the last second at full scale 0; empty in silence.
  std::optional<Decibels> digitalLevel() const { return level_; }
  /// Of the last second at the ear; empty in silence and while nobody said how loud it is.
  std::optional<Decibels> level() const;
  const std::optional<Calibration>& calibration() const { return calibration_; }
  /// What sounds now is as loud as talk. @return false when nothing sounds
  bool calibrateToTalk();
  void forgetCalibration();

  ListeningAccount::Day today() const;
  ListeningAccount::Day week() const;

  /// Minutes of listening after which a rest is proposed; 0: never.
  int reminderMinutes() const { return reminderMinutes_; }
  void setReminderMinutes(int minutes);

  /// Reads what the monitor has; called every second.
  void tick();

 signals:
  void changed();

 private:
  void save();

  Workbench& bench_;
  QTimer clock_;
  ListeningAccount account_;
  std::optional<Calibration> calibration_;
  std::optional<Decibels> level_;
  std::uint32_t read_ = 0;
  int reminderMinutes_ = 45;
  double sinceRest_ = 0, quiet_ = 0;  // seconds
  int unsaved_ = 0;
};

}  // namespace ear
