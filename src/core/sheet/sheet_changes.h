// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"

namespace ear {

/// A line of one sheet against another one's.
struct SheetChange {
  enum class Kind { gone, added };
  Kind kind{};
  std::string heading;  ///< the last heading before it; may be empty
  std::string line;
};

/// Which lines of a sheet's text went and which came, in order (longest common subsequence of lines; Hunt & McIlroy
/// 1976). Blank lines and the lines under headings are passed over. Quadratic in the lines, some thousand at the most.
std::vector<SheetChange> changesBetween(const std::string& before, const std::string& after);

/// The number that a sheet with this text has: that of the take's last revision where nothing has changed since, else
/// the next one.
int revisionOf(const Study& study, const std::string& take, const std::string& text);

/// Keeps a sheet that was handed out as a revision, where it differs from the last one. Of each study the last hundred
/// are kept.
/// @param when  local date and time, ISO 8601
void keepRevision(Study& study, const std::string& take, const std::string& text, const std::string& when);

}  // namespace ear
