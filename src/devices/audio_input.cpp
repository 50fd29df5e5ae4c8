// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/audio_input.h"

#include "devices/qt_audio_input.h"
#include "devices/simulated_guitar.h"

namespace ear {

std::unique_ptr<AudioInput> openAudioInput() {
  if (QtAudioInput::available()) return std::make_unique<QtAudioInput>();
  return std::make_unique<SimulatedGuitar>();
}

}  // namespace ear
