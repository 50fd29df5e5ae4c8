// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/evidence.h"

#include <gtest/gtest.h>

#include <set>

namespace ear {
namespace {

TEST(Evidence, OfEveryKindIsASentenceOfItsOwn) {
  using Kind = Evidence::Kind;
  std::set<std::string> sentences;
  for (int k = static_cast<int>(Kind::setByHand); k <= static_cast<int>(Kind::beatsFollow); ++k) {
    const auto kind = static_cast<Kind>(k);
    const std::string sentence = sentenceOf({kind, std::vector<double>(numbersOf(kind), 12.0)});
    EXPECT_TRUE(sentences.insert(sentence).second) << sentence;
    EXPECT_TRUE(sentence.ends_with('.')) << sentence;
    EXPECT_EQ(sentence.find('?'), std::string::npos) << "it has all of its numbers: " << sentence;
  }
  EXPECT_EQ(sentenceOf(Evidence()), "");
  EXPECT_EQ(sentenceOf(Evidence("Read off the sleeve.")), "Read off the sleeve.");
  EXPECT_EQ(Evidence("").kind, Kind::none);
}

TEST(Evidence, NumbersStandInTheSentence) {
  EXPECT_EQ(sentenceOf({Evidence::Kind::beatsTapped, {12, 104.24}}), "12 beats tapped, 104.2 a minute.");
  EXPECT_EQ(sentenceOf({Evidence::Kind::beatsTapped, {1, 60}}), "1 beat tapped, 60.0 a minute.");
  EXPECT_EQ(sentenceOf({Evidence::Kind::beatsTapped}), "? beats tapped, ? a minute.") << "of a file that lost them";
}

}  // namespace
}  // namespace ear
