// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/monitor.h"

namespace ear {

void Monitor::prepare(int sampleRate) {
  rate_ = sampleRate;
  since_ = 0;
  limiter_.prepare(sampleRate);
  level_.prepare(sampleRate);
}

void Monitor::process(std::span<float> block) {
  limiter_.process(block);
  level_.add(block);
  since_ += block.size() / 2;
  if (since_ < static_cast<std::size_t>(rate_)) return;
  since_ = 0;
  const auto part = level_.take();
  readings_.put({++number_, part.meanSquare, static_cast<double>(part.samples) / rate_, limiter_.reduction()});
}

}  // namespace ear
