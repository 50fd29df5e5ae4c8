// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/form_edit.h"

#include <gtest/gtest.h>

#include <random>

#include "core/study/running_order.h"
#include "core/study/validity.h"

namespace ear {
namespace {

Study studyOf(const Form& form) {
  Study s;
  Take take;
  take.id = "take1", take.file = "/music/a.flac", take.duration = Seconds(120);
  take.form = Decision<Shared<Form>>{Shared<Form>(form), Origin::set, 1.0, {}};
  s.takes.push_back(take);
  return s;
}

void expectGapFree(const Form& form, const std::string& what) {
  ASSERT_FALSE(form.empty()) << what;
  EXPECT_EQ(form.front().span.start, Seconds(0)) << what;
  EXPECT_EQ(form.back().span.end, Seconds(120)) << what;
  for (std::size_t i = 0; i < form.size(); ++i) {
    EXPECT_GT(form[i].span.length(), Seconds(0)) << what;
    EXPECT_TRUE(i == 0 || form[i].span.start == form[i - 1].span.end) << what;
  }
  EXPECT_EQ(faultOf(studyOf(form)), std::nullopt) << what << ": a study may hold it";
}

/// Whatever is done to a form, sensible or not: it covers the recording without a gap, and each of its sections was
/// measured or is a person's.
TEST(FormEdit, AnyEditsLeaveNoGap) {
  std::mt19937 random(41);
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  for (int round = 0; round < 100; ++round) {
    Form form = {{{Seconds(0), Seconds(120)}, "A", "", Origin::measured, 0.8}};
    for (int step = 0; step < 40; ++step) {
      const auto index = static_cast<std::size_t>(pick(0, static_cast<int>(form.size()) + 1));
      const Seconds at(pick(-10, 1300) / 10.0);
      const Form before = form;
      const int what = pick(0, 5);
      if (what <= 1) splitSection(form, at);
      if (what == 2) mergeWithPrevious(form, index);
      if (what == 3) moveBorder(form, index, at);
      if (what == 4) renameSection(form, index, std::string(1, static_cast<char>('A' + pick(0, 5))), "verse");
      if (what == 5) markSame(form, index, static_cast<std::size_t>(pick(0, 4)), pick(0, 1) == 0 ? "" : "thinner");
      expectGapFree(form, "round " + std::to_string(round) + " step " + std::to_string(step));
      const auto sections = static_cast<std::ptrdiff_t>(form.size()), were = static_cast<std::ptrdiff_t>(before.size());
      EXPECT_LE(std::abs(sections - were), 1) << "one edit, one border";
    }
  }
}

/// A form that is written down as its running order and read back is itself; any order of letters becomes the order.
TEST(RunningOrder, ReadBackItIsTheOrderThatWasWritten) {
  std::mt19937 random(43);
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  Grid grid;
  for (int beat = 0; beat <= 240; ++beat) grid.push_back({Seconds(beat / 2.0), beat % 4 == 0, false});
  const Form start = {{{Seconds(0), Seconds(60)}, "A", "", Origin::measured, 0.8},
                      {{Seconds(60), Seconds(120)}, "B", "", Origin::measured, 0.8}};
  for (int round = 0; round < 200; ++round) {
    std::string text;
    for (int i = 0, count = pick(1, 8); i < count; ++i)
      text += (i > 0 ? ", " : "") + std::string(1, static_cast<char>('A' + pick(0, 3)));
    const auto edited = withRunningOrder(start, text, grid);
    ASSERT_TRUE(edited.ok()) << text << ": " << edited.problem();
    expectGapFree(*edited, text);
    EXPECT_EQ(runningOrder(*edited), text);
    const auto same = withRunningOrder(*edited, text, grid);
    ASSERT_TRUE(same.ok()) << same.problem();
    EXPECT_EQ(*same, *edited) << text;
  }
  // Where nothing can be cut any more, that is said.
  std::string many = "A";
  for (int i = 0; i < 400; ++i) many += ", C";
  EXPECT_FALSE(withRunningOrder(start, many, grid).problem().empty());
}

}  // namespace
}  // namespace ear
