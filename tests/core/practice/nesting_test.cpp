// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/nesting.h"

#include <gmock/gmock.h>

namespace ear {
namespace {

/// Beats of half a second, bars of four from 0 on; sections of 10 and 6 bars.
struct Song {
  Grid grid;
  Form form{{{Seconds(0), Seconds(20)}, "A", ""}, {{Seconds(20), Seconds(32)}, "B", ""}};
  Seconds duration{34};
  Song() {
    for (int i = 0; i < 66; ++i) grid.push_back({Seconds(0.5 * i), i % 4 == 0, false});
  }
};

TimeSpan span(double start, double end) {
  return {Seconds(start), Seconds(end)};
}

TEST(Nesting, BarPhraseSectionAndSong) {
  const Song s;
  EXPECT_THAT(nestedAround(s.grid, s.form, s.duration, Seconds(11)),
              testing::ElementsAre(span(10, 12), span(8, 12), span(8, 16), span(0, 20), span(0, 34)));
  // Phrases are counted from the section's start and end with it: the tenth bar's four are two.
  EXPECT_THAT(nestedAround(s.grid, s.form, s.duration, Seconds(19)),
              testing::ElementsAre(span(18, 20), span(16, 20), span(0, 20), span(0, 34)));
  EXPECT_THAT(nestedAround({}, {}, s.duration, Seconds(5)), testing::ElementsAre(span(0, 34)));
}

TEST(Nesting, WiderAndNarrowerWalkTheSameSteps) {
  const Song s;
  TimeSpan now = span(10, 12);
  for (const TimeSpan wanted : {span(8, 12), span(8, 16), span(0, 20), span(0, 34)}) {
    const auto next = wider(s.grid, s.form, s.duration, now);
    ASSERT_TRUE(next);
    EXPECT_EQ(*next, wanted);
    now = *next;
  }
  EXPECT_FALSE(wider(s.grid, s.form, s.duration, now));
  for (const TimeSpan wanted : {span(0, 20), span(8, 16), span(8, 12), span(10, 12)}) {
    const auto next = narrower(s.grid, s.form, s.duration, now, Seconds(11));
    ASSERT_TRUE(next);
    EXPECT_EQ(*next, wanted);
    now = *next;
  }
  EXPECT_FALSE(narrower(s.grid, s.form, s.duration, now, Seconds(11)));
  EXPECT_EQ(*wider(s.grid, s.form, s.duration, span(10.3, 11.1)), span(10, 12)) << "a passage off the grid";
}

TEST(Nesting, TheNextOfTheSameLength) {
  Song s;
  EXPECT_EQ(*neighbour(s.grid, s.duration, span(8, 12), true), span(12, 16));
  EXPECT_EQ(*neighbour(s.grid, s.duration, span(8, 12), false), span(4, 8));
  EXPECT_FALSE(neighbour(s.grid, s.duration, span(1, 4), false));
  EXPECT_NEAR(neighbour(s.grid, s.duration, span(8.2, 9.3), true)->start.value, 9.3, 1e-9);
  EXPECT_NEAR(neighbour(s.grid, s.duration, span(8.2, 9.3), true)->end.value, 10.4, 1e-9);
  // Where the tempo moves, beats count and not seconds.
  for (std::size_t i = 24; i < s.grid.size(); ++i) s.grid[i].time += Seconds(0.1 * static_cast<double>(i - 24));
  EXPECT_NEAR(neighbour(s.grid, s.duration, span(8, 12), true)->length().value, 4.8, 1e-9);
}

}  // namespace
}  // namespace ear
