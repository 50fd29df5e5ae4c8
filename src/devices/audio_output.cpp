// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/audio_output.h"

#include "devices/qt_audio_output.h"
#include "devices/simulated_audio_output.h"

namespace ear {

std::unique_ptr<AudioOutput> openAudioOutput() {
  if (QtAudioOutput::available()) return std::make_unique<QtAudioOutput>();
  return std::make_unique<SimulatedAudioOutput>();
}

}  // namespace ear
