// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/study/study.h"
#include "core/theory/notation_preferences.h"

namespace ear {

struct Findings;

/// The beats of a take: the person's where there are any, else those measured; empty while nothing is known.
Grid gridOf(const Take& take, const Findings* findings);

/// Keeps a grid as the person's. A tempo or metre that was set before follows it.
void decideGrid(Take& take, const Grid& grid, Origin origin, const Evidence& evidence);

/// The usual number of beats in a bar; 4 where there is no whole bar.
int meterOf(const Grid& grid);
/// From the usual distance of the beats; empty with fewer than two.
std::optional<Bpm> tempoOf(const Grid& grid);
/// Times of the beats that start a bar.
std::vector<Seconds> barLines(const Grid& grid);
std::vector<Seconds> beatTimes(const Grid& grid);
/// Bars that start within a span, or a twentieth of a second before it.
int barsIn(const Grid& grid, TimeSpan span);
/// The nearest bar line, or the time itself where there is none within `reach`.
Seconds snapToBar(const Grid& grid, Seconds t, Seconds reach);

/// Where a time lies in its bar.
struct BarPlace {
  int bar = 0;          ///< 1 ...; 0 before the first bar line
  int beat = 1;         ///< 1 ... within the bar
  double within = 0.0;  ///< share of the beat, in [0, 1)
};
/// Empty outside of the grid.
std::optional<BarPlace> barPlaceAt(const Grid& grid, Seconds t);
/// As it is counted: "12: 3 and". The parts of the beat follow the school of counting.
std::string countedAt(const Grid& grid, Seconds t, const NotationPreferences& schools);

/// Where the bars have another length than most: "bars of 3 from 1:02.3 to 1:20.0, one of 2 at 2:05.1"; empty where
/// there is none.
std::string metreWords(const Grid& grid);

/// How the tempo moves.
struct TempoPoint {
  Seconds time;
  Bpm tempo;
};
/// Median over nine beats around each, so that a beat that is a little late makes no bump.
std::vector<TempoPoint> tempoCurve(const Grid& grid);
/// "steady", "drifts between 96 and 103", "slows down at the end to 81".
std::string driftWords(const std::vector<TempoPoint>& curve);

}  // namespace ear
