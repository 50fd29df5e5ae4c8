// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "devices/audio_output.h"

namespace ear {

/// The system's default output through Qt Multimedia, on a thread of its own so that a busy window is never heard.
class QtAudioOutput : public AudioOutput {
 public:
  QtAudioOutput();
  ~QtAudioOutput() override;

  /// True when the system has an output device.
  static bool available();

  std::function<bool(int)> rateCheck() const override;
  bool start(int sampleRate, RenderBlock render) override;
  void stop() override;
  std::string name() const override;
  bool simulated() const override { return false; }

 private:
  /// Goes on with the system's default device, or says that there is none.
  void reopen();

  struct Worker;
  std::unique_ptr<Worker> worker_;
};

}  // namespace ear
