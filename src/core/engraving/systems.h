// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/engraving/tab_score.h"

namespace ear {

/// A line of a score on paper.
struct TabSystem {
  TabScore score;
  std::size_t firstBar = 0;  ///< its first bar line among those of the whole score
};

/// What of a score lies in [from, to), with the bar lines at both ends. What leads on to the next line, or comes from
/// the one before, is drawn up to the edge.
TabSystem partOf(const TabScore& score, Beats from, Beats to);

/// The same score so many beats later.
TabScore shifted(TabScore score, Beats by);

/// What several scores in one count of beats need of room together: their moments and bar lines.
TabScore merged(std::span<const TabScore* const> scores);

/// Breaks a score into lines at its bar lines, so that all are filled about alike: of all ways to break it the one with
/// the least squared stretching (after Knuth & Plass 1981, "Breaking paragraphs into lines", without their penalties).
/// A bar that is longer than a line is broken at a beat.
/// @param width  of a line, in distances of two strings; > 0
std::vector<TabSystem> systemsOf(const TabScore& score, double width);

}  // namespace ear
