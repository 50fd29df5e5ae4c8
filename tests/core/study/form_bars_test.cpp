// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/form_bars.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace ear {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;
using testing::SizeIs;

/// Bars of two seconds from the first second on.
Grid grid(int bars) {
  Grid grid;
  for (int beat = 0; beat <= 4 * bars; ++beat) grid.push_back({Seconds(1 + beat / 2.0), beat % 4 == 0, false});
  return grid;
}

std::vector<int> numbers(const FormBars& of) {
  std::vector<int> list;
  for (const FormBar& bar : of.bars) list.push_back(bar.number);
  return list;
}

ShownChord chord(double from, double to, const char* name) {
  ShownChord c;
  c.span = {Seconds(from), Seconds(to)}, c.chord = parseChord(name);
  return c;
}

TEST(FormBars, EachSectionHasTheBarsThatStartInIt) {
  const Form form = {{{Seconds(0), Seconds(5.05)}, "A", ""}, {{Seconds(5.05), Seconds(11)}, "B", ""}};
  const auto sections = barsOfForm(form, grid(5), Seconds(11), {});
  ASSERT_THAT(sections, SizeIs(2));
  EXPECT_THAT(numbers(sections[0]), ElementsAre(1, 2)) << "the border lies a hair behind the line of bar 3";
  EXPECT_THAT(numbers(sections[1]), ElementsAre(3, 4, 5)) << "bar 6 would be empty";
  EXPECT_EQ(sections[1].bars.back().span.end, Seconds(11));
}

TEST(FormBars, AChordIsInEveryBarInWhichItSoundsForMoreThanAMoment) {
  const auto sections =
      barsOfForm({}, grid(3), Seconds(8), {chord(1, 3.05, "C"), chord(3.05, 6, "F"), chord(6, 7, "G")});
  ASSERT_THAT(sections, SizeIs(1)) << "without a form the recording is one section";
  const auto names = [&](std::size_t bar) {
    std::vector<std::string> list;
    for (const ShownChord& c : sections[0].bars[bar].chords) list.push_back(chordName(*c.chord, Spelling::sharps));
    return list;
  };
  EXPECT_THAT(names(0), ElementsAre("C"));
  EXPECT_THAT(names(1), ElementsAre("F")) << "C is over fifty milliseconds behind the line";
  EXPECT_THAT(names(2), ElementsAre("F", "G"));
}

TEST(FormBars, WithoutBarLinesThereAreNone) {
  ASSERT_THAT(barsOfForm({}, {}, Seconds(8), {}), SizeIs(1));
  EXPECT_THAT(barsOfForm({}, {}, Seconds(8), {}).front().bars, IsEmpty());
}

}  // namespace
}  // namespace ear
