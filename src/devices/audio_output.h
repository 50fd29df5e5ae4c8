// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <memory>
#include <span>
#include <string>

namespace ear {

/// Fills a block with interleaved stereo samples. Called on the device's own thread: must not allocate, lock or wait.
using RenderBlock = std::function<void(std::span<float>)>;

/// Where sound goes.
class AudioOutput {
 public:
  virtual ~AudioOutput() = default;

  /// Which sample rates the device plays, as a question that any thread may ask.
  virtual std::function<bool(int)> rateCheck() const = 0;

  /// Starts to ask for blocks at a sample rate. @return false when the device cannot play at that rate
  virtual bool start(int sampleRate, RenderBlock render) = 0;

  /// After it returns no block is asked for any more.
  virtual void stop() = 0;

  /// What the window calls it: the name of the device.
  virtual std::string name() const = 0;
  virtual bool simulated() const = 0;

  // Set before start(); called on any thread with a sentence.
  std::function<void(const std::string& message)> onTrouble;  ///< the device went away; nothing is asked for any more
  std::function<void(const std::string& message)> onMoved;  ///< the system has another default, and sound goes on there
};

/// The default device where there is one, else the simulated one.
std::unique_ptr<AudioOutput> openAudioOutput();

}  // namespace ear
