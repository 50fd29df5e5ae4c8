// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/repeats.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/listening/form/repeat_difference.h"
#include "support/sounds.h"

namespace ear {
namespace {

Grid evenGrid(double beat, int beats) {
  Grid grid;
  for (int i = 0; i < beats; ++i) grid.push_back({Seconds(beat * i), i % 4 == 0, false});
  return grid;
}

Form verses() {
  Form form;
  const char* letters[] = {"A", "B", "A", "B", "A"};
  for (int i = 0; i < 5; ++i)
    form.push_back({{Seconds(8.0 * i), Seconds(8.0 * (i + 1))}, letters[i], "", Origin::measured, 1.0});
  return form;
}

TEST(Repeats, TheSameBarsOfTheOtherSectionsOfTheLetter) {
  const auto found = repeatsOf(evenGrid(0.5, 81), verses(), {Seconds(2), Seconds(4)});
  ASSERT_EQ(found.size(), 2U);
  EXPECT_NEAR(found[0].start.value, 18, 1e-9);
  EXPECT_NEAR(found[0].end.value, 20, 1e-9);
  EXPECT_NEAR(found[1].start.value, 34, 1e-9);
  EXPECT_TRUE(repeatsOf(evenGrid(0.5, 81), {}, {Seconds(2), Seconds(4)}).empty());
  EXPECT_EQ(repeatsOf({}, verses(), {Seconds(10), Seconds(11)}).size(), 1U) << "without beats by time";
}

TEST(Repeats, FollowBeatsThatDrift) {
  // The second verse is slower: its beats last longer.
  Grid grid;
  double t = 0;
  for (int i = 0; i < 65; ++i) {
    grid.push_back({Seconds(t), i % 4 == 0, false});
    t += i < 32 ? 0.5 : 0.55;
  }
  Form form{{{grid[0].time, grid[16].time}, "A", "", Origin::measured, 1.0},
            {{grid[16].time, grid[32].time}, "B", "", Origin::measured, 1.0},
            {{grid[32].time, grid[48].time}, "A", "", Origin::measured, 1.0}};
  const auto found = repeatsOf(grid, form, {grid[4].time, grid[8].time});
  ASSERT_EQ(found.size(), 1U);
  EXPECT_NEAR(found[0].start.value, grid[36].time.value, 1e-9);
  EXPECT_NEAR(found[0].length().value, 4 * 0.55, 1e-9);
}

/// Eight notes of half a second, twice; the second time with one other note and a little late.
Recording twice(int rate = 44100, Cents offset = Cents(0)) {
  const int first[] = {52, 55, 57, 59, 60, 59, 57, 55}, second[] = {52, 55, 57, 62, 60, 59, 57, 55};
  return test::soundOf(9.0, rate, [&](double t) {
    const bool again = t >= 4.5;
    const double late = again && t > 4.5 + 2.5 ? 0.04 : 0.0;
    const double in = (again ? t - 4.5 : t) - late;
    const auto i = static_cast<std::size_t>(std::clamp(in / 0.5, 0.0, 7.0));
    if (in > 4.0 || in < 0) return 0.0;
    const double since = in - 0.5 * static_cast<double>(i);
    const int midi = again ? second[i] : first[i];
    double sum = 0;
    for (int h = 1; h <= 4; ++h)
      sum +=
          0.2 / h * std::sin(2 * std::numbers::pi * h * 440 * std::exp2((midi - 69 + offset.value / 100) / 12.0) * in);
    return sum * std::exp(-2 * since) * std::min(1.0, since / 0.004);
  });
}

TEST(RepeatDifference, MarksTheOtherNoteAndNotTheLateness) {
  const Recording recording = twice();
  const auto d = compareRepeats({recording, {Seconds(0), Seconds(4)}, Cents(0)},
                                {recording, {Seconds(4.5), Seconds(8.5)}, Cents(0)}, {});
  ASSERT_GT(d.columns, 50U);
  ASSERT_EQ(d.differs.size(), 1U);
  EXPECT_NEAR(d.differs[0].start.value, 1.5, 0.2);
  EXPECT_NEAR(d.differs[0].end.value, 2.0, 0.2);
  const auto same = compareRepeats({recording, {Seconds(0), Seconds(4)}, Cents(0)},
                                   {recording, {Seconds(0), Seconds(4)}, Cents(0)}, {});
  EXPECT_TRUE(same.differs.empty());
  EXPECT_LT(*std::max_element(same.difference.begin(), same.difference.end()), 1e-3F);
}

TEST(RepeatDifference, LiesAcrossTwoRecordingsOfOtherPitchAndRate) {
  const Recording studio = twice(), live = twice(48000, Cents(-38));
  const RepeatSide first{studio, {Seconds(0), Seconds(4)}, Cents(0)};
  const auto d = compareRepeats(first, {live, {Seconds(4.5), Seconds(8.5)}, Cents(-38)}, {});
  ASSERT_EQ(d.differs.size(), 1U);
  EXPECT_NEAR(d.differs[0].start.value, 1.5, 0.2);
  EXPECT_TRUE(compareRepeats(first, {live, {Seconds(0), Seconds(4)}, Cents(-38)}, {}).differs.empty());
}

}  // namespace
}  // namespace ear
