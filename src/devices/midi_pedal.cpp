// SPDX-License-Identifier: GPL-3.0-or-later
#include <RtMidi.h>

#include <filesystem>

#include "devices/pedal.h"

namespace ear {
namespace {

/// Without the sequencer of ALSA there is nothing to open, and RtMidi would complain on the terminal.
bool sequencerThere() {
  std::error_code error;
  return std::filesystem::exists("/dev/snd/seq", error);
}

/// RtMidi reports trouble by exceptions; here it means that there is no pedal.
class MidiPedal : public Pedal {
 public:
  ~MidiPedal() override { MidiPedal::stop(); }

  void start() override {
    stop();
    if (!sequencerThere()) return;
    try {
      RtMidiIn finder;
      for (unsigned port = 0; port < finder.getPortCount(); ++port) {
        auto in = std::make_unique<RtMidiIn>();
        in->setCallback(&MidiPedal::receive, this);
        in->openPort(port, "Inner Ear pedal");
        in->ignoreTypes();
        inputs_.push_back(std::move(in));
      }
    } catch (const RtMidiError&) {
      inputs_.clear();
    }
  }

  void stop() override { inputs_.clear(); }

  std::vector<std::string> ports() const override {
    std::vector<std::string> names;
    if (!sequencerThere()) return names;
    try {
      RtMidiIn finder;
      for (unsigned port = 0; port < finder.getPortCount(); ++port) names.push_back(finder.getPortName(port));
    } catch (const RtMidiError&) {
      return {};
    }
    return names;
  }

  bool simulated() const override { return false; }

 private:
  static void receive(double, std::vector<unsigned char>* message, void* self) {
    auto* pedal = static_cast<MidiPedal*>(self);
    if (const std::string name = switchOfMidi(*message); !name.empty() && pedal->onPress) pedal->onPress(name);
  }

  std::vector<std::unique_ptr<RtMidiIn>> inputs_;
};

}  // namespace

std::unique_ptr<Pedal> openMidiPedal() {
  return std::make_unique<MidiPedal>();
}

}  // namespace ear
