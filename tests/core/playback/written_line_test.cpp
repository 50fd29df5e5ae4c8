// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/written_line.h"

#include <gmock/gmock.h>

#include <cmath>

#include "core/playback/player.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 44100;

WrittenLine::Strike strike(double from, double until, double hertz, std::size_t string = 0) {
  WrittenLine::Strike s{from * kRate, until * kRate, string, {}};
  s.pluck.pitch = Hertz(hertz);
  return s;
}

/// What the line adds to a silent recording.
class WrittenLineTest : public testing::Test {
 protected:
  WrittenLineTest() {
    player_.load(Track(std::make_shared<const Recording>(test::soundOf(6, kRate, [](double) { return 0.0; }))));
    player_.follow(line_);
    line_.prepare(kRate);
    line_.setLevel(1.0);
    player_.play();
  }
  std::vector<float> rendered(double seconds) {
    std::vector<float> out(2 * static_cast<std::size_t>(seconds * kRate));
    constexpr std::size_t kBlock = 512;
    for (std::size_t i = 0; i < out.size(); i += 2 * kBlock)
      player_.render(std::span(out).subspan(i, std::min(2 * kBlock, out.size() - i)));
    return out;
  }
  static double level(std::span<const float> out, double from, double to) {
    double most = 0;
    for (auto i = static_cast<std::size_t>(from * kRate); i < static_cast<std::size_t>(to * kRate); ++i)
      most = std::max<double>(most, std::abs(out[2 * i]));
    return most;
  }
  WrittenLine line_;
  Player player_;
};

TEST_F(WrittenLineTest, NotesSoundWhereTheyAreWrittenAndEndThere) {
  line_.setStrikes({strike(0.5, 1.0, 220), strike(1.5, 2.0, 330, 1)});
  const auto out = rendered(3);
  EXPECT_LT(level(out, 0.0, 0.499), 1e-6);
  EXPECT_GT(level(out, 0.5, 0.52), 0.05);
  EXPECT_LT(level(out, 1.1, 1.49), 0.01) << "damped where it ends";
  EXPECT_GT(level(out, 1.5, 1.52), 0.05);
  EXPECT_LT(level(out, 2.2, 3.0), 0.01);
}

TEST_F(WrittenLineTest, AtHalfTheSpeedItComesTwiceAsLate) {
  line_.setStrikes({strike(0.5, 0.6, 220), strike(1.0, 1.1, 220)});
  player_.setPlayback({.speed = 0.5});
  const auto out = rendered(3);
  const auto next = [&](std::size_t i) {
    while (i < out.size() / 2 && std::abs(out[2 * i]) < 0.02F) ++i;
    return i;
  };
  const std::size_t first = next(0);
  EXPECT_NEAR(static_cast<double>(next(first + kRate / 2) - first) / kRate, 1.0, 0.001);
}

TEST_F(WrittenLineTest, EachRepetitionOfALoopHasItAgain) {
  line_.setStrikes({strike(0.6, 0.8, 220)});
  player_.setLoop(TimeSpan{Seconds(0.5), Seconds(1.0)});
  player_.seek(Seconds(0.5));
  const auto out = rendered(2.0);
  for (int round = 0; round < 3; ++round) {
    EXPECT_GT(level(out, 0.5 * round + 0.1, 0.5 * round + 0.2), 0.05) << round;
    EXPECT_LT(level(out, 0.5 * round + 0.4, 0.5 * round + 0.48), 0.02) << round;
  }
}

TEST_F(WrittenLineTest, TheNextNoteOfAStringEndsTheOneBefore) {
  line_.setStrikes({strike(0.2, 2.0, 220), strike(0.6, 0.9, 330)});
  const auto out = rendered(2.5);
  EXPECT_GT(level(out, 0.6, 0.62), 0.05);
  EXPECT_LT(level(out, 1.1, 2.4), 0.01) << "the end of the first one is no longer its own";
}

TEST_F(WrittenLineTest, SilentItAddsNothing) {
  line_.setStrikes({strike(0.2, 1.0, 220)});
  line_.setLevel(0.0);
  EXPECT_LT(level(rendered(1.5), 0, 1.5), 1e-6);
}

}  // namespace
}  // namespace ear
