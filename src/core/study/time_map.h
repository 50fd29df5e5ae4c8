// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "core/base/rational.h"
#include "core/base/units.h"
#include "core/study/study.h"

namespace ear {

/// Between beats as they are written and seconds as they sound.
///
/// Beats are counted from the first bar line (0); those of a pickup are negative. Between two beats of the grid time
/// runs evenly, but for swing: pairs are written straight and sound long and short. Before the first and after the last
/// beat it goes on at the tempo of the beats next to it, so that what begins before the grid has a place as well. Bars
/// are as long as the grid says, each by itself; the map follows whatever the grid does: odd bars, drift, a
/// ritardando.
///
/// Both ways are monotonic and inverse to each other. Cost: a binary search.
class TimeMap {
 public:
  /// Without beats: empty.
  TimeMap() = default;
  /// @param grid  rising; with fewer than two beats the map is empty. Without bar lines its first beat starts bar 1
  TimeMap(const Grid& grid, const Swing& swing);

  bool empty() const { return times_.empty(); }

  /// @pre not empty
  Seconds timeAt(Beats written) const;
  /// The place as it is written, swing undone. @pre not empty
  double beatsAt(Seconds t) const;
  /// The nearest place on a raster of so many parts of a beat. @pre not empty, parts > 0
  Beats nearest(Seconds t, int parts) const;

  /// A place counted in bars.
  struct Anchor {
    int bar = 1;   ///< 1 ...; 0 the pickup
    Beats within;  ///< from the start of the bar, from 0 on; in a pickup up to 0 and negative
    bool operator==(const Anchor&) const = default;
  };
  /// Beats after the last bar line belong to the last bar. @pre not empty
  Anchor placeOf(Beats written) const;
  /// Empty where there is no such bar.
  std::optional<Beats> beatsOf(const Anchor& place) const;
  int bars() const { return static_cast<int>(bars_.size()); }
  /// Of bar 1 ... bars(). The last one is taken to be as long as the one before it, where the grid ends in it.
  Beats lengthOf(int bar) const;

 private:
  /// Share of a beat as it sounds, and as it is written.
  double sounding(double written) const;
  double written(double sounding) const;

  std::vector<Seconds> times_;      // of the beats
  std::vector<std::int64_t> bars_;  // beat, counted from the first bar line, that starts each
  std::int64_t first_ = 0;          // times_[0] is this beat: 0, or negative with a pickup
  Swing swing_;
};

}  // namespace ear
