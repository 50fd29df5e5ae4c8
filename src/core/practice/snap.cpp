// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/snap.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/listening/frontend/onsets.h"

namespace ear {
namespace {

constexpr Seconds kSameMoment{0.05};  // an attack so close to a beat is the beat's

std::optional<Seconds> nearest(const std::vector<Seconds>& times, Seconds t, Seconds reach) {
  std::optional<Seconds> best;
  for (const Seconds time : times)
    if (std::abs((time - t).value) <= (best ? std::abs((*best - t).value) : reach.value)) best = time;
  return best;
}

}  // namespace

Seconds snapEdge(const Recording& recording, const Grid& grid, Seconds t, Seconds reach) {
  const Seconds wide = reach + kSameMoment + kBeforeAttack;
  const auto attacks = attacksIn(recording, {t - wide, t + wide});
  for (const auto& times : {barLines(grid), beatTimes(grid)})
    if (const auto beat = nearest(times, t, reach)) {
      const auto attack = nearest(attacks, *beat, kSameMoment);
      return attack ? *attack - kBeforeAttack : *beat;
    }
  if (const auto attack = nearest(attacks, t + kBeforeAttack, reach)) return *attack - kBeforeAttack;
  return t;
}

}  // namespace ear
