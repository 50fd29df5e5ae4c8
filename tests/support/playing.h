// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <vector>

#include "core/playback/player.h"

namespace ear::test {

/// Plays and returns the left side.
inline std::vector<float> listen(Player& player, double seconds, std::size_t block = 512) {
  std::vector<float> left(static_cast<std::size_t>(seconds * player.recording()->sampleRate)), buffer(2 * block);
  for (std::size_t at = 0; at < left.size(); at += block) {
    const std::size_t size = std::min(block, left.size() - at);
    player.render(std::span(buffer).first(2 * size));
    for (std::size_t i = 0; i < size; ++i) left[at + i] = buffer[2 * i];
  }
  return left;
}

/// A player at full volume with a recording.
class Deck : public Player {
 public:
  explicit Deck(Recording recording) { load(Track(std::make_shared<Recording>(std::move(recording)))); }
};

}  // namespace ear::test
