// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/mixer.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>
#include <thread>

#include "support/playing.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 44100;

Track quietTone(double seconds) {
  return Track(std::make_shared<const Recording>(
      test::soundOf(seconds, kRate, [](double t) { return 0.2 * std::sin(2 * 3.14159265 * 330 * t); })));
}

Track silence(double seconds) {
  return Track(std::make_shared<const Recording>(test::soundOf(seconds, kRate, [](double) { return 0.0; })));
}

double rms(std::span<const float> x) {
  double sum = 0;
  for (const float s : x) sum += static_cast<double>(s) * static_cast<double>(s);
  return std::sqrt(sum / static_cast<double>(x.size()));
}

/// How loud it is once it stands, at a volume; `start` sets going what is heard.
template <class Start>
double loudnessAt(double volume, Track track, const Start& start) {
  Mixer mixer;
  mixer.setVolume(volume);
  mixer.load(std::move(track));
  mixer.prepare(kRate);
  start(mixer);
  std::vector<float> out(static_cast<std::size_t>(kRate));
  mixer.render(out);
  mixer.render(out);
  return rms(out);
}

TEST(Mixer, OneVolumeIsObeyedByEverything) {
  const auto halves = [](const auto& start, const auto& track, const char* what) {
    const double full = loudnessAt(1.0, track(), start), half = loudnessAt(0.5, track(), start);
    EXPECT_GT(full, 1e-3) << what;
    EXPECT_NEAR(half, full / 2, full * 1e-3) << what;
    EXPECT_EQ(loudnessAt(0.0, track(), start), 0.0) << what;
  };
  const auto sound = [] { return quietTone(5); };
  const auto none = [] { return silence(5); };
  halves([](Mixer& m) { m.player().play(); }, sound, "recording");
  halves([](Mixer& m) { m.tones().play({.pitch = Hertz(220)}); }, none, "string");
  halves([](Mixer& m) { m.tones().play({.pitch = Hertz(220), .kind = Tones::Kind::plain}); }, none, "plain tone");
  halves([](Mixer& m) { m.drone().set(Hertz(82)); }, none, "drone");
  halves([](Mixer& m) { m.held().hold(holdMoment(test::sine(330, 2), Seconds(1))); }, none, "held moment");
  halves(
      [](Mixer& m) {
        m.player().click().setBeats({{22050.0, true}, {26460.0, false}, {30870.0, false}});
        m.player().click().setLevel(0.5);
        m.player().play();
      },
      none, "click");
}

TEST(Mixer, AnotherVolumeIsNoStep) {
  Mixer mixer;
  mixer.load(quietTone(5));
  mixer.prepare(kRate);
  mixer.player().play();
  std::vector<float> out(2 * 256), all;
  for (int i = 0; i < 100; ++i) {
    if (i == 40) mixer.setVolume(0.1);
    if (i == 70) mixer.setVolume(1.0);
    mixer.render(out);
    for (std::size_t k = 0; k < out.size(); k += 2) all.push_back(out[k]);
  }
  const double steepest = 0.2 * 2 * 3.14159265 * 330 / kRate;
  for (std::size_t i = 1; i < all.size(); ++i) ASSERT_LT(std::abs(all[i] - all[i - 1]), 1.5 * steepest) << i;
}

/// Notes which frames it was told of, and clicks at each.
class Follower : public TimeLineSource {
 public:
  void prepare(int sampleRate) override { rate = sampleRate; }
  void mark(double from, double speed, std::size_t samples, std::size_t) override {
    frames.emplace_back(from, from + speed * static_cast<double>(samples));
  }
  void render(std::span<float>) override { ++blocks; }
  int rate = 0, blocks = 0;
  std::vector<std::pair<double, double>> frames;
};

