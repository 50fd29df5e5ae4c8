#include <gtest/gtest.h>

#include <cmath>
#include <fstream>

#include "core/audio/envelope.h"
#include "core/audio/fingerprint.h"
#include "core/audio/resample.h"
#include "core/text.h"
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

TEST(Resample, TheMixComesOutAsFromACopyOfIt) {
  const auto take = test::demoTake("studio");
  const Recording part = excerpt(*take, {Seconds(5), Seconds(12.3)});
  for (const int rate : {22050, 44100, 48000}) {
    const auto streamed = resampledMix(part, rate), whole = resample(mixToMono(part), part.sampleRate, rate);
    ASSERT_EQ(streamed.size(), whole.size()) << rate;
    for (std::size_t i = 0; i < whole.size(); ++i) ASSERT_NEAR(streamed[i], whole[i], 1e-5) << rate << " " << i;
  }
}

TEST(Envelope, FindsExtentsAtEveryGrain) {
  auto recording = std::make_shared<Recording>(
      test::soundOf(20.0, 8000, [](double t) { return t >= 12.0 && t < 12.01 ? -0.9 : 0.1 * std::sin(t * 700); }));
  const Envelope envelope(recording);
  EXPECT_FLOAT_EQ(envelope.extent(0, 0, 160000).low, -0.9F);
  EXPECT_NEAR(envelope.extent(0, 0, 160000).high, 0.1F, 1e-3);
  EXPECT_NEAR(envelope.extent(1, 8000, 80000).low, -0.1F, 1e-3);
  EXPECT_FLOAT_EQ(envelope.extent(0, 96010, 96020).low, -0.9F);
  EXPECT_NEAR(envelope.extent(0, 8000, 80000).rms, 0.1 / std::sqrt(2.0), 2e-3);
  EXPECT_EQ(Envelope().extent(0, 0, 10).high, 0.0F);
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
