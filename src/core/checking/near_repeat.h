// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/phrase/phrase.h"

namespace ear {

/// Ids of notes that the other line has not so: at the same place from its start, on the same string and fret, with the
/// same bend.
std::vector<int> differingFrom(std::span<const Note> own, std::span<const Note> other);

/// Another phrase of the take that is written nearly or quite like this one, without being linked to it.
struct NearRepeat {
  std::string other{};           ///< id
  std::vector<int> differing{};  ///< ids of this phrase's notes that the other one has not so
  int missing = 0;               ///< notes of the other one that this one has not
  bool operator==(const NearRepeat&) const = default;
};

/// Finds the phrase that is most like this one: at least three of four notes at the same place in the phrase on the
/// same string and fret with the same bend, and as many of the other's. Repeats differ in small ways, and where they
/// were meant to be the same the difference is a slip: both should be looked at side by side.
/// @param guitar  decides where notes of linked phrases lie
std::optional<NearRepeat> nearRepeat(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar);

}  // namespace ear
