// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/base/outcome.h"
#include "core/base/progress.h"

namespace ear {

/// SHA-256 (FIPS 180-4) of a file's bytes as 64 lower-case hex digits: tells that a moved file is the same one.
/// Reads all of it. @return a sentence where it cannot be read, or when cancelled
Outcome<std::string> contentHash(const std::filesystem::path& file, const Progress& progress = {});

}  // namespace ear
