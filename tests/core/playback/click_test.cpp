// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/click.h"

#include <gmock/gmock.h>

#include <cmath>

#include "core/playback/player.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 44100;

/// Samples at which something starts after silence.
std::vector<std::size_t> starts(std::span<const float> interleaved) {
  std::vector<std::size_t> list;
  std::size_t quiet = 10000;
  for (std::size_t i = 0; i < interleaved.size() / 2; ++i) {
    if (std::abs(interleaved[2 * i]) > 1e-4F) {
      if (quiet > 2000) list.push_back(i);
      quiet = 0;
    } else {
      ++quiet;
    }
  }
  return list;
}

std::shared_ptr<const Recording> silence(double seconds) {
  return std::make_shared<const Recording>(test::soundOf(seconds, kRate, [](double) { return 0.0; }));
}

std::vector<float> rendered(Player& player, double seconds) {
  std::vector<float> out(2 * static_cast<std::size_t>(seconds * kRate));
  player.render(out);
  return out;
}

TEST(Click, LiesOnTheBeatsAndFollowsTheirDrift) {
  Player player;
  player.load(Track(silence(5)));
  const double beats[] = {0.5, 1.0, 1.52, 2.1};
  std::vector<Click::Tick> list;
  for (const double b : beats) list.push_back({b * kRate, b == 0.5});
  player.click().setBeats(list);
  player.click().setLevel(0.8);
  player.play();
  const auto heard = starts(rendered(player, 3));
  ASSERT_EQ(heard.size(), 4U);
  for (std::size_t i = 0; i < 4; ++i) EXPECT_NEAR(static_cast<double>(heard[i]), beats[i] * kRate, 8);
}

TEST(Click, ComesOncePerBeatInALoopThatStartsOnOneAtHalfSpeed) {
  Player player;
  player.load(Track(silence(6)));
  std::vector<Click::Tick> list;
  for (int i = 0; i < 12; ++i) list.push_back({0.5 * i * kRate, i % 4 == 0});
  player.click().setBeats(list);
  player.click().setLevel(0.8);
  player.setPlayback({0.5, Cents(0)});
  player.setLoop(TimeSpan{Seconds(2), Seconds(4)});
  player.seek(Seconds(2));
  rendered(player, 0.1);  // standing still: the jump is made
  player.play();
  const auto out = rendered(player, 12.4);  // three times round: four beats of one second each
  const auto heard = starts(out);
  ASSERT_GE(heard.size(), 12U);
  EXPECT_LE(heard.size(), 13U);
  for (std::size_t i = 1; i < heard.size(); ++i)
    EXPECT_NEAR(static_cast<double>(heard[i] - heard[i - 1]), kRate, 20) << i;
}

TEST(Click, CountsABarInBeforeTheSound) {
  Player player;
  const auto tone = std::make_shared<const Recording>(test::sine(440, 3, kRate));
  player.load(Track(tone));
  player.playCounted(4, Seconds(0.4));
  EXPECT_TRUE(player.counting());
  const auto out = rendered(player, 2.0);
  EXPECT_FALSE(player.counting());
  const auto heard = starts(out);
  ASSERT_GE(heard.size(), 4U);
  for (std::size_t i = 0; i < 4; ++i)
    EXPECT_NEAR(static_cast<double>(heard[i]), 0.4 * kRate * static_cast<double>(i), 8);
  // The recording's first sample comes when the fifth beat would.
  const auto from = static_cast<std::size_t>(1.6 * kRate);
  float before = 0, after = 0;
  for (std::size_t i = from - 2000; i < from; ++i) before = std::max(before, std::abs(out[2 * i]));
  for (std::size_t i = from + 1000; i < from + 3000; ++i) after = std::max(after, std::abs(out[2 * i]));
  EXPECT_LT(before, 1e-3F);
  EXPECT_GT(after, 0.4F);
  EXPECT_NEAR(player.position().value, 0.4, 0.01);
}

TEST(Click, PausingEndsTheCount) {
  Player player;
  player.load(Track(silence(3)));
  player.playCounted(4, Seconds(0.5));
  rendered(player, 0.6);
  player.pause();
  rendered(player, 0.1);
  player.play();
  rendered(player, 0.5);
  EXPECT_GT(player.position().value, 0.3);
}

TEST(Click, IsOffUntilAskedFor) {
  Player player;
  player.load(Track(silence(3)));
  player.click().setBeats({{kRate / 2.0, true}});
  player.play();
  EXPECT_TRUE(starts(rendered(player, 1)).empty());
}

}  // namespace
}  // namespace ear
