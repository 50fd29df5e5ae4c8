// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"

namespace ear {

/// A stretch of a take that was kept: a section of its form, a passage, a phrase that is written down.
struct KeptSpan {
  enum class Kind { section, passage, phrase };
  Kind kind = Kind::passage;
  std::string id{};  ///< of the passage or the phrase; of a section its place in the form
  TimeSpan span{};
  int depth = 0;  ///< 0: in nothing
  bool operator==(const KeptSpan&) const = default;
};

/// All of them in one order: by time, what contains another before it, and so deep as it lies within others. Sections
/// that hold nothing kept are left out. Edges may miss each other by a tenth of a second.
std::vector<KeptSpan> keptTree(const Study& study, const std::string& take, const Form& form);

/// Sections for which no phrase is written, in order.
Form unwrittenSections(const Study& study, const std::string& take, const Form& form);

}  // namespace ear
