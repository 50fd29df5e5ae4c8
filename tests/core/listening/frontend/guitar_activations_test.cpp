// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/guitar_activations.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>
#include <numbers>
#include <sstream>

#include "core/listening/frontend/spectra.h"
#include "core/theory/pitch.h"
#include "support/sounds.h"

namespace ear {
namespace {

using Plane = GuitarFrames::Plane;

Recording sine(double midi, Cents offset, double right) {
  const double hertz = frequencyOf(MidiPitch(midi), a4At(offset)).value;
  Recording sound =
      test::soundOf(2.0, 44100, [=](double t) { return 0.3 * std::sin(2 * std::numbers::pi * hertz * t); });
  sound.channels.resize(1);
  sound.channels.push_back(sound.channels.front());
  for (float& v : sound.channels.back()) v *= static_cast<float>(right);
  return sound;
}

int strongestBin(const GuitarFrames& frames, Plane plane) {
  const auto levels = frames.frame(frames.count() / 2, plane);
  return static_cast<int>(std::max_element(levels.begin(), levels.end()) - levels.begin());
}

TEST(GuitarFrames, APitchStandsAtItsBinOfTheRecordingsOwnTuning) {
  for (const double midi : {45.0, 60.0, 81.0}) {
    const int bin = static_cast<int>((midi - GuitarFrames::kLowestMidi) * GuitarFrames::kBinsPerSemitone);
    const auto plain = measureGuitarFrames(sine(midi, Cents(0), 1), Cents(0), {});
    EXPECT_EQ(strongestBin(plain, Plane::middle), bin);
    EXPECT_NEAR(strongestBin(plain, Plane::middleShort), bin, midi < 50 ? 4 : 1) << "short windows are coarser";
    EXPECT_EQ(strongestBin(measureGuitarFrames(sine(midi, Cents(35), 1), Cents(35), {}), Plane::middle), bin);
    EXPECT_EQ(strongestBin(measureGuitarFrames(sine(midi, Cents(33.3), 1), Cents(0), {}), Plane::middle), bin + 1)
        << "a third of a semitone higher";
  }
}

TEST(GuitarFrames, TheSidesAreWhatLeftAndRightDifferBy) {
  const auto middle = measureGuitarFrames(sine(60, Cents(0), 1), Cents(0), {});
  const auto left = measureGuitarFrames(sine(60, Cents(0), 0), Cents(0), {});
  const auto most = [](const GuitarFrames& f, Plane p) {
    const auto levels = f.frame(f.count() / 2, p);
    return *std::max_element(levels.begin(), levels.end());
  };
  EXPECT_NEAR(most(middle, Plane::sides), 0, 1e-3);
  EXPECT_NEAR(most(left, Plane::sides), most(left, Plane::middle), 1e-3);
}

TEST(GuitarFrames, LouderIsTheSame) {
  Recording quiet = sine(60, Cents(0), 0.5);
  const auto loud = measureGuitarFrames(quiet, Cents(0), {});
  for (auto& channel : quiet.channels)
    for (float& v : channel) v *= 0.05F;
  const auto found = measureGuitarFrames(quiet, Cents(0), {});
  ASSERT_EQ(found.levels.size(), loud.levels.size());
  for (std::size_t i = 0; i < found.levels.size(); i += 97) EXPECT_NEAR(found.levels[i], loud.levels[i], 2e-3);
}

/// The same frames were put through the network by the program that learned it (PyTorch), which wrote its answers.
TEST(GuitarActivations, TheyAreThoseOfTheNetworkThatWasLearned) {
  GuitarFrames frames{{kListeningRate / 1024.0}, {}};
  for (int t = 0; t < 24; ++t)
    for (int p = 0; p < GuitarFrames::kPlanes; ++p)
      for (int b = 0; b < GuitarFrames::kBins; ++b)
        frames.levels.push_back(static_cast<float>(1 + std::sin(0.37 * t + 1.3 * p + 0.11 * b)));
  const auto found = measureGuitarActivations(frames, {});
  ASSERT_EQ(found.count(), 24U);
  std::ifstream file(TEST_FOLDER "/core/listening/frontend/guitar_activations.check");
  int compared = 0;
  for (std::string line; std::getline(file, line);) {
    if (line.starts_with('#')) continue;
    std::istringstream words(line);
    std::size_t frame = 0, note = 0;
    double sounding = 0, struck = 0;
    ASSERT_TRUE(words >> frame >> note >> sounding >> struck) << line;
    const auto likely = [](double odds) { return 1 / (1 + std::exp(-odds)); };
    EXPECT_NEAR(found.soundingAt(frame)[note], likely(sounding), 2e-4) << line;
    EXPECT_NEAR(found.struckAt(frame)[note], likely(struck), 2e-4) << line;
    ++compared;
  }
  EXPECT_EQ(compared, 25);
}

TEST(GuitarActivations, SeamsBetweenPiecesDoNotShow) {
  // As many frames as three pieces, the same over and over: the answers within are the same.
  GuitarFrames frames{{kListeningRate / 1024.0}, {}};
  for (int t = 0; t < 300; ++t)
    for (int i = 0; i < GuitarFrames::kPlanes * GuitarFrames::kBins; ++i)
      frames.levels.push_back(static_cast<float>(1 + std::sin(0.2 * i)));
  const auto found = measureGuitarActivations(frames, {});
  ASSERT_EQ(found.count(), 300U);
  for (std::size_t t = 10; t < 290; ++t)
    for (std::size_t n = 0; n < GuitarActivations::kNotes; ++n)
      ASSERT_NEAR(found.soundingAt(t)[n], found.soundingAt(10)[n], 1e-5) << t << " " << n;
}

TEST(GuitarActivations, PartsJoinWithoutAFrameTooManyOrTooFew) {
  // Four notes of two seconds, each with a few overtones; the parts end within them.
  const std::array<double, 4> pitches = {57, 64, 60, 67};
  const Recording sound = test::soundOf(8.0, 22050, [&](double t) {
    const double hertz =
        frequencyOf(MidiPitch(pitches[static_cast<std::size_t>(std::min(3.0, t / 2))]), a4At({})).value;
    double sum = 0;
    for (int k = 1; k <= 4; ++k) sum += 0.3 / k * std::sin(2 * std::numbers::pi * hertz * k * t);
    return sum * std::exp(-std::fmod(t, 2.0));
  });
  const auto whole = hearGuitars(sound, Cents(0), {}), joined = hearGuitars(sound, Cents(0), {}, Seconds(3));
  ASSERT_EQ(joined.count(), whole.count());
  ASSERT_EQ(joined.struck.size(), whole.struck.size());
  const auto strongest = [](const GuitarActivations& notes, std::size_t i) {
    const auto all = notes.soundingAt(i);
    return GuitarActivations::kLowestMidi + static_cast<int>(std::max_element(all.begin(), all.end()) - all.begin());
  };
  for (std::size_t n = 0; n < pitches.size(); ++n)
    for (const double within : {0.4, 0.95, 1.05, 1.6}) {  // seconds; a joint lies at 3 and at 6
      const auto frame = whole.clock.frameAt(Seconds(2.0 * static_cast<double>(n) + within));
      EXPECT_EQ(strongest(joined, frame), pitches[n]) << n << " " << within;
      EXPECT_EQ(strongest(whole, frame), pitches[n]) << n << " " << within;
    }
}

TEST(GuitarActivations, NothingIsThereWhereItWasCancelled) {
  Progress stop;
  stop.cancel();
  EXPECT_EQ(measureGuitarFrames(sine(60, Cents(0), 1), Cents(0), stop).count(), 0U);
  GuitarFrames one{{21.5}, std::vector<float>(GuitarFrames::kPlanes * GuitarFrames::kBins)};
  EXPECT_EQ(measureGuitarActivations(one, stop).count(), 0U);
  EXPECT_EQ(measureGuitarActivations(one, {}).count(), 1U);
  EXPECT_EQ(measureGuitarFrames({}, Cents(0), {}).count(), 0U);
}

}  // namespace
}  // namespace ear
