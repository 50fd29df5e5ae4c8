// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/simulated_guitar.h"

#include <array>
#include <chrono>
#include <cmath>

namespace ear {
namespace {
constexpr std::size_t kBlock = 512;
}

SimulatedGuitar::SimulatedGuitar(Clock clock) : clock_(clock) {
  strings_.prepare(kRate);
}

SimulatedGuitar::~SimulatedGuitar() {
  SimulatedGuitar::stop();
}

void SimulatedGuitar::pluck(const Guitar& guitar, int string, Cents detuned) {
  strings_.silence();
  strings_.play({guitar.frequency({string, 0}) * std::exp2(detuned.value / 1200), Tones::Kind::plucked, Seconds(0.05)});
}

int SimulatedGuitar::start(TakeBlock take) {
  stop();
  take_ = std::move(take);
  if (clock_ == Clock::manual) return kRate;
  thread_ = std::jthread([this](const std::stop_token& stop) {
    auto next = std::chrono::steady_clock::now();
    while (!stop.stop_requested()) {
      playBlock();
      next += std::chrono::microseconds(1000000LL * static_cast<long long>(kBlock) / kRate);
      std::this_thread::sleep_until(next);
    }
  });
  return kRate;
}

void SimulatedGuitar::stop() {
  if (thread_.joinable()) {
    thread_.request_stop();
    thread_.join();
  }
  take_ = nullptr;
}

void SimulatedGuitar::advance(Seconds time) {
  for (double played = 0; played < time.value * kRate; played += kBlock) playBlock();
}

void SimulatedGuitar::playBlock() {
  std::array<float, 2 * kBlock> stereo{};
  std::array<float, kBlock> mono{};
  strings_.render(stereo);
  for (std::size_t i = 0; i < kBlock; ++i) mono[i] = stereo[2 * i];
  if (take_) take_(mono);
}

}  // namespace ear
