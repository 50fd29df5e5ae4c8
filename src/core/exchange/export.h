// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/lists.h"

namespace ear {

/// A kind of file that a study can be written to.
struct ExportFormat {
  enum class Kind { musicXml, mxl, midi, lilyPond, jams, chordPro, labels, csv, notesCsv };
  Kind kind{};
  std::string_view name;    ///< for the command line: "musicxml"
  std::string_view ending;  ///< ".musicxml"
  std::string_view words;   ///< what it is for, in a few words
  bool notes = false;       ///< it holds written notes, so that there must be a phrase
  bool repeats = false;     ///< it can hold repeat signs
};
std::span<const ExportFormat> exportFormats();
const ExportFormat* exportFormat(std::string_view name);  ///< null for none of that name

/// What of a take is written; empty: all of it.
struct ExportChoice {
  std::string part;      ///< id of a guitar
  std::string phrase;    ///< id
  bool repeats = false;  ///< what is played again at once stands once, between repeat signs
};

/// Writes what is known of a take.
/// @return sentences on what the file could not hold
Outcome<std::vector<std::string>> exportTake(const TakeLists& source, const ExportFormat& format,
                                             const ExportChoice& choice, const std::filesystem::path& file);

}  // namespace ear
