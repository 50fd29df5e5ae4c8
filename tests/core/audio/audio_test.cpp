// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <numbers>

#include "core/audio/fingerprint.h"
#include "core/audio/resample.h"
#include "core/audio/waveform_pyramid.h"
#include "core/base/text.h"
#include "support/sounds.h"

namespace ear {
namespace {

// FIPS 180-4, examples of SHA-256: the message "abc".
TEST(Fingerprint, IsSha256) {
  const auto file = test::freshFolder("hash") / "abc";
  std::ofstream(file) << "abc";
  EXPECT_EQ(*contentHash(file), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  EXPECT_FALSE(contentHash(file.parent_path() / "gone").ok());
}

TEST(Resample, TheMixOfAToneIsTheToneAtEveryRate) {
  const auto at = [](double t) { return 0.5 * std::sin(2 * std::numbers::pi * 1000 * t); };
  Recording sound = test::soundOf(7.3, 44100, at);
  sound.channels[1].assign(sound.frames(), 0.0F);
  for (const int rate : {22050, 44100, 48000, 96000}) {
    const auto mix = resampledMix(sound, rate);
    ASSERT_EQ(mix.size(), static_cast<std::size_t>(std::ceil(7.3 * rate))) << rate;
    // The filter sees silence outside of the recording, so both ends differ.
    for (std::size_t i = 500; i + 500 < mix.size(); ++i)
      ASSERT_NEAR(mix[i], 0.5 * at(static_cast<double>(i) / rate), 1e-4) << rate << " " << i;
  }
}

TEST(WaveformPyramid, FindsExtentsAtEveryGrain) {
  auto recording = std::make_shared<Recording>(
      test::soundOf(20.0, 8000, [](double t) { return t >= 12.0 && t < 12.01 ? -0.9 : 0.1 * std::sin(t * 700); }));
  const WaveformPyramid envelope(recording);
  EXPECT_FLOAT_EQ(envelope.extent(0, {Seconds(0), Seconds(20)}).low, -0.9F);
  EXPECT_NEAR(envelope.extent(0, {Seconds(0), Seconds(20)}).high, 0.1F, 1e-3);
  EXPECT_NEAR(envelope.extent(1, {Seconds(1), Seconds(10)}).low, -0.1F, 1e-3);
  EXPECT_FLOAT_EQ(envelope.extent(0, {Seconds(12.00125), Seconds(12.0025)}).low, -0.9F);
  EXPECT_NEAR(envelope.extent(0, {Seconds(1), Seconds(10)}).rms, 0.1 / std::sqrt(2.0), 2e-3);
  EXPECT_EQ(WaveformPyramid().extent(0, {Seconds(0), Seconds(10)}).high, 0.0F);
}

TEST(Text, WritesTimesAndNumbers) {
  EXPECT_EQ(clockTime(Seconds(125.44)), "2:05");
  EXPECT_EQ(clockTenths(Seconds(125.44)), "2:05.4");
  EXPECT_EQ(clockTenths(Seconds(59.96)), "1:00.0");
  EXPECT_EQ(clockTenths(Seconds(3725.04)), "1:02:05.0");
  EXPECT_EQ(fixed(-0.04, 1), "0.0");
  EXPECT_EQ(fixed(12.345, 2), "12.35");
  EXPECT_EQ(withSign(12, 0), "+12");
  EXPECT_EQ(withSign(-7.5, 1), "-7.5");
  EXPECT_EQ(withSign(0.01, 0), "0");
}

}  // namespace
}  // namespace ear
