// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/engraving/tab_score.h"

namespace ear {

/// What plain tab says besides the numbers.
struct TabTextLook {
  std::vector<std::string> strings{};                   ///< what they are called, the lowest first
  std::vector<int> bars{};                              ///< numbers of the score's bar lines
  std::vector<std::pair<Beats, std::string>> chords{};  ///< over the strings
  std::size_t width = 76;                               ///< characters of a line, at least 20
};

/// A score as lines of characters that line up in any face of one width: bar numbers and chords, a row of bends, the
/// strings from the highest down, counts. Within a number's place: h and p lead to it, / and \ slide, ~ shakes, ^1/2
/// over it bends by half a tone, v lets down, = before the stroke. ASCII but for names of strings and chords. Lines are
/// broken at bar lines, or within a bar that is longer than a line. A blank line parts two systems.
std::vector<std::string> tabText(const TabScore& score, const TabTextLook& look);

/// What the signs mean, for those that a score has: "^1 bend by a tone, h hammer-on"; empty where there are none.
std::string tabTextLegend(const TabScore& score);

/// Characters as a reader sees them: continuation bytes of UTF-8 do not count.
std::size_t charactersOf(const std::string& text);

}  // namespace ear
