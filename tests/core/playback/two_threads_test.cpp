// SPDX-License-Identifier: GPL-3.0-or-later
// The control side and the audio thread at once. Worth most under the preset `tsan`, which sees every race.

#include <gtest/gtest.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <random>
#include <thread>

#include "core/playback/monitor.h"
#include "core/playback/player.h"
#include "support/playing.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::Deck;

Recording tone() {
  return test::soundOf(4.0, 44100, [](double t) { return 0.4 * std::sin(2 * 3.14159265 * 220 * t); });
}

/// Renders in a thread of its own until it is told to stop; what came out has to be sound and no louder than it may be.
class Rendering {
 public:
  explicit Rendering(Player& player)
      : thread_([this, &player] {
          std::vector<float> block(2 * 441);
          while (!stop_) {
            player.render(block);
            for (const float s : block) strange_ += std::isfinite(s) && std::abs(s) < 1.5F ? 0 : 1;
            ++blocks_;
          }
        }) {}
  ~Rendering() { end(); }
  Rendering(const Rendering&) = delete;
  Rendering& operator=(const Rendering&) = delete;
  void waitFor(int blocks) const {
    for (const int until = blocks_ + blocks; blocks_ < until;) std::this_thread::yield();
  }
  /// @return samples that were no sound
  long end() {
    stop_ = true;
    if (thread_.joinable()) thread_.join();
    return strange_;
  }

 private:
  std::atomic<bool> stop_ = false;
  std::atomic<int> blocks_ = 0;
  long strange_ = 0;
  std::thread thread_;
};

TEST(TwoThreads, WhateverIsAskedForWhileItPlaysSoundGoesOn) {
  Deck player(tone());
  player.click().setBeats({{4410, true}, {22050, false}, {44100, false}});
  player.play();
  Rendering rendering(player);
  std::mt19937 random(11);
  const auto seconds = [&] { return Seconds(static_cast<double>(random() % 3500) / 1000); };
  for (int i = 0; i < 400; ++i) {
    switch (random() % 8) {
      case 0:
        player.seek(seconds());
        break;
      case 1:
        player.setLoop(TimeSpan{Seconds(0.5), seconds() + Seconds(0.5)});
        break;
      case 2:
        player.setLoop(std::nullopt);
        break;
      case 3:
        player.setPlayback({.speed = 0.5 + static_cast<double>(random() % 10) / 10});
        break;
      case 4: {
        const Segment turns[] = {{.span = {Seconds(0.2), Seconds(0.6)}},
                                 {.span = {Seconds(2), Seconds(2.3)}, .rest = Seconds(0.1)}};
        player.setSequence(std::span(turns).first(random() % 3));
        break;
      }
      case 5:
        player.click().setLevel(static_cast<double>(random() % 2));
        break;
      case 6:
        player.playCounted(static_cast<int>(random() % 3), Seconds(0.05));
        break;
      default:
        player.advance();
        player.play();
        break;
    }
    rendering.waitFor(1 + static_cast<int>(random() % 3));
    const auto place = player.place();
    ASSERT_LT(place.turn, 2U);
    ASSERT_GE(player.position(), Seconds(0));
  }
  EXPECT_EQ(rendering.end(), 0);
}

TEST(TwoThreads, OfManyProgramsTheLastOneIsPlayed) {
  // Which second sounds is told by its level.
  Deck player(test::soundOf(8.0, 44100, [](double t) { return 0.1 * (1 + std::floor(t)); }));
  player.play();
  {
    Rendering rendering(player);
    for (int n = 0; n < 300; ++n) {
      const double from = n % 2 == 0 ? 0 : 6;
      const Segment turns[] = {{.span = {Seconds(from), Seconds(from + 0.9)}},
                               {.span = {Seconds(from + 1), Seconds(from + 1.9)}}};
      player.setSequence(turns);
      if (n % 10 == 0) rendering.waitFor(1);
    }
    const Segment last[] = {{.span = {Seconds(3), Seconds(4)}, .repeats = 0}};
    player.setSequence(last);
    player.seek(Seconds(3));  // who is beyond it plays on to the end, as with a loop, and stops there
    player.play();
    rendering.waitFor(150);
  }
  // All but the seam of its loop, which may lie in what is heard.
  const auto heard = test::listen(player, 0.2);
  const auto right = std::ranges::count_if(heard, [](float s) { return std::abs(s - 0.4F) < 0.01F; });
  EXPECT_GT(right, heard.size() * 3 / 4);
}

TEST(TwoThreads, TheLevelIsReadWhileItIsMeasured) {
  Deck player(tone());
  player.play();
  Monitor monitor;
  monitor.prepare(44100);
  std::atomic<bool> stop = false;
  std::thread audio([&] {
    std::vector<float> block(2 * 441);
    while (!stop) {
      player.render(block);
      monitor.process(block);
    }
  });
  for (int i = 0; i < 2000; ++i) ASSERT_TRUE(std::isfinite(monitor.newest().meanSquare));
  stop = true;
  audio.join();
}

}  // namespace
}  // namespace ear
