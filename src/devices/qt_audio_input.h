// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>

#include "devices/audio_input.h"

namespace ear {

/// The system's default input through Qt Multimedia; blocks arrive on the thread that started it.
class QtAudioInput : public AudioInput {
 public:
  QtAudioInput();
  ~QtAudioInput() override;

  /// True when the system has an input device.
  static bool available();

  int start(TakeBlock take) override;
  void stop() override;
  std::string name() const override;
  bool simulated() const override { return false; }

 private:
  struct Source;
  std::unique_ptr<Source> source_;
};

}  // namespace ear
