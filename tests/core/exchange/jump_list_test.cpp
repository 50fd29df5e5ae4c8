// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/jump_list.h"

#include <gmock/gmock.h>

#include <random>

#include "spoilt.h"

namespace ear {
namespace {

const std::vector<Jump> kJumps = {{{Seconds(0), Seconds(7.25)}, "A intro"},
                                  {{Seconds(7.25), Seconds(65.5)}, "B verse, \"quiet\""},
                                  {{Seconds(22), Seconds(22)}, "second guitar in"}};

TEST(JumpList, IsWrittenInThreeWays) {
  EXPECT_EQ(writeJumps(kJumps, JumpFormat::text),
            "0:00.0 to 0:07.3  A intro\n0:07.3 to 1:05.5  B verse, \"quiet\"\n0:22.0  second guitar in\n");
  EXPECT_EQ(writeJumps(kJumps, JumpFormat::csv),
            "start_s,end_s,label\n0.000,7.250,A intro\n7.250,65.500,\"B verse, \"\"quiet\"\"\"\n22.000,22.000,second "
            "guitar in\n");
  EXPECT_EQ(writeJumps(kJumps, JumpFormat::labels),
            "0.000\t7.250\tA intro\n7.250\t65.500\tB verse, \"quiet\"\n22.000\t22.000\tsecond guitar in\n");
}

TEST(JumpList, IsReadBack) {
  for (const auto format : {JumpFormat::csv, JumpFormat::labels}) {
    const auto read = readJumps(writeJumps(kJumps, format));
    ASSERT_TRUE(read.ok()) << read.problem();
    ASSERT_EQ(read->size(), 3U);
    EXPECT_EQ((*read)[0], kJumps[0]);
    EXPECT_EQ((*read)[1], kJumps[1]);
    EXPECT_EQ((*read)[2], kJumps[2]);
  }
  // As text to a tenth of a second.
  const auto tenths = readJumps(writeJumps(kJumps, JumpFormat::text));
  ASSERT_TRUE(tenths.ok()) << tenths.problem();
  ASSERT_EQ(tenths->size(), 3U);
  for (std::size_t i = 0; i < 3; ++i) {
    EXPECT_EQ((*tenths)[i].label, kJumps[i].label);
    EXPECT_NEAR((*tenths)[i].span.start.value, kJumps[i].span.start.value, 0.051);
    EXPECT_NEAR((*tenths)[i].span.end.value, kJumps[i].span.end.value, 0.051);
  }
  EXPECT_EQ(readJumps("0:05 to the bridge\n")->front().label, "to the bridge");
  const auto text = readJumps("1:05 chorus\r\n0:07.3  verse\n\n1:02:05.4 talk\n");
  ASSERT_TRUE(text.ok()) << text.problem();
  ASSERT_EQ(text->size(), 3U);
  EXPECT_EQ((*text)[0].label, "verse");
  EXPECT_NEAR((*text)[1].span.start.value, 65, 1e-9);
  EXPECT_NEAR((*text)[2].span.start.value, 3725.4, 1e-9);
}

TEST(JumpList, SaysWhichLineIsWrong) {
  const auto bad = readJumps("0:07 verse\nsomewhere in the middle\n");
  ASSERT_FALSE(bad.ok());
  EXPECT_THAT(bad.problem(), testing::HasSubstr("Line 2"));
  EXPECT_FALSE(readJumps("").ok());
  EXPECT_FALSE(readJumps("5.0\t4.0\tbackwards\n").ok());
}

TEST(JumpList, SpansMakeAForm) {
  const auto form = formOfJumps(kJumps, Seconds(90));
  ASSERT_EQ(form.size(), 2U);
  EXPECT_EQ(form[0].letter, "A");
  EXPECT_EQ(form[0].name, "intro");
  EXPECT_EQ(form[1].span, (TimeSpan{Seconds(7.25), Seconds(90)}));
  // Labels of another program: names alone; one name is one letter.
  const auto named = formOfJumps(
      {{{Seconds(1), Seconds(5)}, "verse"}, {{Seconds(6), Seconds(9)}, "chorus"}, {{Seconds(9), Seconds(12)}, "verse"}},
      Seconds(12));
  ASSERT_EQ(named.size(), 3U);
  EXPECT_EQ(named[0].letter, named[2].letter);
  EXPECT_NE(named[0].letter, named[1].letter);
  EXPECT_EQ(named[0].span, (TimeSpan{Seconds(0), Seconds(6)}));
}

TEST(JumpList, ReadsWhatOtherProgramsWrite) {
  const auto marked = readJumps(
      "\xEF\xBB\xBF"
      "0,5,first\n5,9,second\n");
  ASSERT_TRUE(marked.ok());
  ASSERT_EQ(marked->size(), 2U) << "a byte-order mark takes no row along";
  EXPECT_EQ((*marked)[0].label, "first");
  const auto latin = readJumps(
      "0\t5\tprel\xFA"
      "dio\n5\t9\t\xC9\n");
  ASSERT_TRUE(latin.ok());
  EXPECT_EQ((*latin)[0].label, "prelúdio");
  EXPECT_EQ(formOfJumps(*latin, Seconds(9))[1].name, "É") << "no letter is cut in two";
  EXPECT_LE(readJumps("0 " + std::string(100'000, 'x'))->front().label.size(), 400U);
  EXPECT_FALSE(readJumps("1e300\t1e301\tnever").ok());
}

TEST(JumpList, ALabelNeverBreaksItsLine) {
  const std::vector<Jump> odd = {{{Seconds(1), Seconds(2)}, "tab\tand\nline"}};
  for (const auto format : {JumpFormat::csv, JumpFormat::labels, JumpFormat::text}) {
    const auto read = readJumps(writeJumps(odd, format));
    ASSERT_TRUE(read.ok()) << read.problem();
    EXPECT_EQ(read->front().label, "tab and line");
  }
}

TEST(JumpList, LabelsCloseTogetherEnd) {
  // Each shorter than the touch by which one span follows another.
  const std::vector<Jump> close = {{{Seconds(1), Seconds(1.01)}, "a"}, {{Seconds(1.005), Seconds(1.015)}, "b"}};
  EXPECT_TRUE(formOfJumps(close, Seconds(60)).empty());
  std::vector<Jump> many;
  for (int i = 0; i < 5000; ++i) many.push_back({{Seconds(i * 0.03), Seconds(i * 0.03 + 0.03)}, "x"});
  EXPECT_EQ(formOfJumps(many, Seconds(1000)).size(), 5000U);
}

TEST(JumpList, AnyTextIsReadOrRefused) {
  std::mt19937 random(3);
  const std::string pieces[] = {"0",   "1.5", ":", "\t",    ",",    "\n",           "\r\n", " to ", "\"", "-",
                                "1e9", "nan", "A", "verse", "\xFF", "\xEF\xBB\xBF", "0.01", "0.02", " "};
  int read = 0;
  for (Trials trials(3000); trials.next();) {
    std::string text;
    for (auto n = random() % 60; n > 0; --n) text += pieces[random() % std::size(pieces)];
    const auto jumps = readJumps(text);
    if (!jumps) {
      EXPECT_FALSE(jumps.problem().empty());
      continue;
    }
    ++read;
    Seconds end(0);
    for (const Section& s : formOfJumps(*jumps, Seconds(100))) {
      EXPECT_EQ(s.span.start, end) << text;
      end = s.span.end;
    }
    EXPECT_TRUE(readJumps(writeJumps(*jumps, JumpFormat::csv)).ok()) << text;
  }
  EXPECT_GT(read, 30);
}

}  // namespace
}  // namespace ear
