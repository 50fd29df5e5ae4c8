#include "core/practice/snap.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/listening/onsets.h"
#include "core/progress.h"

namespace ear {
namespace {

constexpr float kClear = 0.25F;       // strength of an attack among those around
constexpr Seconds kAround{0.6};       // sound on both sides that attacks are looked for in
constexpr Seconds kSameMoment{0.05};  // an attack so close to a beat is the beat's

/// Times of attacks around `t`.
std::vector<Seconds> attacksAround(const Recording& recording, Seconds t, Seconds reach) {
  const TimeSpan around{std::max(Seconds(0), t - reach - kAround), std::min(recording.duration(), t + reach + kAround)};
  if (around.length() <= Seconds(0.1)) return {};
  const auto bands = measureBandFrames(listeningMono(excerpt(recording, around)), Progress());
  std::vector<Seconds> attacks;
  for (const std::size_t i : peaksOf(measureOnsets(bands).all, kClear))
    attacks.push_back(around.start + Seconds(static_cast<double>(i) / bands.rate));
  return attacks;
}

std::optional<Seconds> nearest(const std::vector<Seconds>& times, Seconds t, Seconds reach) {
  std::optional<Seconds> best;
  for (const Seconds time : times)
    if (std::abs((time - t).value) <= (best ? std::abs((*best - t).value) : reach.value)) best = time;
  return best;
}

}  // namespace

Seconds snapEdge(const Recording& recording, const Grid& grid, Seconds t, Seconds reach) {
  const auto attacks = attacksAround(recording, t, reach);
  for (const auto& times : {barLines(grid), beatTimes(grid)})
    if (const auto beat = nearest(times, t, reach)) {
      const auto attack = nearest(attacks, *beat, kSameMoment);
      return attack ? *attack - kBeforeAttack : *beat;
    }
  if (const auto attack = nearest(attacks, t + kBeforeAttack, reach)) return *attack - kBeforeAttack;
  return t;
}

}  // namespace ear
