// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <thread>

#include "core/playback/tones.h"
#include "core/theory/fretboard.h"
#include "devices/audio_input.h"

namespace ear {

/// An input without a sound card: a guitar whose strings are plucked by the program, each out of tune by chosen cents.
class SimulatedGuitar : public AudioInput {
 public:
  enum class Clock {
    real,    ///< a thread that plays in real time
    manual,  ///< plays only when told to
  };
  static constexpr int kRate = 48000;

  explicit SimulatedGuitar(Clock clock = Clock::real);
  ~SimulatedGuitar() override;

  /// Plucks a string. @param detuned  from where the guitar's tuning has it
  void pluck(const Guitar& guitar, int string, Cents detuned);

  int start(TakeBlock take) override;
  void stop() override;
  std::string name() const override { return "simulated guitar"; }
  bool simulated() const override { return true; }

  /// With a manual clock: plays so much.
  void advance(Seconds time);

 private:
  void playBlock();

  Clock clock_;
  Tones strings_;
  TakeBlock take_;
  std::jthread thread_;
};

}  // namespace ear
