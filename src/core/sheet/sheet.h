// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/study/brief.h"
#include "core/study/study.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// A lesson sheet as a list of blocks; printing and plain text are two ways to set it.
struct SheetBlock {
  enum class Kind {
    title,
    subtitle,
    heading,
    paragraph,
    table,      ///< `rows`, the first one being the head
    passage,    ///< `text` is its name, `rows[0]` its times and settings
    monospace,  ///< `text` as typed
  };
  Kind kind;
  std::string text;
  std::vector<std::vector<std::string>> rows;
};

using Sheet = std::vector<SheetBlock>;

/// The brief in plain words, how to tune, the form with times to a tenth of a second, and the passages of one take.
/// @param findings  what was measured on the take, or null
Sheet layOutSheet(const Study& study, const Take& take, const Findings* findings,
                  const NotationPreferences& schools = {});

/// The sheet as UTF-8 text, lines of at most 78 characters except in passages.
std::string sheetText(const Sheet& sheet);

}  // namespace ear
