// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/form.h"

#include <gmock/gmock.h>

#include <cmath>

#include "core/listening/form/borders.h"
#include "core/listening/form/section_words.h"

namespace ear {
namespace {

/// Bars written by hand: a chord for each (0 = C), a loudness, and how busy the second half of the beat pattern is.
struct Bar {
  int chord;
  double level = 1.0;
  double busy = 0.2;
};

BarFeatures featuresOf(const std::vector<Bar>& bars) {
  const auto n = static_cast<Eigen::Index>(bars.size());
  BarFeatures f{Eigen::MatrixXd::Constant(n, 48, 0.02),
                Eigen::MatrixXd::Constant(n, 24, 0.02),
                Eigen::MatrixXd::Zero(n, 48),
                Eigen::MatrixXd::Zero(n, 24),
                {},
                {},
                {}};
  for (Eigen::Index i = 0; i < n; ++i) {
    const Bar& bar = bars[static_cast<std::size_t>(i)];
    for (int q = 0; q < 4; ++q)
      for (const int step : {0, 4, 7}) f.harmony(i, q * 12 + (bar.chord + step) % 12) = 1;
    for (int h = 0; h < 2; ++h) f.bass(i, h * 12 + bar.chord % 12) = 1;
    for (int row = 0; row < 3; ++row)
      for (int place = 0; place < 16; ++place)
        f.rhythm(i, row * 16 + place) = place % 4 == 0 ? 1.0 : place % 2 == 0 ? bar.busy : 0.0;
    f.colour.row(i).setConstant(bar.level);
    f.level.push_back(bar.level);
    f.brightness.push_back(0.2);
    f.pitched.push_back(1.0);
  }
  return f;
}

std::vector<Bar> verseChorusTwice() {
  std::vector<Bar> bars;
  for (int time = 0; time < 2; ++time) {
    for (const int c : {9, 5, 0, 7, 9, 5, 0, 7}) bars.push_back({c, 1.0, 0.2});
    for (const int c : {5, 7, 2, 4, 5, 7, 2, 4}) bars.push_back({c, 1.4, 0.8});
  }
  return bars;
}

TEST(Borders, LieWhereHarmonyLevelAndBeatChange) {
  const auto features = featuresOf(verseChorusTwice());
  const auto odds = borderOdds(borderSigns(features, compareBars(features)));
  EXPECT_EQ(chooseBorders(odds), (std::vector<int>{0, 8, 16, 24}));
  for (const std::size_t border : {8U, 16U, 24U})
    for (const std::size_t inside : {3U, 5U, 11U, 13U, 19U, 21U, 27U}) EXPECT_GT(odds[border], odds[inside]);
}

TEST(Borders, FourAndEightBarsArePreferred) {
  std::vector<double> odds(16, -4.0);
  odds[7] = 1.0, odds[8] = 0.8;  // a bar too early is a little more likely by itself
  EXPECT_EQ(chooseBorders(odds), (std::vector<int>{0, 8}));
}

TEST(Repeats, TellHowMuchHigherTheyAre) {
  std::vector<Bar> bars;
  for (const int c : {0, 5, 7, 0}) bars.push_back({c});
  for (const int c : {2, 7, 9, 2}) bars.push_back({c});
  for (const int c : {0, 5, 7, 0}) bars.push_back({c});
  const auto f = featuresOf(bars);
  EXPECT_EQ(transposition(f, {0, 4}, {4, 4}), 2);
  EXPECT_EQ(transposition(f, {4, 4}, {0, 4}), -2);
  EXPECT_EQ(transposition(f, {0, 4}, {8, 4}), 0);
  EXPECT_THAT(wordsOf(differenceOf(f, compareBars(f), {0, 4}, {4, 4})), testing::StartsWith("2 semitones higher"));
  EXPECT_EQ(wordsOf(differenceOf(f, compareBars(f), {0, 4}, {8, 4})), "");
}

TEST(Repeats, TellWhatDiffers) {
  auto bars = verseChorusTwice();
  for (std::size_t i = 16; i < 24; ++i) bars[i].level = 1.25;  // the second verse is fuller
  const auto f = featuresOf(bars);
  EXPECT_THAT(wordsOf(differenceOf(f, compareBars(f), {0, 8}, {16, 8})), testing::HasSubstr("fuller"));
  EXPECT_THAT(wordsOf(differenceOf(f, compareBars(f), {0, 8}, {16, 6})), testing::HasSubstr("2 bars shorter"));
}

TEST(Roles, AreGuessedFromPlaceRepetitionAndLoudness) {
  const auto f = featuresOf(verseChorusTwice());
  std::vector<FoundSection> sections(4);
  const char* letters[] = {"A", "B", "A", "B"};
  for (std::size_t i = 0; i < 4; ++i) sections[i].letter = letters[i];
  guessRoles(sections, {{0, 8}, {8, 8}, {16, 8}, {24, 8}}, f, compareBars(f));
  EXPECT_EQ(sections[0].role, Role::verse);
  EXPECT_EQ(sections[1].role, Role::chorus);
  EXPECT_EQ(sections[3].role, Role::chorus);
}

TEST(SideEntries, AreWhereAQuietSideComesIn) {
  std::vector<SidePoint> points;
  for (int s = 0; s < 40; ++s) {
    SidePoint p{Seconds(s + 0.5)};
    p.level = {0.5F, 0.8F, s < 20 ? 0.02F : 0.6F};
    points.push_back(p);
  }
  points[10].level[2] = 0.5F;  // a single second is no entry
  const auto entries = sideEntries(points);
  ASSERT_EQ(entries.size(), 1U);
  EXPECT_EQ(entries[0].side, Side::right);
  EXPECT_NEAR(entries[0].time.value, 20.5, 1e-9);
}

TEST(TrackThrough, GoesThroughHeldBeatsAndFollowsOn) {
  // Attacks of one strength every quarter of a second; the held beats say which of them are beats.
  OnsetStrength onsets{
      .clock = {100}, .all = std::vector<float>(3000, 0.0F), .low = {}, .high = {}, .kick = {}, .snare = {}};
  for (int i = 1; i < 118; ++i) onsets.all[static_cast<std::size_t>(25 * i)] = 0.8F;
  std::vector<Seconds> held;
  for (int i = 0; i < 8; ++i) held.emplace_back(10.25 + 0.5 * i);
  const auto beats = trackThrough(onsets, held, {});
  ASSERT_GT(beats.size(), 50U);
  for (const Seconds h : held)
    EXPECT_TRUE(std::any_of(beats.begin(), beats.end(), [&](Seconds b) { return std::abs((b - h).value) < 0.03; }))
        << h.value;
  for (const Seconds b : beats) EXPECT_NEAR(std::remainder(b.value - 0.25, 0.5), 0, 0.04) << b.value;
  EXPECT_TRUE(trackThrough(onsets, std::vector<Seconds>{Seconds(3)}, {}).empty());
}

TEST(SectionDifference, IsReadBackFromItsWords) {
  // As files before version 2 have it.
  for (const SectionDifference& d :
       {SectionDifference{}, SectionDifference{.semitones = -1}, SectionDifference{.semitones = 2, .bars = 1},
        SectionDifference{.bars = -2, .otherBeat = true, .loudness = 1},
        SectionDifference{.endsOtherwise = true, .loudness = -1, .left = 1, .right = -1}})
    EXPECT_EQ(differenceIn(wordsOf(d)), d) << wordsOf(d);
  EXPECT_EQ(differenceIn("somebody sings"), SectionDifference{});
}

}  // namespace
}  // namespace ear
