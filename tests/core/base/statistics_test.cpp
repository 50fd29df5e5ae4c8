// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/statistics.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>

namespace ear {
namespace {

TEST(Statistics, TheMedianIsTheMiddleOneAndOfTwoTheUpper) {
  EXPECT_EQ(medianOf({7}), 7);
  EXPECT_EQ(medianOf({9, 1, 5}), 5);
  EXPECT_EQ(medianOf({4, 1, 3, 2}), 3);
  EXPECT_EQ(medianOf({-1, 1e9, 0}), 0) << "one that lies far off does not move it";
}

/// Deviation of a whole population: of 2, 4, 4, 4, 5, 5, 7, 9 the mean is 5 and the deviation 2, an example that many
/// textbooks give.
TEST(Statistics, StandardisedValuesHaveNoMeanAndADeviationOfOne) {
  const auto z = standardised({2, 4, 4, 4, 5, 5, 7, 9});
  const double expected[] = {-1.5, -0.5, -0.5, -0.5, 0, 0, 1, 2};
  for (std::size_t i = 0; i < z.size(); ++i) EXPECT_NEAR(z[i], expected[i], 1e-6);
  for (const double v : standardised({3, 3, 3})) EXPECT_EQ(v, 0.0) << "no division by nothing";
}

}  // namespace
}  // namespace ear
