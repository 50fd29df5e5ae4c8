// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <memory>
#include <mutex>
#include <numbers>
#include <vector>

#include "callback/trap.h"
#include "core/playback/mixer.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::Trap;

TEST(Trap, CatchesWhatItIsFor) {
  std::mutex mutex;
  Trap::Caught caught;
  {
    const Trap trap;
    auto block = std::make_unique<std::vector<float>>(100);
    const std::lock_guard lock(mutex);
    block->at(0) = 1;
    caught = trap.caught();
  }
  EXPECT_GE(caught.allocations, 2);
  EXPECT_EQ(caught.locks, 1);
}

/// The callback of the output with everything in it.
struct Rig {
  Mixer mixer;
  Player& player = mixer.player();
  std::vector<float> block = std::vector<float>(2 * 512);
  int allocations = 0, locks = 0;

  Rig() {
    mixer.load(Track(test::demoTake("studio")));
    mixer.prepare(44100);
    std::vector<Click::Tick> beats;
    for (int i = 0; i < 100; ++i) beats.push_back({i * 22050.0, i % 4 == 0});
    player.click().setBeats(beats);
    player.click().setLevel(0.5);
  }

  void play(double seconds) {
    for (int i = 0; i < static_cast<int>(seconds * 44100 / 512); ++i) {
      const Trap trap;
      mixer.render(block);
      allocations += trap.caught().allocations;
      locks += trap.caught().locks;
    }
  }
};

class CallbackAt : public testing::TestWithParam<std::pair<double, double>> {};

TEST_P(CallbackAt, NeitherAllocatesNorLocks) {
  const auto [speed, shift] = GetParam();
  Rig rig;
  PlaybackSettings sounding{.speed = speed, .shift = Cents(shift)};
  rig.player.setPlayback(sounding);
  rig.player.setLoop(TimeSpan{Seconds(10), Seconds(11)});
  rig.player.seek(Seconds(10));
  rig.player.playCounted(2, Seconds(0.2));
  rig.play(3);
  rig.mixer.tones().play({.pitch = Hertz(220)});
  rig.mixer.drone().set(Hertz(82));
  rig.mixer.held().hold(holdMoment(*rig.player.recording(), Seconds(12)));
  sounding.isolation.part = Isolation::Component::harmonic;
  sounding.isolation.place = Isolation::Panned::keep;
  rig.player.setPlayback(sounding);
  rig.play(3);
  sounding.isolation.bassUp = true;
  rig.player.setPlayback(sounding);
  rig.play(2);
  Segment turns[2];
  turns[0].span = {Seconds(3), Seconds(3.5)}, turns[0].rest = Seconds(0.3), turns[0].clicks = 1;
  turns[0].each = Seconds(0.1), turns[0].speed = 0.6;
  turns[1].span = {Seconds(6), Seconds(6.6)};
  rig.player.setSequence(turns);
  rig.play(4);
  rig.player.seek(Seconds(20));
  rig.play(1);
  rig.player.pause();
  rig.mixer.tones().silence();
  rig.mixer.drone().set(Hertz(0));
  rig.mixer.held().release();
  rig.play(1);
  EXPECT_EQ(rig.allocations, 0);
  EXPECT_EQ(rig.locks, 0);
}

INSTANTIATE_TEST_SUITE_P(Settings, CallbackAt,
                         testing::Values(std::pair{1.0, 0.0}, std::pair{0.2, 0.0}, std::pair{0.5, 0.0},
                                         std::pair{0.8, 88.0}, std::pair{1.5, -300.0}, std::pair{1.0, 1200.0},
                                         std::pair{0.5, -1200.0}));

}  // namespace
}  // namespace ear
