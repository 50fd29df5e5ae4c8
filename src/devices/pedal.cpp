// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/pedal.h"

namespace ear {

std::string switchOfMidi(const std::vector<unsigned char>& message) {
  if (message.size() < 2) return {};
  constexpr unsigned kNoteOn = 0x90, kController = 0xB0, kProgram = 0xC0, kMiddle = 64;
  const unsigned kind = message[0] & 0xF0U;
  const std::string channel = ", channel " + std::to_string((message[0] & 0x0FU) + 1);
  const std::string number = std::to_string(message[1]);
  if (kind == kProgram) return "program " + number + channel;
  if (message.size() < 3) return {};
  if (kind == kNoteOn && message[2] > 0) return "note " + number + channel;
  if (kind == kController && message[2] >= kMiddle) return "controller " + number + channel;
  return {};
}

void SimulatedPedal::press(int controller) {
  if (running_ && onPress) onPress(switchOfMidi({0xB0, static_cast<unsigned char>(controller), 127}));
}

void SimulatedPedal::strike(int note) {
  if (running_ && onPress) onPress(switchOfMidi({0x90, static_cast<unsigned char>(note), 100}));
}

}  // namespace ear
