// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/listening_guard.h"

#include <QDate>
#include <QSettings>
#include <cmath>

#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr double kSilence = 1e-8;      // mean square: -80 dB
constexpr double kRest = 300;          // seconds of quiet that count as a rest
constexpr int kSaveEvery = 30;         // seconds of sound
constexpr Decibels kNearTheLimit{85};  // a level that is said at once

std::int64_t dayNow() {
  return QDate::currentDate().toJulianDay();
}

}  // namespace

ListeningGuard::ListeningGuard(Workbench& bench) : QObject(&bench), bench_(bench) {
  QSettings settings;
  reminderMinutes_ = settings.value("ears/reminder", reminderMinutes_).toInt();
  if (settings.contains("ears/talk")) calibration_ = Calibration{Decibels(settings.value("ears/talk").toDouble())};
  settings.beginGroup("ears/days");
  for (const QString& day : settings.childKeys()) {
    const auto parts = settings.value(day).toStringList();
    if (parts.size() == 2) account_.days[day.toLongLong()] = {parts[0].toDouble(), Seconds(parts[1].toDouble())};
  }
  settings.endGroup();
  clock_.setInterval(1000);
  connect(&clock_, &QTimer::timeout, this, &ListeningGuard::tick);
  clock_.start();
}

ListeningGuard::~ListeningGuard() {
  if (unsaved_ > 0) save();
}

std::optional<Decibels> ListeningGuard::level() const {
  if (!level_ || !calibration_) return std::nullopt;
  return calibration_->heard(*level_);
}

ListeningAccount::Day ListeningGuard::today() const {
  return account_.on(dayNow());
}

ListeningAccount::Day ListeningGuard::week() const {
  return account_.week(dayNow());
}

bool ListeningGuard::calibrateToTalk() {
  if (!level_) return false;
  calibration_ = Calibration{*level_};
  QSettings().setValue("ears/talk", level_->value);
  emit changed();
  return true;
}

void ListeningGuard::forgetCalibration() {
  calibration_.reset();
  QSettings().remove("ears/talk");
  emit changed();
}

void ListeningGuard::setReminderMinutes(int minutes) {
  reminderMinutes_ = minutes;
  QSettings().setValue("ears/reminder", minutes);
  emit changed();
}

void ListeningGuard::tick() {
  const Monitor::Reading& reading = bench_.transport().mixer().monitor().newest();
  const bool fresh = reading.number != read_;
  read_ = reading.number;
  const double seconds = fresh ? reading.seconds : 1.0;
  const bool sounds = fresh && reading.meanSquare > kSilence;
  const auto before = level_;
  level_ = sounds ? std::optional(Decibels(10 * std::log10(reading.meanSquare))) : std::nullopt;
  if (!sounds) {
    quiet_ += seconds;
    if (quiet_ > kRest) sinceRest_ = 0;
    if (before) emit changed();
    return;
  }
  quiet_ = 0;
  sinceRest_ += seconds;
  const int day = static_cast<int>(dayNow());
  const double weekBefore = week().dose;
  // Without a calibration only the time is known.
  if (calibration_)
    account_.add(day, *level(), Seconds(seconds));
  else
    account_.days[day].time += Seconds(seconds);
  if (++unsaved_ >= kSaveEvery) save();
  if (reminderMinutes_ > 0 && sinceRest_ >= 60.0 * reminderMinutes_) {
    sinceRest_ = 0;
    bench_.say(tr("You have listened for %1 minutes. A few minutes of quiet now let ears and hands recover.")
                   .arg(reminderMinutes_));
  }
  if (weekBefore < 1.0 && week().dose >= 1.0)
    bench_.say(
        tr("This week's sound allowance (WHO-ITU H.870, 80 dB(A) for 40 hours) is used up as far as the "
           "calibration can tell. Turn it down, and rest your ears."));
  else if (const auto now = level();
           now && *now >= kNearTheLimit && (!before || calibration_->heard(*before) < kNearTheLimit))
    bench_.say(tr("It is about %1 dB(A) now: at that level the allowance of a whole week lasts %2 hours.")
                   .arg(std::lround(now->value))
                   .arg(allowedAt(*now).value / 3600, 0, 'f', 1));
  emit changed();
}

void ListeningGuard::save() {
  unsaved_ = 0;
  account_.tidy(dayNow());
  QSettings settings;
  settings.remove("ears/days");
  settings.beginGroup("ears/days");
  for (const auto& [day, sum] : account_.days)
    settings.setValue(QString::number(day),
                      QStringList{QString::number(sum.dose, 'g', 12), QString::number(sum.time.value, 'f', 1)});
}

}  // namespace ear
