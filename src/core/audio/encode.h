// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/audio/recording.h"
#include "core/base/outcome.h"

namespace ear {

/// Writes a recording as 32-bit float WAV (libsndfile).
/// @return a sentence where the file cannot be made or written to the end
Outcome<Done> writeWav(const Recording& recording, const std::filesystem::path& file);

}  // namespace ear
