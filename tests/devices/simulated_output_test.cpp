// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <chrono>
#include <thread>

#include "devices/simulated_audio_output.h"

namespace ear {
namespace {

TEST(SimulatedOutput, KeepsTheNewestOfWhatWasPlayed) {
  SimulatedAudioOutput output(SimulatedAudioOutput::Clock::manual, 1.0);
  float next = 0;
  ASSERT_TRUE(output.start(8000, [&](std::span<float> block) {
    for (std::size_t i = 0; i < block.size(); i += 2) block[i] = next, block[i + 1] = -next, next += 1;
  }));
  output.advance(Seconds(0.5));
  auto kept = output.kept();
  EXPECT_EQ(kept.sampleRate, 8000);
  EXPECT_NEAR(kept.duration().value, 0.5, 0.07);
  EXPECT_EQ(kept.channels[0][100], 100);
  EXPECT_EQ(kept.channels[1][100], -100);
  output.advance(Seconds(3));
  kept = output.kept();
  EXPECT_EQ(kept.frames(), 8000U);
  EXPECT_EQ(kept.channels[0].back(), next - 1);
  output.forget();
  EXPECT_EQ(output.kept().frames(), 0U);
}

TEST(SimulatedOutput, RunsOnItsOwnClockAndStops) {
  SimulatedAudioOutput output;
  std::atomic<int> blocks = 0;
  ASSERT_TRUE(output.start(44100, [&](std::span<float>) { ++blocks; }));
  while (blocks < 5) std::this_thread::sleep_for(std::chrono::milliseconds(1));
  output.stop();
  const int after = blocks;
  std::this_thread::sleep_for(std::chrono::milliseconds(40));
  EXPECT_EQ(blocks, after);
}

}  // namespace
}  // namespace ear
