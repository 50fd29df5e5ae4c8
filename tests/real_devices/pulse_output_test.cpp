// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QProcess>
#include <QStandardPaths>
#include <QThread>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstring>
#include <numbers>

#include "core/playback/player.h"
#include "devices/qt_audio_output.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 48000;

/// What comes out of the null sink, from start() on. One that is in a hurry hastens the sink along with it, which a
/// player without company must do for itself.
class Monitor {
 public:
  void start(const QString& source = "ear.monitor", bool hurry = false) {
    process_.start("parec", {"-d", source, "--raw", "--format=float32le", "--rate=48000", "--channels=2",
                             hurry ? "--latency-msec=10" : "--latency-msec=1000"});
    process_.waitForStarted();
    while (process_.bytesAvailable() == 0) process_.waitForReadyRead(500);
  }
  /// Samples of the left side that have come so far.
  std::size_t count() {
    process_.waitForReadyRead(1);
    return static_cast<std::size_t>(process_.bytesAvailable()) / 8;
  }
  std::vector<float> stop() {
    process_.waitForReadyRead(1500);  // what is still on its way
    process_.terminate();
    process_.waitForFinished(3000);
    const QByteArray bytes = process_.readAllStandardOutput();
    std::vector<float> both(static_cast<std::size_t>(bytes.size()) / sizeof(float)), left;
    std::memcpy(both.data(), bytes.constData(), both.size() * sizeof(float));
    for (std::size_t i = 0; i + 1 < both.size(); i += 2) left.push_back(both[i]);
    return left;
  }

 private:
  QProcess process_;
};

void wait(int ms) {
  QElapsedTimer clock;
  clock.start();
  while (clock.elapsed() < ms) {
    QCoreApplication::processEvents();
    QThread::msleep(2);
  }
}

class PulseOutput : public testing::Test {
 protected:
  void SetUp() override {
    if (QStandardPaths::findExecutable("pulseaudio").isEmpty()) GTEST_SKIP() << "no PulseAudio on this machine";
    QElapsedTimer clock;
    clock.start();
    while (!QtAudioOutput::available() && clock.elapsed() < 10000) wait(50);
    ASSERT_TRUE(QtAudioOutput::available());
  }
};

/// The longest stretch, in seconds, in which each sample of a tone of 500 Hz is the one a period (96 samples) before
/// it.
double longestWhole(const std::vector<float>& heard) {
  std::size_t longest = 0, run = 0;
  for (std::size_t i = 96; i < heard.size(); ++i) {
    run = std::abs(heard[i]) + std::abs(heard[i - 24]) > 0.05F && std::abs(heard[i] - heard[i - 96]) < 2e-3F ? run + 1
                                                                                                             : 0;
    longest = std::max(longest, run);
  }
  return static_cast<double>(longest) / kRate;
}

float toneAt(std::int64_t sample) {
  return static_cast<float>(0.5 * std::sin(2 * std::numbers::pi * 500.0 * static_cast<double>(sample) / kRate));
}

/// Whether the sound server's own player, with a buffer like ours, plays four seconds whole on this machine now.
bool machineKeepsTime() {
  QByteArray tone;
  for (std::int64_t i = 0; i < 4 * kRate; ++i) {
    const float stereo[2] = {toneAt(i), toneAt(i)};
    tone.append(reinterpret_cast<const char*>(stereo), sizeof stereo);
  }
  Monitor monitor;
  monitor.start();
  QProcess player;
  player.start("pacat",
               {"-d", "ear", "--raw", "--format=float32le", "--rate=48000", "--channels=2", "--latency-msec=45"});
  player.write(tone);
  player.closeWriteChannel();
  player.waitForFinished(10000);
  return longestWhole(monitor.stop()) > 3.0;
}

/// True when one of some tries is flawless. A shared machine may stand still during any of them, longer than the
/// buffer lasts; a fault of the player's own is in all.
template <typename Try>
bool flawlessOnce(Try&& flawless) {
  constexpr int kTries = 5;
  for (int i = 0; i < kTries; ++i)
    if (flawless()) return true;
  return false;
}

TEST_F(PulseOutput, PlaysWithoutAGap) {
  // A tone without an end: any sample dropped, repeated or late breaks its phase.
  double best = 0;
  const auto played = [&] {
    QtAudioOutput output;
    EXPECT_TRUE(output.rateCheck()(kRate));
    std::atomic<std::int64_t> at = 0;
    Monitor monitor;
    monitor.start();
    EXPECT_TRUE(output.start(kRate, [&](std::span<float> block) {
      for (std::size_t i = 0; i < block.size(); i += 2, ++at) block[i] = block[i + 1] = toneAt(at);
    }));
    wait(4000);
    output.stop();
    const auto heard = monitor.stop();
    best = std::max(best, longestWhole(heard));
    return best > 3.0;
  };
  const bool whole = flawlessOnce(played);
  if (!whole && !machineKeepsTime()) GTEST_SKIP() << "the sound server's own player has gaps on this machine as well";
  EXPECT_TRUE(whole) << best << " of about four seconds";
}

