// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/study/parts.h"
#include "core/study/study.h"

namespace ear {

/// A bar of the recording with what sounds in it.
struct FormBar {
  int number = 1;
  TimeSpan span;
  std::vector<ShownChord> chords{};  ///< in order; the first one may have begun before
};

/// A section with the bars that start in it.
struct FormBars {
  Section section;
  std::vector<FormBar> bars{};
};

/// The chords of the form in bars. A chord is in each bar in which it sounds for more than 80 ms, and a bar belongs to
/// a section that starts up to 80 ms behind its line: by hand and by ear nothing lies on the line to the sample.
/// @param form    without sections the whole recording is one
/// @param grid    without bar lines nothing comes of it
/// @param end     of the recording, where the last bar ends at the latest
std::vector<FormBars> barsOfForm(const Form& form, const Grid& grid, Seconds end,
                                 const std::vector<ShownChord>& chords);

}  // namespace ear
