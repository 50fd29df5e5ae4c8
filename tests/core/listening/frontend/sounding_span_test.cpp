// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/sounding_span.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/listening/frontend/spectra.h"
#include "support/sounds.h"

namespace ear {
namespace {

/// A tone whose amplitude follows a curve.
Samples toneOf(double seconds, const std::function<double(double)>& amplitude) {
  const auto sound =
      test::soundOf(seconds, kListeningRate, [&](double t) { return amplitude(t) * std::sin(6.283 * 220 * t); });
  return {sound.left().begin(), sound.left().end()};
}

TEST(SoundingSpan, ItBeginsWithTheFirstSoundAndEndsWhereTheLastHasDiedAway) {
  const auto span = soundingSpan(toneOf(8.0, [](double t) {
    if (t < 0.7) return 0.0005;  // hiss of a tape
    return t < 6.0 ? 0.3 : 0.3 * std::exp(-(t - 6.0) / 0.1);
  }));
  EXPECT_NEAR(span.start.value, 0.7, 0.02);
  EXPECT_NEAR(span.end.value, 6.0 + 0.1 * std::log(std::pow(10, 30.0 / 20)), 0.03) << "30 dB down";
}

TEST(SoundingSpan, ARestInTheMiddleAndASoftBeginningAreMusic) {
  const auto span = soundingSpan(toneOf(6.0, [](double t) { return t < 1.0 ? 0.03 : t > 2 && t < 3 ? 0.0 : 0.3; }));
  EXPECT_EQ(span.start.value, 0.0);
  EXPECT_NEAR(span.end.value, 6.0, 0.02);
}

TEST(SoundingSpan, NothingSoundsInSilence) {
  EXPECT_EQ(soundingSpan({}).length().value, 0.0);
  EXPECT_EQ(soundingSpan(toneOf(1.0, [](double) { return 0.0; })).length().value, 0.0);
}

}  // namespace
}  // namespace ear
