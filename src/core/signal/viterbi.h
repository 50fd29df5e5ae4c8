// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <limits>
#include <span>
#include <vector>

#include "core/base/progress.h"

namespace ear {

/// In a path: from here back no sequence of states leads on.
inline constexpr std::size_t kNoState = std::numeric_limits<std::uint16_t>::max();

/// The likeliest sequence of states (Viterbi 1967; as in Rabiner 1989, sec. III.B). Takes two bytes for each state of
/// each frame.
///
/// The model tells, all as log chances or anything that adds up likewise:
/// - `double start(state)`  before the first frame
/// - `void enter(t, std::span<const double> before)`  the next frame is looked at; what the states scored before it
/// - `void ways(to, come)`  calls `come(from, cost)` for each way into a state; of equal ones the first is taken
/// - `double gain(state)`  how well the state explains the frame
///
/// @param states  under 65535
/// @return a state for each frame, kNoState where there was no way; empty when cancelled
template <class Model>
std::vector<std::size_t> likeliestPath(std::size_t frames, std::size_t states, Model&& model,
                                       const Progress& progress = {}) {
  constexpr double kUnreachable = -1e9;
  std::vector<double> score(states), next(states);
  for (std::size_t s = 0; s < states; ++s) score[s] = model.start(s);
  std::vector<std::uint16_t> from(frames * states);
  for (std::size_t t = 0; t < frames; ++t) {
    if (t % 64 == 0 && progress.cancelled()) return {};
    model.enter(t, std::span<const double>(score));
    for (std::size_t to = 0; to < states; ++to) {
      double best = kUnreachable;
      std::size_t origin = kNoState;
      model.ways(to, [&](std::size_t state, double cost) {
        if (const double v = score[state] - cost; v > best) best = v, origin = state;
      });
      next[to] = best + model.gain(to);
      from[t * states + to] = static_cast<std::uint16_t>(origin);
    }
    std::swap(score, next);
  }
  std::vector<std::size_t> path(frames, kNoState);
  auto state = static_cast<std::size_t>(std::max_element(score.begin(), score.end()) - score.begin());
  for (std::size_t t = frames; t-- > 0 && state != kNoState; state = from[t * states + state]) path[t] = state;
  return path;
}

}  // namespace ear
