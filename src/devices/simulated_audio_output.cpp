// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/simulated_audio_output.h"

#include <algorithm>
#include <chrono>

namespace ear {

SimulatedAudioOutput::SimulatedAudioOutput(Clock clock, double keepSeconds)
    : clock_(clock), keepSeconds_(keepSeconds), block_(2 * kBlock) {}

SimulatedAudioOutput::~SimulatedAudioOutput() {
  SimulatedAudioOutput::stop();
}

bool SimulatedAudioOutput::start(int sampleRate, RenderBlock render) {
  stop();
  {
    const std::lock_guard lock(mutex_);
    sampleRate_ = sampleRate;
    render_ = std::move(render);
    ring_.assign(2 * static_cast<std::size_t>(keepSeconds_ * sampleRate), 0.0F);
    written_ = 0;
  }
  plugged_ = true;
  if (clock_ == Clock::manual) return true;
  thread_ = std::jthread([this](const std::stop_token& stopped) {
    const auto pace = std::chrono::duration<double>(static_cast<double>(kBlock) / sampleRate_);
    auto next = std::chrono::steady_clock::now();
    while (!stopped.stop_requested()) {
      playBlock();
      next += std::chrono::duration_cast<std::chrono::steady_clock::duration>(pace);
      std::this_thread::sleep_until(next);
    }
  });
  return true;
}

void SimulatedAudioOutput::stop() {
  if (thread_.joinable()) {
    thread_.request_stop();
    thread_.join();
  }
}

void SimulatedAudioOutput::unplug() {
  stop();
  plugged_ = false;
  if (onTrouble) onTrouble("The sound output “" + name() + "” is gone.");
}

void SimulatedAudioOutput::move() {
  if (onMoved) onMoved("Sound now goes to “another simulated output”.");
}

void SimulatedAudioOutput::playBlock() {
  render_(block_);
  const std::lock_guard lock(mutex_);
  for (const float sample : block_) ring_[written_++ % ring_.size()] = sample;
}

void SimulatedAudioOutput::advance(Seconds time) {
  for (double played = 0; plugged_ && played < time.value; played += static_cast<double>(kBlock) / sampleRate_)
    playBlock();
}

Recording SimulatedAudioOutput::kept() const {
  const std::lock_guard lock(mutex_);
  Recording result{sampleRate_, {{}, {}}, ""};
  const std::size_t size = std::min(written_, ring_.size());
  for (std::size_t i = written_ - size; i < written_; ++i) result.channels[i % 2].push_back(ring_[i % ring_.size()]);
  return result;
}

void SimulatedAudioOutput::forget() {
  const std::lock_guard lock(mutex_);
  written_ = 0;
}

}  // namespace ear
