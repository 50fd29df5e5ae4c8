// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/kept_tree.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/phrases.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::SizeIs;

Study study() {
  Study s;
  const auto passage = [&](const char* id, double from, double to) {
    Passage p;
    p.id = id, p.take = "take1", p.span = {Seconds(from), Seconds(to)};
    s.passages.push_back(p);
  };
  const auto phrase = [&](const char* id, double from, double to) {
    Phrase p = test::phrase(id, {});
    p.span = {Seconds(from), Seconds(to)};
    s.phrases.push_back(p);
  };
  passage("half", 12, 14), passage("outside", 30, 34);
  phrase("whole", 12.02, 16), phrase("elsewhere", 2, 6);
  return s;
}

const Form kForm = {
    {{Seconds(0), Seconds(10)}, "A", ""}, {{Seconds(10), Seconds(20)}, "B", ""}, {{Seconds(20), Seconds(29)}, "C", ""}};

TEST(KeptTree, WhatLiesWithinAnotherStandsUnderIt) {
  std::vector<std::string> lines;
  for (const KeptSpan& k : keptTree(study(), "take1", kForm))
    lines.push_back(std::string(static_cast<std::size_t>(k.depth), '.') + k.id);
  EXPECT_THAT(lines, ElementsAre("0", ".elsewhere", "1", ".whole", "..half", "outside"));
}

TEST(KeptTree, OtherTakesAreLeftOut) {
  EXPECT_THAT(keptTree(study(), "take2", kForm), SizeIs(0));
}

TEST(KeptTree, SectionsWithoutTabAreNamed) {
  const Form open = unwrittenSections(study(), "take1", kForm);
  ASSERT_THAT(open, SizeIs(1));
  EXPECT_EQ(open[0].letter, "C");
}

}  // namespace
}  // namespace ear
