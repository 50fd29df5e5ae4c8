// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/frame_clock.h"

#include <gtest/gtest.h>

namespace ear {
namespace {

TEST(FrameClock, TellsTheTimeOfAFrameAndTheFrameOfATime) {
  const FrameClock clock{100.0};
  for (std::size_t frame = 0; frame < 5000; frame += 7) {
    EXPECT_DOUBLE_EQ(clock.timeOf(frame).value, static_cast<double>(frame) / 100) << frame;
    EXPECT_EQ(clock.frameAt(clock.timeOf(frame)), frame);
  }
}

TEST(FrameClock, RoundsToTheNearestOrToTheOneBefore) {
  const FrameClock clock{10.0};
  EXPECT_EQ(clock.frameAt(Seconds(0.26)), 3U);
  EXPECT_EQ(clock.frameBefore(Seconds(0.26)), 2U);
  EXPECT_EQ(clock.framesIn(Seconds(0.99)), 9U);
  EXPECT_DOUBLE_EQ(clock.placeOf(Seconds(0.26)), 2.6);
}

TEST(FrameClock, WhatLiesBeforeTheRecordingIsItsFirstFrame) {
  const FrameClock clock{44.1};
  EXPECT_EQ(clock.frameAt(Seconds(-3)), 0U);
  EXPECT_EQ(clock.frameBefore(Seconds(-0.001)), 0U);
  EXPECT_LT(clock.placeOf(Seconds(-3)), 0.0);
}

}  // namespace
}  // namespace ear
