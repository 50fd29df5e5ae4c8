// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>

#include "core/study/grid.h"

namespace ear {

// Edits of a grid. Each keeps beats rising in time and changes nothing where it makes no sense.

/// Every second beat, the first bar line among them; bars keep their number of beats.
void halveTempo(Grid& grid);
/// A beat between each two; bars keep their number of beats.
void doubleTempo(Grid& grid);
/// Bar lines so many beats later.
void shiftBars(Grid& grid, int beats);
/// Bars of so many beats from the first bar line on.
void setMeter(Grid& grid, int meter);
/// Makes the beat at `index` the first of a bar: bar lines from it on are counted anew, up to the next fixed one.
void startBarAt(Grid& grid, std::size_t index);

/// What the neighbours of a bar line do when it is moved.
enum class Neighbours { stay, follow };
/// Moves a beat. With `follow` the beats between the bar lines on both sides spread evenly, like a rubber band.
/// It stays between its neighbours, and counts as fixed.
void moveBeat(Grid& grid, std::size_t index, Seconds to, Neighbours neighbours);

/// Marks the beats of a stretch as right, or lets go of them.
void fixBeats(Grid& grid, TimeSpan span, bool fixed);

/// Beats out of taps: uneven fingers are smoothed by a running straight line over five of them.
/// @return empty with fewer than four taps
std::vector<Seconds> smoothTaps(std::span<const Seconds> taps);

/// Puts tapped beats in place of those of their stretch. What lay outside stays.
/// @param firstOfBar  the tap that starts a bar
void placeTaps(Grid& grid, std::span<const Seconds> beats, int meter, std::size_t firstOfBar = 0);

/// A grid of `beats` in which the fixed beats of `old` stand as they are; bars are counted on from the fixed bar
/// lines.
Grid aroundFixed(const Grid& old, std::span<const Seconds> beats, int meter);

}  // namespace ear
