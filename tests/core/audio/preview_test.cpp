// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/preview.h"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <numbers>

#include "core/audio/encode.h"
#include "support/sounds.h"

namespace ear {
namespace {

const auto kAll = [](Seconds) { return false; };

/// A tone of 20 s that is loud in the first half and soft in the second, louder on the left.
std::filesystem::path stepped() {
  const auto file = test::freshFolder("glance") / "stepped.wav";
  const auto tone = [](double amount) {
    return [=](double t) { return (t < 10 ? amount : 0.1 * amount) * std::sin(2 * std::numbers::pi * 300 * t); };
  };
  Recording sound = test::soundOf(20.0, 22050, tone(0.8));
  sound.channels[1] = test::soundOf(20.0, 22050, tone(0.4)).channels[0];
  EXPECT_TRUE(writeWav(sound, file).ok());
  return file;
}

TEST(Preview, ShowsHowLoudItIsWhere) {
  const Preview glance = previewOf(stepped(), 64, kAll);
  EXPECT_NEAR(glance.duration.value, 20.0, 0.01);
  for (const auto& [from, amount] : {std::pair{1.0, 0.8}, {8.0, 0.8}, {12.0, 0.08}, {18.0, 0.08}}) {
    const TimeSpan stretch{Seconds(from), Seconds(from + 1)};
    EXPECT_NEAR(glance.envelope.extent(0, stretch).high, amount, 0.02 * amount) << from;
    EXPECT_NEAR(glance.envelope.extent(1, stretch).low, -amount / 2, 0.02 * amount) << from;
    EXPECT_NEAR(glance.envelope.extent(0, stretch).rms, amount / std::numbers::sqrt2, 0.05 * amount) << from;
  }
}

TEST(Preview, CutShortItShowsTheWholeCoarser) {
  int moments = 0;
  const Preview glance = previewOf(stepped(), 64, [&](Seconds) { return ++moments > 4; });
  ASSERT_FALSE(glance.envelope.empty());
  EXPECT_NEAR(glance.envelope.extent(0, {Seconds(2), Seconds(3)}).high, 0.8, 0.02);
  EXPECT_NEAR(glance.envelope.extent(0, {Seconds(17), Seconds(18)}).high, 0.08, 0.01);
}

TEST(Preview, OfTheDemoLooksLikeItsEnvelope) {
  const auto take = test::demoTake("studio");
  const WaveformPyramid whole(take);
  const Preview glance = previewOf(std::filesystem::path(DEMO_DIR) / "studio.ogg", 128, kAll);
  EXPECT_NEAR(glance.duration.value, take->duration().value, 0.1);
  // Correlation of the loudness of a hundred stretches, as seen and as it is.
  double ss = 0, tt = 0, st = 0, s = 0, t = 0;
  constexpr int kStretches = 100;
  for (int i = 0; i < kStretches; ++i) {
    const TimeSpan stretch{glance.duration * (i / 100.0), glance.duration * ((i + 1) / 100.0)};
    const double seen = glance.envelope.extent(0, stretch).rms, is = whole.extent(0, stretch).rms;
    s += seen, t += is, ss += seen * seen, tt += is * is, st += seen * is;
  }
  const double n = kStretches;
  EXPECT_GT((st - s * t / n) / std::sqrt((ss - s * s / n) * (tt - t * t / n)), 0.6);
}

TEST(Preview, IsEmptyWhereNothingCanBeSeen) {
  const auto folder = test::freshFolder("glance");
  std::ofstream(folder / "words.txt") << "no sound at all";
  EXPECT_TRUE(previewOf(folder / "words.txt", 64, kAll).envelope.empty());
  EXPECT_TRUE(previewOf(folder / "gone.wav", 64, kAll).envelope.empty());
  EXPECT_TRUE(previewOf(stepped(), 64, [](Seconds) { return true; }).envelope.empty());
}

}  // namespace
}  // namespace ear
