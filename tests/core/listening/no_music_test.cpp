// SPDX-License-Identifier: GPL-3.0-or-later
// What is no music gets no tempo and no key; and a recording whose sides cancel is listened to all the same.

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "core/audio/decode.h"
#include "core/audio/encode.h"
#include "core/listening/listener.h"
#include "core/study/brief.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 44100;
constexpr double kLength = 20.0;
constexpr double kTurn = 2 * std::numbers::pi;

struct Sound {
  const char* name;
  std::function<double(double)> at;
};

/// Noise whose high end is cut by a running mean, and that swells and fades.
std::function<double(double)> noise(double smooth, double swell) {
  return [=, random = std::make_shared<std::mt19937>(4), held = std::make_shared<double>(0)](double t) {
    const double fresh = std::uniform_real_distribution(-1.0, 1.0)(*random);
    *held = smooth * *held + (1 - smooth) * fresh;
    return *held * (1 + swell * std::sin(kTurn * t / 5.3)) / (1 + swell);
  };
}

double hum(double t, double mains) {
  double sum = 0;
  for (int k = 1; k <= 7; ++k) sum += std::sin(kTurn * mains * k * t + k) / (k * (k % 2 == 0 ? 3.0 : 1.0));
  return 0.4 * sum;
}

/// Bursts at times without any order.
std::function<double(double)> bursts(int count, double length) {
  std::mt19937 random(9);
  auto times = std::make_shared<std::vector<double>>();
  for (int i = 0; i < count; ++i) times->push_back(std::uniform_real_distribution(0.0, kLength)(random));
  std::sort(times->begin(), times->end());
  return [=, noise = noise(0, 0)](double t) {
    const auto next = std::upper_bound(times->begin(), times->end(), t);
    const double since = next == times->begin() ? length : t - *std::prev(next);
    return since < length ? noise(t) * (1 - since / length) : 0.0;
  };
}

/// Syllables without a beat: a voice that glides, breath, and pauses.
std::function<double(double)> babble() {
  struct Syllable {
    double start, length, from, to;
  };
  std::mt19937 random(2);
  const auto between = [&](double low, double high) { return std::uniform_real_distribution(low, high)(random); };
  auto said = std::make_shared<std::vector<Syllable>>();
  for (double at = 0.2; at < kLength - 0.5;) {
    const double length = between(0.08, 0.3), from = between(95, 150);
    said->push_back({at, length, from, from * between(0.8, 1.15)});
    at += length * between(0.9, 1.3) + (between(0, 1) < 0.15 ? between(0.3, 1.0) : 0.0);
  }
  return [=](double t) {
    for (const auto& s : *said) {
      const double x = (t - s.start) / s.length;
      if (x < 0 || x >= 1) continue;
      const double phase = (s.from + (s.to - s.from) * x / 2) * (t - s.start);
      double sum = 0;
      for (int k = 1; k <= 24; ++k)
        sum += std::sin(kTurn * k * phase) * std::exp(-std::abs(k - 6.0 - 3 * std::sin(s.start)) / 4);
      return 0.3 * sum * std::pow(std::sin(std::numbers::pi * x), 2);
    }
    return 0.0;
  };
}

const Sound kSounds[] = {
    {"white noise", noise(0, 0)},
    {"dark noise", noise(0.97, 0)},
    {"wind", noise(0.9, 0.8)},
    {"sine", [](double t) { return 0.5 * std::sin(kTurn * 440 * t); }},
    {"high sine", [](double t) { return 0.5 * std::sin(kTurn * 1000 * t); }},
    {"mains hum 50", [](double t) { return hum(t, 50); }},
    {"mains hum 60", [](double t) { return hum(t, 60); }},
    {"siren", [](double t) { return 0.5 * std::sin(kTurn * 20 * 100 * std::exp2(t / 20) / std::log(2)); }},
    {"clicks", bursts(60, 0.002)},
    {"crackle", bursts(1500, 0.0004)},
    {"applause", bursts(2500, 0.02)},
    {"speech", babble()}};

class NoMusic : public testing::TestWithParam<std::size_t> {};

TEST_P(NoMusic, HasNoSureTempoAndNoKey) {
  const Sound& sound = kSounds[GetParam()];
  const auto found = Listener().listen(test::soundOf(kLength, kRate, sound.at));
  ASSERT_TRUE(found.ok()) << found.problem();
  const Brief brief = measuredBrief(*found);
  EXPECT_FALSE(isSettled(brief.time)) << sound.name << " " << (brief.time ? brief.time->value.tempo.value : 0);
  EXPECT_FALSE(isSettled(brief.key)) << sound.name;
  for (const auto& guitar : found->guitars)
    if (!guitar.readings.empty()) {
      EXPECT_LT(guitar.readings.front().certainty, kLikely) << sound.name;
    }
}

INSTANTIATE_TEST_SUITE_P(Kinds, NoMusic, testing::Range(std::size_t{0}, std::size(kSounds)), [](const auto& of) {
  std::string name = kSounds[of.param].name;
  std::replace(name.begin(), name.end(), ' ', '_');
  return name;
});

TEST(Pulse, OfMusicIsSure) {
  for (const char* take : {"studio", "live"}) {
    const auto found = Listener().listen(excerpt(*test::demoTake(take), {Seconds(20), Seconds(50)}));
    ASSERT_TRUE(found.ok());
    EXPECT_EQ(found->rhythm->pulse, 1.0) << take;
  }
}

TEST(CancellingSides, AreListenedToOneByOneAndSaid) {
  Recording inverted = excerpt(*test::demoTake("studio"), {Seconds(20), Seconds(45)});
  for (std::size_t i = 0; i < inverted.frames(); ++i) {
    const float mid = 0.5F * (inverted.channels[0][i] + inverted.channels[1][i]);
    inverted.channels[0][i] = mid;
    inverted.channels[1][i] = -mid;
  }
  EXPECT_TRUE(sidesCancel(inverted));
  EXPECT_FALSE(sidesCancel(*test::demoTake("studio")));
  const auto file = test::freshFolder("inverted") / "inverted.wav";
  ASSERT_TRUE(writeWav(inverted, file).ok());
  const auto read = decode(file);
  ASSERT_TRUE(read.ok());
  EXPECT_THAT(read->notice, testing::HasSubstr("cancel each other"));
  const auto found = Listener().listen(*read);
  ASSERT_TRUE(found.ok() && found->reference && found->rhythm);
  EXPECT_NEAR(found->reference->offset.value, 12, 2.5);
  EXPECT_NEAR(found->rhythm->tempo.front().tempo.value, 104, 1);
}

}  // namespace
}  // namespace ear
