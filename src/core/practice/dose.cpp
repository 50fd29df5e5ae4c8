// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/dose.h"

#include <cmath>

namespace ear {

double doseOf(Decibels level, Seconds time) {
  return std::pow(10.0, (level - kAllowedLevel).value / 10) * (time / kAllowedTime);
}

Seconds allowedAt(Decibels level) {
  return kAllowedTime * std::pow(10.0, (kAllowedLevel - level).value / 10);
}

void ListeningAccount::add(std::int64_t day, Decibels level, Seconds time) {
  Day& d = days[day];
  d.dose += doseOf(level, time);
  d.time += time;
}

ListeningAccount::Day ListeningAccount::on(std::int64_t day) const {
  const auto found = days.find(day);
  return found == days.end() ? Day{} : found->second;
}

ListeningAccount::Day ListeningAccount::week(std::int64_t today) const {
  Day sum;
  for (auto day = days.upper_bound(today - 7); day != days.end() && day->first <= today; ++day)
    sum.dose += day->second.dose, sum.time += day->second.time;
  return sum;
}

void ListeningAccount::tidy(std::int64_t today) {
  days.erase(days.begin(), days.upper_bound(today - 7));
}

}  // namespace ear
