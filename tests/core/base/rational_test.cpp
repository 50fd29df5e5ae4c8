// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/rational.h"

#include <gtest/gtest.h>

#include <random>

namespace ear {
namespace {

TEST(Rational, IsInLowestTermsWithItsSignOnTop) {
  EXPECT_EQ(Rational(6, 4), Rational(3, 2));
  EXPECT_EQ(Rational(3, -6).top(), -1);
  EXPECT_EQ(Rational(3, -6).bottom(), 2);
  EXPECT_EQ(Rational(0, -5), Rational(0));
  EXPECT_EQ(Rational(0, 7).bottom(), 1);
}

TEST(Rational, ThreeTripletsAreABeatAndFiveQuintupletsTwo) {
  Rational sum;
  for (int i = 0; i < 3; ++i) sum += Rational(1, 3);
  EXPECT_EQ(sum, Rational(1));
  sum = 0;
  for (int i = 0; i < 5; ++i) sum += Rational(2, 5);
  EXPECT_EQ(sum, Rational(2));
}

TEST(Rational, FloorGoesDown) {
  EXPECT_EQ(Rational(7, 2).floor(), 3);
  EXPECT_EQ(Rational(-1, 2).floor(), -1);
  EXPECT_EQ(Rational(-4).floor(), -4);
}

// The laws of a field, on random fractions that a score may hold.
TEST(Rational, ObeysTheLawsOfArithmetic) {
  std::mt19937 random(7);
  const auto any = [&] {
    return Rational(static_cast<std::int64_t>(random() % 20001) - 10000, static_cast<std::int64_t>(random() % 96) + 1);
  };
  for (int i = 0; i < 5000; ++i) {
    const Rational a = any(), b = any(), c = any();
    ASSERT_EQ((a + b) + c, a + (b + c));
    ASSERT_EQ(a * (b + c), a * b + a * c);
    ASSERT_EQ(a - a, Rational(0));
    if (b != Rational(0)) {
      ASSERT_EQ(a / b * b, a);
    }
    ASSERT_EQ(a < b, a.value() < b.value() - 1e-12);
    ASSERT_NEAR((a * b).value(), a.value() * b.value(), 1e-6);
    ASSERT_TRUE(a.sane());
  }
  EXPECT_FALSE(Rational(1, 1'000'003).sane());
  EXPECT_FALSE(Rational(5'000'000).sane());
}

}  // namespace
}  // namespace ear
