// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/micro_timing.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

std::vector<PlacedAttack> placeOn(std::span<const Seconds> attacks, std::span<const Seconds> beats,
                                  std::span<const Seconds> downbeats, int parts) {
  std::vector<PlacedAttack> placed;
  for (const Seconds attack : attacks) {
    auto after = std::upper_bound(beats.begin(), beats.end(), attack);
    if (beats.size() < 2 || after == beats.begin() || after == beats.end()) continue;
    auto beat = after - 1;
    const Seconds length = *after - *beat;
    int part = static_cast<int>(std::lround((attack - *beat) / length * parts));
    PlacedAttack p{attack};
    p.late = attack - (*beat + length * (part / static_cast<double>(parts)));
    if (part == parts) ++beat, part = 0;
    const auto bar = std::upper_bound(downbeats.begin(), downbeats.end(), *beat + Seconds(1e-6));
    p.bar = static_cast<int>(bar - downbeats.begin());
    const Seconds start = p.bar > 0 ? *(bar - 1) : beats.front();
    p.beat = 1 + static_cast<int>(beat - std::lower_bound(beats.begin(), beats.end(), start - Seconds(1e-6)));
    p.part = part, p.parts = parts;
    placed.push_back(p);
  }
  return placed;
}

/// Mean square distance, in parts of a beat: a finer grid is nearer by chance, so it is measured in its own cells.
double misfit(const std::vector<PlacedAttack>& placed, std::span<const Seconds> beats) {
  double sum = 0;
  const double beat = (beats.back() - beats.front()).value / static_cast<double>(beats.size() - 1);
  for (const auto& p : placed) sum += std::pow(p.late.value / beat * p.parts, 2);
  return placed.empty() ? 1e9 : sum / static_cast<double>(placed.size());
}

}  // namespace

std::vector<PlacedAttack> placeAttacks(std::span<const Seconds> attacks, std::span<const Seconds> beats,
                                       std::span<const Seconds> downbeats) {
  if (beats.size() < 2) return {};
  auto fourths = placeOn(attacks, beats, downbeats, 4), thirds = placeOn(attacks, beats, downbeats, 3);
  return misfit(thirds, beats) < misfit(fourths, beats) ? thirds : fourths;
}

Seconds meanLateness(std::span<const PlacedAttack> placed) {
  Seconds sum;
  for (const auto& p : placed) sum += p.late;
  return placed.empty() ? sum : sum / static_cast<double>(placed.size());
}

}  // namespace ear
