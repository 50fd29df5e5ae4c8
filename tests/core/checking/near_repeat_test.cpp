// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/near_repeat.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/phrases.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;

std::vector<Note> line(int firstId) {
  std::vector<Note> notes;
  for (int i = 0; i < 8; ++i) notes.push_back(test::note(firstId + i, 3, 5 + i, Beats(i, 2), Beats(1, 2)));
  return notes;
}

TEST(NearRepeat, TheNotesInWhichTwoPhrasesDifferAreNamed) {
  auto second = line(11);
  second[2].place.fret += 1;
  Pieces<Phrase> phrases;
  phrases.push_back(test::phrase("one", line(1)));
  phrases.push_back(test::phrase("two", second));
  const auto near = nearRepeat(phrases, phrases[1], {});
  ASSERT_TRUE(near.has_value());
  EXPECT_EQ(near->other, "one");
  EXPECT_THAT(near->differing, ElementsAre(13));
  EXPECT_EQ(near->missing, 1);
}

TEST(NearRepeat, WhatIsLinkedOrUnlikeIsNone) {
  Pieces<Phrase> phrases;
  phrases.push_back(test::phrase("one", line(1)));
  Phrase again = test::phrase("again", {});
  again.link = PhraseLink{.to = "one"};
  phrases.push_back(again);
  auto other = line(21);
  for (Note& n : other) n.place.string = 2;
  phrases.push_back(test::phrase("other", other));
  for (const Phrase& p : phrases) EXPECT_EQ(nearRepeat(phrases, p, {}), std::nullopt) << p.id;
  phrases.push_back(test::phrase("elsewhere", line(31), "take2"));
  EXPECT_EQ(nearRepeat(phrases, phrases[0], {}), std::nullopt) << "another take is another matter";
}

TEST(NearRepeat, ACopyWithoutADifferenceCouldBeALink) {
  Pieces<Phrase> phrases;
  phrases.push_back(test::phrase("one", line(1)));
  phrases.push_back(test::phrase("copy", line(11)));
  const auto near = nearRepeat(phrases, phrases[0], {});
  ASSERT_TRUE(near.has_value());
  EXPECT_THAT(near->differing, IsEmpty());
}

}  // namespace
}  // namespace ear
