// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/quantities.h"

#include <gtest/gtest.h>

#include "core/base/text.h"

namespace ear {
namespace {

TEST(Quantities, AreWrittenInOneWay) {
  EXPECT_EQ(centsWords(Cents(-12.4)), "12 cents");
  EXPECT_EQ(centsWords(Cents(0.6)), "1 cent");
  EXPECT_EQ(signedCents(Cents(12.4)), "+12 cents");
  EXPECT_EQ(signedCents(Cents(-7.46), 1), "-7.5 cents");
  EXPECT_EQ(signedCents(Cents(-0.2)), "0 cents") << "never minus nothing";
  EXPECT_EQ(centsFigure(Cents(50)), "+50");
  EXPECT_EQ(hertzWords(Hertz(82.407)), "82.41 Hz");
  EXPECT_EQ(referenceWords(Hertz(442.55)), "442.6 Hz");
  EXPECT_EQ(tempoWords(Bpm(103.6)), "104 beats a minute");
  EXPECT_EQ(tempoWords(Bpm(103.62), 1), "103.6 beats a minute");
  EXPECT_EQ(percentWords(0.426), "43 %");
  EXPECT_EQ(percentWords(0), "0 %");
  EXPECT_EQ(percentWords(0.004), "under 1 %") << "not nothing";
  EXPECT_EQ(signedPercent(-0.08), "-8 %");
  EXPECT_EQ(signedMilliseconds(Seconds(0.0081)), "+8 ms");
  EXPECT_EQ(countWords(1, "bar") + ", " + countWords(0, "bar"), "1 bar, 0 bars");
  EXPECT_EQ(semitonesWords(-1) + ", " + semitonesWords(2) + ", " + semitonesWords(-3),
            "a semitone, a whole tone, 3 semitones");
}

TEST(Text, IsJoined) {
  EXPECT_EQ(joined({"a", "b", "c"}, ", "), "a, b, c");
  EXPECT_EQ(joined({}, ", "), "");
}

}  // namespace
}  // namespace ear
