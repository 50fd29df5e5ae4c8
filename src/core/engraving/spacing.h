// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/engraving/tab_score.h"

namespace ear {

/// Where the moments of a score stand when it is spaced by note values, in units of the distance of two string lines.
///
/// Wider gaps for longer values, but less than in proportion (by the logarithm, after Gould 2011, "Behind Bars", p. 39
/// ff., from memory), and never closer than the numbers need.
class Spacing {
 public:
  explicit Spacing(const TabScore& score);

  /// Of any place; between moments evenly.
  double xOf(Beats at) const;
  /// The other way round; of the nearest moment. @pre the score has anything in it
  Beats nearestTo(double x) const;
  double width() const { return width_; }

 private:
  struct Column {
    Beats at;
    double x;
  };
  std::vector<Column> columns_;
  double width_ = 0.0;
};

}  // namespace ear
