// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

namespace ear {

/// A foot switch, or anything else that sends short messages when pressed.
class Pedal {
 public:
  virtual ~Pedal() = default;
  /// Called on any thread when a switch goes down, with a name that stays the same for that switch, such as
  /// "controller 64, channel 1". Set before start().
  std::function<void(const std::string& name)> onPress;
  virtual void start() = 0;
  virtual void stop() = 0;
  /// Names of what is plugged in; empty when nothing is.
  virtual std::vector<std::string> ports() const = 0;
  virtual bool simulated() const = 0;
};

/// What a MIDI message says of a switch going down: a note that is struck, a controller that rises over its middle, a
/// program that is chosen. Empty for all others (releases, clocks, wheels).
std::string switchOfMidi(const std::vector<unsigned char>& message);

/// MIDI pedals through RtMidi: every input port there is.
std::unique_ptr<Pedal> openMidiPedal();

/// A pedal without a device: press() is its foot.
class SimulatedPedal : public Pedal {
 public:
  void start() override { running_ = true; }
  void stop() override { running_ = false; }
  std::vector<std::string> ports() const override { return {"simulated pedal"}; }
  bool simulated() const override { return true; }
  /// @param controller  0 ... 127, as a MIDI pedal sends it
  void press(int controller);
  /// A key of a keyboard goes down. @param note  MIDI
  void strike(int note);

 private:
  bool running_ = false;
};

}  // namespace ear
