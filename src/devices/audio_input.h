// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <memory>
#include <span>
#include <string>

namespace ear {

/// Takes a block of mono samples. Called on any thread.
using TakeBlock = std::function<void(std::span<const float>)>;

/// Where sound comes from: a microphone, a guitar at the sound card.
class AudioInput {
 public:
  virtual ~AudioInput() = default;

  /// @return the sample rate, or 0 when the device cannot be listened to
  virtual int start(TakeBlock take) = 0;
  /// After it returns no block is given any more.
  virtual void stop() = 0;
  virtual std::string name() const = 0;
  virtual bool simulated() const = 0;
};

/// The default input where there is one, else the simulated guitar.
std::unique_ptr<AudioInput> openAudioInput();

}  // namespace ear
