// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/outcome.h"
#include "core/sheet/sheet.h"

namespace ear {

/// What is drawn rather than written: "pdf" and "html" are the sheet, "svg" and "png" pictures of parts of it. Needs no
/// display.
struct DrawnRequest {
  std::string format;
  std::string picture = "phrases";  ///< of pictureKinds()
  std::string part, phrase;         ///< ids, or empty
  bool letter = false;              ///< paper; A4 otherwise
  std::filesystem::path output;
};
std::vector<std::string> pictureNames();
Outcome<Done> draw(const SheetSource& source, const DrawnRequest& request);

}  // namespace ear
