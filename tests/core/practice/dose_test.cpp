// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/dose.h"

#include <gtest/gtest.h>

namespace ear {
namespace {

// WHO-ITU H.870 (2018), clause 6: 80 dB(A) for 40 hours a week, an exchange rate of 3 dB.
TEST(Dose, FortyHoursAtEightyDecibelsAreTheWeek) {
  EXPECT_NEAR(doseOf(Decibels(80), Seconds(40 * 3600)), 1.0, 1e-12);
  // 20 h at 83 dB(A), 10 h at 86: table 1 of the recommendation gives these rounded.
  EXPECT_NEAR(doseOf(Decibels(83), Seconds(20 * 3600)), 1.0, 0.01);
  EXPECT_NEAR(doseOf(Decibels(86), Seconds(10 * 3600)), 1.0, 0.01);
  EXPECT_NEAR(allowedAt(Decibels(90)).value / 3600, 4.0, 1e-9);
  EXPECT_NEAR(doseOf(Decibels(60), Seconds(40 * 3600)), 0.01, 1e-12);
}

TEST(Dose, TheWeekIsTheLastSevenDays) {
  ListeningAccount account;
  for (std::int64_t day = 100; day < 110; ++day) account.add(day, Decibels(80), Seconds(4 * 3600));
  EXPECT_NEAR(account.week(109).dose, 7 * 0.1, 1e-9);
  EXPECT_NEAR(account.week(109).time.value, 7 * 4 * 3600.0, 1e-6);
  EXPECT_NEAR(account.week(112).dose, 4 * 0.1, 1e-9);
  EXPECT_EQ(account.week(130).dose, 0.0);
  account.tidy(112);
  EXPECT_EQ(account.days.size(), 4U);
  EXPECT_NEAR(account.on(109).dose, 0.1, 1e-9);
  EXPECT_EQ(account.on(99).dose, 0.0);
}

TEST(Dose, CalibrationSetsTheMarkAtTalk) {
  const Calibration mark{Decibels(-35)};
  EXPECT_EQ(mark.heard(Decibels(-35)), kTalk);
  EXPECT_EQ(mark.heard(Decibels(-15)), Decibels(80));
}

}  // namespace
}  // namespace ear
