// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/plucked_string.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <ranges>

#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 48000;

struct Heard {
  std::vector<float> left, right;
};

Heard played(const PluckedString::Pluck& pluck, double seconds) {
  PluckedString string;
  string.prepare(kRate);
  string.pluck(pluck);
  std::vector<float> out(2 * static_cast<std::size_t>(seconds * kRate));
  string.render(out);
  Heard heard;
  for (std::size_t i = 0; i < out.size(); i += 2) heard.left.push_back(out[i]), heard.right.push_back(out[i + 1]);
  return heard;
}

/// Cents over `base` within a span, by the phase of the fundamental.
double centsOver(const std::vector<float>& sound, double from, double to, double about, double base) {
  const auto first = static_cast<std::size_t>(from * kRate), last = static_cast<std::size_t>(to * kRate);
  return test::cents(test::frequencyOf(std::span(sound).subspan(first, last - first), kRate, about), base);
}

PluckedString::Moves moves(std::initializer_list<PluckedString::Move> list) {
  PluckedString::Moves made;
  for (const auto& move : list) made.all[made.count++] = move;
  return made;
}

TEST(PluckedString, IsInTuneOnTheWholeNeck) {
  for (int midi = 28; midi <= 88; midi += 3) {  // from a bass's lowest string to the 24th fret of the first
    const double hertz = 440 * std::exp2((midi - 69) / 12.0);
    const auto sound = played({.pitch = Hertz(hertz)}, 1.0).left;
    EXPECT_NEAR(centsOver(sound, 0.1, 0.6, hertz, hertz), 0, 1.0) << midi;
  }
}

TEST(PluckedString, ABendGoesUpAndComesBack) {
  const double base = 440 * std::exp2((67 - 69) / 12.0);
  // A whole tone up in a fifth of a second, held, and released.
  const auto sound =
      played({.pitch = Hertz(base),
              .moves =
                  moves({{Seconds(0.3), Cents(200), Seconds(0.2), 0.0}, {Seconds(0.9), Cents(0), Seconds(0.15), 0.0}})},
             1.6)
          .left;
  EXPECT_NEAR(centsOver(sound, 0.05, 0.28, base, base), 0, 2);
  EXPECT_NEAR(centsOver(sound, 0.38, 0.42, base * std::exp2(1.0 / 12), base), 100, 12) << "half way, half way up";
  EXPECT_NEAR(centsOver(sound, 0.55, 0.88, base * std::exp2(2.0 / 12), base), 200, 2);
  EXPECT_NEAR(centsOver(sound, 1.1, 1.5, base, base), 0, 2);
}

TEST(PluckedString, APreBendSoundsBentFromTheStart) {
  const double base = 220;
  const auto sound = played({.pitch = Hertz(base), .moves = moves({{Seconds(0), Cents(100), Seconds(0), 0.0}})}, 0.6);
  EXPECT_NEAR(centsOver(sound.left, 0.02, 0.3, base * std::exp2(1.0 / 12), base), 100, 2);
}

TEST(PluckedString, ABendAddsNoClickAndAHammerOnAStroke) {
  const double base = 196;
  const auto steepest = [](const std::vector<float>& sound, double from, double to) {
    float most = 0;
    for (auto i = static_cast<std::size_t>(from * kRate); i < static_cast<std::size_t>(to * kRate); ++i)
      most = std::max(most, std::abs(sound[i + 1] - sound[i]));
    return most;
  };
  const auto bent =
      played({.pitch = Hertz(base), .moves = moves({{Seconds(0.5), Cents(200), Seconds(0.1), 0.0}})}, 1.0).left;
  EXPECT_LT(steepest(bent, 0.5, 0.6), 1.3F * steepest(bent, 0.4, 0.5));
  const auto hammered =
      played({.pitch = Hertz(base), .moves = moves({{Seconds(0.5), Cents(200), Seconds(0), 0.4}})}, 1.0).left;
  EXPECT_GT(steepest(hammered, 0.5, 0.52), 1.5F * steepest(hammered, 0.4, 0.5));
  EXPECT_NEAR(centsOver(hammered, 0.6, 0.95, base * std::exp2(2.0 / 12), base), 200, 2);
}

TEST(PluckedString, StandsWhereItIsPannedAsLoudAsAsked) {
  const auto power = [](const std::vector<float>& x) {
    double sum = 0;
    for (const float s : x) sum += static_cast<double>(s) * static_cast<double>(s);
    return sum;
  };
  const auto middle = played({.pitch = Hertz(220), .level = 0.5}, 0.3);
  EXPECT_EQ(middle.left, middle.right);
  const auto loudest = std::ranges::max(middle.left | std::views::transform([](float s) { return std::abs(s); }));
  EXPECT_NEAR(loudest, 0.5F, 0.05F);
  const auto left = played({.pitch = Hertz(220), .level = 0.5, .pan = -1.0}, 0.3);
  EXPECT_LT(power(left.right), 1e-9 * power(left.left));
  for (const double pan : {-0.6, 0.2, 0.9}) {
    const auto placed = played({.pitch = Hertz(220), .level = 0.5, .pan = pan}, 0.3);
    EXPECT_NEAR(power(placed.left) + power(placed.right), power(middle.left) + power(middle.right),
                1e-3 * power(middle.left))
        << "at constant power";
  }
}

TEST(PluckedString, DampedItEnds) {
  PluckedString string;
  string.prepare(kRate);
  string.pluck({.pitch = Hertz(110)});
  std::vector<float> out(2 * kRate / 10);
  string.render(out);
  string.damp(Seconds(0.05));
  EXPECT_TRUE(string.sounding());
  string.render(out);
  EXPECT_FALSE(string.sounding());
}

}  // namespace
}  // namespace ear
