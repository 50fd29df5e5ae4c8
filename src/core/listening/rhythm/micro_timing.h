// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// Where an attack lies in its bar.
struct PlacedAttack {
  Seconds time;
  int bar = 0;   ///< 1 ... ; 0 before the first bar
  int beat = 1;  ///< 1 ...
  int part = 0;  ///< of the beat, 0 ... parts - 1
  int parts = 4;
  Seconds late{};  ///< behind its place; negative: ahead of it
};

/// Puts each attack on the nearest part of its beat: fourths of a beat or thirds, whichever the attacks of the passage
/// lie nearer to as a whole. Attacks outside of the grid are left out.
/// @param attacks    rising
/// @param beats      rising
/// @param downbeats  those of `beats` that start a bar
std::vector<PlacedAttack> placeAttacks(std::span<const Seconds> attacks, std::span<const Seconds> beats,
                                       std::span<const Seconds> downbeats);

/// Mean of `late`: positive where the player lays back.
Seconds meanLateness(std::span<const PlacedAttack> placed);

}  // namespace ear
