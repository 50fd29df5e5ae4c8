// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/outcome.h"
#include "core/study/study.h"

namespace ear {

/// A time with words: a section, a passage or a cue.
struct Jump {
  TimeSpan span;  ///< start = end for a spot
  std::string label;
  bool operator==(const Jump&) const = default;
};

/// Whether it is a place rather than a stretch.
bool isSpot(const Jump& jump);

/// Sections, passages and cues of a take by time.
std::vector<Jump> jumpsOf(const Study& study, const Take& take, const Form& form);

enum class JumpFormat {
  text,    ///< "0:07.3 to 0:22.1  verse", "0:21.5  a spot", to a tenth of a second
  csv,     ///< start_s,end_s,label with a heading; labels in quotes where needed (RFC 4180)
  labels,  ///< start, end, label by tabs, in seconds
};
std::string writeJumps(const std::vector<Jump>& jumps, JumpFormat format);

/// Reads any of the formats; which one is told from the lines. Text that is no UTF-8 is read as Windows-1252.
/// @return what is wrong, with the line's number
Outcome<std::vector<Jump>> readJumps(std::string_view text);

/// A form out of spans: those that follow each other make sections, gaps go to the one before, and what starts within
/// a span (a passage) is left out.
/// @param jumps  rising, as readJumps gives them
/// @return empty where there are no spans
Form formOfJumps(const std::vector<Jump>& jumps, Seconds duration);

}  // namespace ear