TEST_F(PulseOutput, ALoopComesBackToTheSample) {
  std::size_t exact = 0, all = 0;
  const auto looped = [&] {
    Player player;
    player.load(Track(std::make_shared<Recording>(
        test::soundOf(3.0, kRate, [](double t) { return std::abs(t - 1.2) < 0.5 / kRate ? 0.9 : 0.0; }))));
    player.setLoop(TimeSpan{Seconds(1.0), Seconds(1.5)});
    player.seek(Seconds(1.0));
    QtAudioOutput output;
    Monitor monitor;
    monitor.start();
    EXPECT_TRUE(output.start(kRate, [&](std::span<float> block) { player.render(block); }));
    player.play();
    wait(4500);
    output.stop();
    const auto heard = monitor.stop();
    std::vector<std::size_t> spikes;
    for (std::size_t i = 0; i < heard.size(); ++i)
      if (heard[i] > 0.5F && (spikes.empty() || i - spikes.back() > 1000)) spikes.push_back(i);
    if (spikes.size() < 6) return false;
    all = spikes.size() - 1;
    exact = 0;
    for (std::size_t i = 1; i < spikes.size(); ++i) exact += spikes[i] - spikes[i - 1] == kRate / 2 ? 1U : 0U;
    return exact + 1 >= all;
  };
  const bool whole = flawlessOnce(looped);
  if (!whole && !machineKeepsTime()) GTEST_SKIP() << "the sound server's own player has gaps on this machine as well";
  EXPECT_TRUE(whole) << exact << " of " << all << " in the last try";
}

TEST_F(PulseOutput, AnswersSoon) {
  double seconds = 0;
  const auto soon = [&] {
    QtAudioOutput output;
    std::atomic<bool> sounding = false;
    Monitor monitor;
    monitor.start("ear.monitor", true);
    EXPECT_TRUE(output.start(
        kRate, [&](std::span<float> block) { std::fill(block.begin(), block.end(), sounding ? 0.5F : 0.0F); }));
    wait(1500);
    const std::size_t asked = monitor.count();
    sounding = true;
    wait(1000);
    output.stop();
    const auto heard = monitor.stop();
    std::size_t first = asked > 4800 ? asked - 4800 : 0;
    while (first < heard.size() && heard[first] < 0.25F) ++first;
    seconds = (static_cast<double>(first) - static_cast<double>(asked)) / kRate;
    // The way through the server and the recorder comes on top of our 45 ms of buffer.
    return first < heard.size() && seconds < 0.25;
  };
  EXPECT_TRUE(flawlessOnce(soon)) << seconds << " s in the last try";
  RecordProperty("latency_ms", std::to_string(1000 * seconds));
}

TEST_F(PulseOutput, AnotherDefaultIsFollowed) {
  QtAudioOutput output;
  std::atomic<int> troubles = 0;
  output.onTrouble = [&](const std::string&) { ++troubles; };
  ASSERT_TRUE(output.start(kRate, [](std::span<float> block) { std::fill(block.begin(), block.end(), 0.25F); }));
  wait(500);
  ASSERT_EQ(QProcess::execute("pactl", {"load-module", "module-null-sink", "sink_name=other", "rate=44100",
                                        "sink_properties=device.description=other"}),
            0);
  wait(500);
  ASSERT_EQ(QProcess::execute("pactl", {"set-default-sink", "other"}), 0);
  // The server takes the stream along by itself, or we do.
  wait(4000);
  std::ptrdiff_t whole = 0;
  const auto heardThere = [&] {
    Monitor monitor;
    monitor.start("other.monitor");
    wait(1500);
    const auto heard = monitor.stop();
    whole = std::count_if(heard.begin(), heard.end(), [](float s) { return std::abs(s - 0.25F) < 0.01F; });
    return whole > kRate / 2;
  };
  EXPECT_TRUE(flawlessOnce(heardThere)) << whole << " samples in the last try; at another rate of its own, too";
  EXPECT_EQ(troubles, 0);
  output.stop();
  ASSERT_EQ(QProcess::execute("pactl", {"set-default-sink", "ear"}), 0);
  wait(500);
}

TEST_F(PulseOutput, ADeviceThatGoesAwayIsSaidAndNothingHangs) {
  QtAudioOutput output;
  std::atomic<int> troubles = 0;
  output.onTrouble = [&](const std::string& message) {
    EXPECT_FALSE(message.empty());
    ++troubles;
  };
  std::atomic<std::int64_t> blocks = 0;
  ASSERT_TRUE(output.start(kRate, [&](std::span<float> block) {
    std::fill(block.begin(), block.end(), 0.1F);
    ++blocks;
  }));
  wait(2500);
  EXPECT_GT(blocks, 5);
  ASSERT_EQ(QProcess::execute("pactl", {"unload-module", "module-null-sink"}), 0);
  QElapsedTimer clock;
  clock.start();
  while (troubles == 0 && clock.elapsed() < 8000) wait(20);
  const std::int64_t then = blocks;
  wait(500);
  EXPECT_TRUE(troubles > 0 || blocks > then) << "it says so, or it goes on elsewhere";
  clock.restart();
  output.stop();
  EXPECT_LT(clock.elapsed(), 5000);
  // It comes back, and playing with it.
  ASSERT_EQ(QProcess::execute("pactl", {"load-module", "module-null-sink", "sink_name=ear", "rate=48000"}), 0);
  wait(1000);
  const std::int64_t before = blocks;
  ASSERT_TRUE(output.start(kRate, [&](std::span<float> block) {
    std::fill(block.begin(), block.end(), 0.1F);
    ++blocks;
  }));
  wait(2500);
  EXPECT_GT(blocks, before + 5);
}

}  // namespace
}  // namespace ear
