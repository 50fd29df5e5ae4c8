// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fret_count.h"

#include <gtest/gtest.h>

namespace ear {
namespace {

// How schools count frets where a capo is on: common practice, no source.
TEST(FretCount, FromTheNutTheCapoIsAddedToStoppedStringsUnderIt) {
  const Guitar guitar{.capo = {2, 0b111110}};  // the lowest string runs free
  const std::vector<FretPosition> places{{0, 3}, {1, 0}, {2, 2}};
  const std::vector<FretPosition> written{{0, 3}, {1, 0}, {2, 4}};
  EXPECT_EQ(writtenFromNut(guitar, places), written);
  EXPECT_EQ(readFromNut(guitar, written), places);
}

TEST(FretCount, BehindTheCapoIsTheOpenString) {
  const Guitar guitar{.capo = {3, 0}};
  EXPECT_EQ(readFromNut(guitar, std::vector<FretPosition>{{1, 1}, {2, 3}, {3, 4}}),
            (std::vector<FretPosition>{{1, 0}, {2, 0}, {3, 1}}));
}

}  // namespace
}  // namespace ear
