// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/sheet_changes.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/study/study_file.h"

namespace ear {
namespace {

using testing::IsEmpty;
using testing::SizeIs;

TEST(SheetChanges, NameTheLinesThatWentAndCameUnderTheirHeadings) {
  const std::string before = "Song\n====\n\nForm\n----\n  A  4\n  B  8\n\nPhrases\n-------\nOne\nTwo\n";
  const std::string after = "Song\n====\n\nForm\n----\n  A  4\n  B  12\n\nPhrases\n-------\nTwo\nThree\n";
  const auto changes = changesBetween(before, after);
  ASSERT_THAT(changes, SizeIs(4));
  EXPECT_EQ(changes[0].line, "  B  8");
  EXPECT_EQ(changes[0].kind, SheetChange::Kind::gone);
  EXPECT_EQ(changes[0].heading, "Form");
  EXPECT_EQ(changes[1].line, "  B  12");
  EXPECT_EQ(changes[2].line, "One");
  EXPECT_EQ(changes[3].line, "Three");
  EXPECT_EQ(changes[3].heading, "Phrases");
  EXPECT_THAT(changesBetween(before, before), IsEmpty());
  EXPECT_THAT(changesBetween("", ""), IsEmpty());
}

TEST(SheetChanges, CountRevisionsOfEachTake) {
  Study s;
  EXPECT_EQ(revisionOf(s, "a", "x"), 1);
  keepRevision(s, "a", "x", "2026-11-30T05:00:00");
  keepRevision(s, "a", "x", "2026-11-30T05:01:00");
  EXPECT_THAT(*s.revisions, SizeIs(1));
  EXPECT_EQ(revisionOf(s, "a", "x"), 1);
  EXPECT_EQ(revisionOf(s, "a", "y"), 2);
  EXPECT_EQ(revisionOf(s, "b", "x"), 1) << "of another take";
  for (int i = 0; i < 150; ++i) keepRevision(s, "a", std::to_string(i), "");
  EXPECT_THAT(*s.revisions, SizeIs(100)) << "the oldest go";
  EXPECT_EQ(s.revisions->back().number, 151);
}

TEST(SheetChanges, RevisionsAreKeptInTheFile) {
  auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  ASSERT_TRUE(demo.ok());
  Study s = demo->study;
  keepRevision(s, s.takes[0].id, "A sheet\n", "2026-11-30T05:00:00");
  s.audioForStudents = true;
  const auto text = writeStudyText(s, demo->measurements, DEMO_DIR);
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, DEMO_DIR, "s");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, s);
}

}  // namespace
}  // namespace ear
