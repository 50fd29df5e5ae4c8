// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <mutex>
#include <thread>
#include <vector>

#include "core/audio/recording.h"
#include "devices/audio_output.h"

namespace ear {

/// An output without a sound card: asks for blocks at the pace of its own clock and keeps what was played.
class SimulatedAudioOutput : public AudioOutput {
 public:
  enum class Clock {
    real,    ///< a thread that plays in real time
    manual,  ///< plays only when told to, as fast as it can
  };

  static constexpr std::size_t kBlock = 512;  ///< frames asked for at once

  /// @param keepSeconds  how much of what was played is kept, the newest part
  explicit SimulatedAudioOutput(Clock clock = Clock::real, double keepSeconds = 120.0);
  ~SimulatedAudioOutput() override;

  std::function<bool(int)> rateCheck() const override {
    return [](int) { return true; };
  }
  bool start(int sampleRate, RenderBlock render) override;
  void stop() override;
  std::string name() const override { return "simulated output"; }
  bool simulated() const override { return true; }

  /// As if the device were pulled out: it says so and asks for nothing until start().
  void unplug();
  /// As if the system had another default device now.
  void move();
  /// With a manual clock: plays so much, in whole blocks.
  void advance(Seconds time);

  /// What was played, oldest first; writeWav() makes a file of it.
  Recording kept() const;
  void forget();

 private:
  void playBlock();

  Clock clock_;
  double keepSeconds_;
  int sampleRate_ = 0;
  RenderBlock render_;
  bool plugged_ = false;
  std::vector<float> block_;
  mutable std::mutex mutex_;  // between the device's thread and kept(); never taken while rendering
  std::vector<float> ring_;   // interleaved
  std::size_t written_ = 0;   // samples since forget()
  std::jthread thread_;
};

}  // namespace ear