TEST(TimeLine, ASourceIsLedAlongTheRecordingWithoutAGapAndBackInALoop) {
  Follower follower;
  test::Deck player(test::sine(330, 5));
  player.follow(follower);
  EXPECT_EQ(follower.rate, kRate);
  player.setPlayback({.speed = 0.8});
  player.setLoop(TimeSpan{Seconds(1), Seconds(1.5)});
  player.seek(Seconds(1));
  player.play();
  test::listen(player, 2.0);
  ASSERT_GT(follower.frames.size(), 10U);
  int returns = 0;
  double covered = 0;
  for (std::size_t i = 0; i < follower.frames.size(); ++i) {
    const auto [from, to] = follower.frames[i];
    covered += to - from;
    if (i == 0) continue;
    const double jump = from - follower.frames[i - 1].second;
    if (std::abs(jump) < 1) continue;
    ++returns;
    EXPECT_NEAR(jump, -0.5 * kRate, 2);
  }
  EXPECT_EQ(returns, 3) << "of a loop of 0.625 s in two seconds";
  EXPECT_NEAR(covered, 0.8 * 2.0 * kRate, 0.05 * kRate);
  EXPECT_GT(follower.blocks, 100);
}

TEST(Mixer, WhatIsPlayedStaysInMemoryWhileTheRecordingIsListenedTo) {
  // Long enough to lie on disk: a plane of 64 MiB and more is six and a half minutes.
  const auto recording = std::make_shared<const Recording>(test::soundOf(400, kRate, [](double) { return 0.25; }));
  const auto residentOf = [&](TimeSpan span) {
    const auto part = partOf(*recording, recording->left(), span);
    // What of these pages is mapped here and now, as the kernel tells (proc(5), pagemap).
    std::ifstream map;
    map.rdbuf()->pubsetbuf(nullptr, 0);  // whole entries are read, or none
    map.open("/proc/self/pagemap", std::ios::binary);
    const auto address = reinterpret_cast<std::uintptr_t>(part.data());
    map.seekg(static_cast<std::streamoff>(address / 4096 * 8));
    std::vector<std::uint64_t> entries(part.size_bytes() / 4096);
    map.read(reinterpret_cast<char*>(entries.data()), static_cast<std::streamsize>(entries.size() * 8));
    const auto there = std::ranges::count_if(entries, [](std::uint64_t e) { return (e >> 63) != 0; });
    return static_cast<double>(there) / static_cast<double>(entries.size());
  };
  const TimeSpan all{Seconds(0), recording->duration()};
  evict(*recording, all);
  EXPECT_EQ(residentOf({Seconds(200), Seconds(220)}), 0.0);
  Mixer mixer;
  mixer.load(Track(recording));
  const auto comes = [&](TimeSpan span) {
    for (int i = 0; i < 400 && residentOf(span) < 1.0; ++i) std::this_thread::sleep_for(std::chrono::milliseconds(25));
    return residentOf(span) == 1.0;
  };
  mixer.seek(Seconds(200));
  mixer.setLoop(TimeSpan{Seconds(100), Seconds(110)});
  EXPECT_TRUE(comes({Seconds(200), Seconds(228)})) << "ahead of the playhead";
  EXPECT_TRUE(comes({Seconds(100), Seconds(110)})) << "the loop";
  evict(*recording, all);  // as a listener does behind itself
  EXPECT_EQ(residentOf({Seconds(200), Seconds(228)}), 1.0);
  EXPECT_EQ(residentOf({Seconds(100), Seconds(110)}), 1.0);
  EXPECT_EQ(residentOf({Seconds(300), Seconds(320)}), 0.0);
  // Whoever goes elsewhere has it there, and the rest is let go of in time.
  mixer.setLoop({});
  mixer.seek(Seconds(10));
  EXPECT_TRUE(comes({Seconds(10), Seconds(38)}));
  evict(*recording, all);
  EXPECT_EQ(residentOf({Seconds(200), Seconds(228)}), 0.0);
  // The loop is expected again when a sequence over it has ended.
  mixer.setLoop(TimeSpan{Seconds(100), Seconds(110)});
  const Segment turns[] = {{.span = {Seconds(300), Seconds(305)}}, {.span = {Seconds(350), Seconds(355)}}};
  mixer.setSequence(turns);
  EXPECT_TRUE(comes({Seconds(350), Seconds(355)}));
  mixer.setSequence({});
  EXPECT_TRUE(comes({Seconds(100), Seconds(110)}));
}

}  // namespace
}  // namespace ear
