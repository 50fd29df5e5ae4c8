// SPDX-License-Identifier: GPL-3.0-or-later
#include <gmock/gmock.h>

#include <cmath>

#include "core/study/grid_edit.h"
#include "core/study/running_order.h"

namespace ear {
namespace {

/// Beats every `step` seconds from 1 s on, a bar line at each `meter`-th of them from `first` on.
Grid steady(std::size_t beats, double step = 0.5, int meter = 4, std::size_t first = 0) {
  Grid grid;
  for (std::size_t i = 0; i < beats; ++i)
    grid.push_back({Seconds(1 + step * static_cast<double>(i)),
                    i >= first && (i - first) % static_cast<std::size_t>(meter) == 0, false});
  return grid;
}

std::vector<std::size_t> barsOf(const Grid& grid) {
  std::vector<std::size_t> bars;
  for (std::size_t i = 0; i < grid.size(); ++i)
    if (grid[i].bar) bars.push_back(i);
  return bars;
}

TEST(Grid, KnowsItsMetreTempoAndPlaces) {
  const Grid grid = steady(16, 0.5, 3, 1);
  EXPECT_EQ(meterOf(grid), 3);
  EXPECT_NEAR(tempoOf(grid)->value, 120, 1e-9);
  EXPECT_EQ(barsIn(grid, {Seconds(1.5), Seconds(4.5)}), 2);
  const auto place = barPlaceAt(grid, Seconds(1.5 + 1.0 + 0.125));  // bar 1, beat 3, a quarter of it
  ASSERT_TRUE(place);
  EXPECT_EQ(place->bar, 1);
  EXPECT_EQ(place->beat, 3);
  EXPECT_NEAR(place->within, 0.25, 1e-9);
  EXPECT_EQ(countedAt(grid, Seconds(2.63), NotationPreferences{}), "1: 3 e");
  EXPECT_FALSE(barPlaceAt(grid, Seconds(0.9)));
  EXPECT_FALSE(barPlaceAt(grid, Seconds(9.1)));
  EXPECT_EQ(snapToBar(grid, Seconds(2.9), Seconds(0.5)), Seconds(3.0));
  EXPECT_EQ(snapToBar(grid, Seconds(2.3), Seconds(0.2)), Seconds(2.3));
}

TEST(Grid, HalveAndDoubleUndoEachOther) {
  const Grid before = steady(17);
  Grid grid = before;
  doubleTempo(grid);
  EXPECT_NEAR(tempoOf(grid)->value, 240, 1e-9);
  EXPECT_EQ(meterOf(grid), 4);
  halveTempo(grid);
  EXPECT_EQ(grid, before);
}

TEST(Grid, ShiftsTheOneAndSetsTheMetre) {
  Grid grid = steady(12);
  shiftBars(grid, 1);
  EXPECT_EQ(barsOf(grid), (std::vector<std::size_t>{1, 5, 9}));
  shiftBars(grid, -2);
  EXPECT_EQ(barsOf(grid), (std::vector<std::size_t>{3, 7, 11}));
  setMeter(grid, 3);
  EXPECT_EQ(barsOf(grid), (std::vector<std::size_t>{0, 3, 6, 9}));
  startBarAt(grid, 7);
  EXPECT_EQ(barsOf(grid), (std::vector<std::size_t>{0, 3, 6, 7, 10}));
}

TEST(Grid, ADraggedBarLineTakesItsNeighboursAlongOrNot) {
  Grid alone = steady(12), along = alone;
  moveBeat(alone, 4, Seconds(3.2), Neighbours::stay);
  EXPECT_EQ(alone[4].time, Seconds(3.2));
  EXPECT_EQ(alone[3].time, Seconds(2.5));
  EXPECT_TRUE(alone[4].fixed);
  moveBeat(along, 4, Seconds(3.2), Neighbours::follow);
  EXPECT_NEAR(along[2].time.value, 1 + 2.2 / 2, 1e-9);          // spread evenly from 1.0 to 3.2
  EXPECT_NEAR(along[6].time.value, 3.2 + (5 - 3.2) / 2, 1e-9);  // and from 3.2 to 5.0
  EXPECT_EQ(along[8].time, Seconds(5.0));
  moveBeat(along, 4, Seconds(99), Neighbours::follow);  // never past its neighbours
  for (std::size_t i = 1; i < along.size(); ++i) EXPECT_LT(along[i - 1].time, along[i].time);
}

TEST(Grid, UnevenTapsAreSmoothed) {
  // Taps at half a second each, 20 ms early and late in turn.
  std::vector<Seconds> taps;
  for (int i = 0; i < 12; ++i) taps.emplace_back(2 + 0.5 * i + (i % 2 == 0 ? 0.02 : -0.02));
  const auto smooth = smoothTaps(taps);
  ASSERT_EQ(smooth.size(), taps.size());
  for (std::size_t i = 2; i + 2 < smooth.size(); ++i)
    EXPECT_NEAR(smooth[i].value, 2 + 0.5 * static_cast<double>(i), 0.006);
  EXPECT_TRUE(smoothTaps(std::vector<Seconds>(3)).empty());
}

TEST(Grid, TapsReplaceTheirStretchAndAreKeptWhenTheRestIsFound) {
  Grid grid = steady(40);
  std::vector<Seconds> taps;
  for (int i = 0; i < 8; ++i) taps.emplace_back(6.2 + 0.5 * i);
  placeTaps(grid, taps, 4);
  for (const Seconds t : taps)
    EXPECT_TRUE(std::any_of(grid.begin(), grid.end(), [&](const Beat& b) { return b.time == t && b.fixed; }));
  for (std::size_t i = 1; i < grid.size(); ++i) EXPECT_GT((grid[i].time - grid[i - 1].time).value, 0.25);
  // What the machine finds around them, a little off theirs and one phase later in the bar.
  std::vector<Seconds> found;
  for (int i = 0; i < 40; ++i) found.emplace_back(0.71 + 0.5 * i);
  const Grid full = aroundFixed(grid, found, 4);
  EXPECT_EQ(std::count_if(full.begin(), full.end(), [](const Beat& b) { return b.fixed; }), 8);
  const auto lines = barLines(full);
  EXPECT_NE(std::find(lines.begin(), lines.end(), Seconds(6.2)), lines.end());
  for (std::size_t i = 1; i < lines.size(); ++i) EXPECT_NEAR((lines[i] - lines[i - 1]).value, 2.0, 0.05);
  EXPECT_NEAR(lines.front().value, 2.21, 1e-9);
}

TEST(Grid, SaysHowTheTempoMoves) {
  EXPECT_EQ(driftWords(tempoCurve(steady(60))), "steady");
  Grid drifting, slowing = steady(60);
  double t = 0;
  for (int i = 0; i < 100; ++i) {
    drifting.push_back({Seconds(t), i % 4 == 0, false});
    t += 60.0 / (100 + 4 * std::sin(i / 12.0));
  }
  EXPECT_EQ(driftWords(tempoCurve(drifting)), "drifts between 96 and 104");
  double step = 0.5;
  for (int i = 0; i < 6; ++i) slowing.push_back({slowing.back().time + Seconds(step *= 1.08), false, false});
  EXPECT_THAT(driftWords(tempoCurve(slowing)), testing::StartsWith("steady, slows down at the end to"));
}

TEST(Grid, SaysWhereBarsAreOfAnotherLength) {
  EXPECT_EQ(metreWords(steady(40)), "");
  Grid grid = steady(41);
  for (std::size_t i = 16; i < 41; ++i)
    grid[i].bar = i == 16 || (i >= 18 && i < 30 && (i - 18) % 3 == 0) || (i >= 30 && (i - 30) % 4 == 0);
  EXPECT_EQ(metreWords(grid), "a bar of 2 at 0:09.0, bars of 3 from 0:10.0 to 0:16.0");
}

Form abac() {
  Form form;
  const char* letters[] = {"A", "B", "A", "C"};
  for (int i = 0; i < 4; ++i)
    form.push_back({{Seconds(16.0 * i), Seconds(16.0 * (i + 1))}, letters[i], "", Origin::measured, 0.7});
  return form;
}

TEST(RunningOrder, IsReadFromTheForm) {
  Form form = abac();
  form[0].name = "intro";
  form[2].difference = "ends differently";
  EXPECT_EQ(runningOrder(form), "intro, B, A', C");
}

TEST(RunningOrder, WordsRename) {
  const auto form = withRunningOrder(abac(), "intro, B, A, outro", steady(140));
  ASSERT_TRUE(form.ok());
  ASSERT_EQ(form->size(), 4U);
  EXPECT_EQ((*form)[0].name, "intro");
  EXPECT_EQ((*form)[3].name, "outro");
  EXPECT_EQ((*form)[1], abac()[1]) << "what was not touched stays measured";
  EXPECT_EQ((*form)[0].origin, Origin::set);
}

TEST(RunningOrder, TakenAwayIsJoinedAndAddedIsCut) {
  const auto fewer = withRunningOrder(abac(), "A, B, C", steady(140));
  ASSERT_TRUE(fewer.ok());
  ASSERT_EQ(fewer->size(), 3U);
  EXPECT_EQ((*fewer)[1].span, (TimeSpan{Seconds(16), Seconds(48)}));
  const auto more = withRunningOrder(abac(), "A, B, B', A, C", steady(140));
  ASSERT_TRUE(more.ok());
  ASSERT_EQ(more->size(), 5U);
  EXPECT_EQ((*more)[1].span.end, Seconds(25)) << "cut at the bar line nearest to the middle (23 or 25)";
  EXPECT_EQ((*more)[2].letter, "B");
  EXPECT_FALSE((*more)[2].difference.empty());
  EXPECT_EQ((*more)[3].span.start, Seconds(32));
  const auto front = withRunningOrder(abac(), "count-in, A, B, A, C", steady(140));
  ASSERT_TRUE(front.ok());
  ASSERT_EQ(front->size(), 5U);
  EXPECT_EQ((*front)[0].name, "count-in");
  EXPECT_EQ((*front)[1].letter, "A");
  EXPECT_EQ((*front)[4].span.end, Seconds(64));
  const auto gone = withRunningOrder(abac(), "B, A, C", steady(140));
  ASSERT_TRUE(gone.ok());
  ASSERT_EQ(gone->size(), 3U);
  EXPECT_EQ((*gone)[0].span, (TimeSpan{Seconds(0), Seconds(32)}));
  EXPECT_FALSE(withRunningOrder(abac(), " , ", steady(140)).ok());
}

TEST(RunningOrder, StaysGapFreeWhateverIsWritten) {
  for (const char* text :
       {"A", "X, Y", "A, A, A, A, A, A", "C, A, B, A", "B, B, B", "intro, A, B, A', solo, C", "A, C"}) {
    const auto form = withRunningOrder(abac(), text, steady(140));
    if (!form.ok()) continue;
    EXPECT_EQ(runningOrder(*form), text);
    EXPECT_EQ(form->front().span.start, Seconds(0)) << text;
    EXPECT_EQ(form->back().span.end, Seconds(64)) << text;
    for (std::size_t i = 1; i < form->size(); ++i) {
      EXPECT_EQ((*form)[i].span.start, (*form)[i - 1].span.end) << text;
      EXPECT_GT((*form)[i].span.length().value, 0.1) << text;
    }
  }
}

}  // namespace
}  // namespace ear
