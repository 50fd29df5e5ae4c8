// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/systems.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/engraving/spacing.h"

namespace ear {
namespace {

using testing::Each;
using testing::IsEmpty;
using testing::Le;
using testing::SizeIs;

/// Bars of four beats in eighths on one string; the second of each pair is hammered on.
TabScore bars(int count) {
  ShownPhrase shown;
  TabScoreContext context;
  for (int i = 0; i < 8 * count; ++i) {
    Note n;
    n.id = i + 1, n.at = Beats(i, 2), n.length = Beats(1, 2), n.place = {4, 5 + i % 2};
    n.attack = i % 2 == 1 ? Attack::hammeredOn : Attack::plucked;
    shown.notes.push_back({n});
  }
  for (int b = 0; b <= count; ++b) context.barLines.emplace_back(4 * b);
  return engrave(shown, context);
}

TEST(Systems, HoldEveryNoteOnceAndBreakAtBars) {
  const TabScore score = bars(9);
  const auto systems = systemsOf(score, 70);
  ASSERT_GT(systems.size(), 2U);
  std::vector<int> notes;
  std::size_t beams = 0, all = 0;
  for (const auto& s : systems) {
    EXPECT_LE(Spacing(s.score).width(), 70.0);
    EXPECT_EQ(score.barLines[s.firstBar], s.score.from);
    for (const TabHead& h : s.score.heads) notes.push_back(h.note);
    for (const RhythmRow& row : s.score.voices) {
      beams += row.beams.size();
      for (const Beam& b : row.beams) EXPECT_LT(b.last, row.pieces.size());
    }
  }
  for (const RhythmRow& row : score.voices) all += row.beams.size();
  EXPECT_EQ(beams, all) << "no beam is cut";
  ASSERT_THAT(notes, SizeIs(score.heads.size()));
  EXPECT_TRUE(std::is_sorted(notes.begin(), notes.end()));
}

TEST(Systems, AreFilledAlike) {
  // Nine bars of which four fit: 3 + 3 + 3 rather than 4 + 4 + 1.
  const TabScore score = bars(9);
  double four = 0;
  four = Spacing(partOf(score, Beats(0), Beats(16)).score).width();
  const auto systems = systemsOf(score, four + 1);
  ASSERT_THAT(systems, SizeIs(3));
  for (const auto& s : systems) EXPECT_EQ(s.score.heads.size(), 24U);
}

TEST(Systems, BreakABarThatIsTooLongAtABeat) {
  const auto systems = systemsOf(bars(1), 14);
  ASSERT_GT(systems.size(), 1U);
  for (const auto& s : systems) EXPECT_EQ(s.score.from, Beats(s.score.from.floor())) << "on a beat";
  EXPECT_THAT(systemsOf(TabScore{}, 50), IsEmpty());
}

TEST(Systems, LeadFromOneLineToTheNext) {
  TabScore score = bars(2);
  // A slide over the bar line.
  score.marks.push_back({TabMark::Kind::slide, Beats(7, 2), Beats(4), 4, 9, 1.0});
  const TabSystem second = partOf(score, Beats(4), Beats(8));
  const auto led = std::find_if(second.score.marks.begin(), second.score.marks.end(),
                                [](const TabMark& m) { return m.kind == TabMark::Kind::slide; });
  ASSERT_NE(led, second.score.marks.end());
  EXPECT_LT(led->from, Beats(4));
  EXPECT_EQ(led->to, Beats(4));
}

}  // namespace
}  // namespace ear
