// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/outcome.h"

namespace ear {

/// What becomes of a file's contents when others take their place.
enum class Before { drop, keep };

/// Where the generation before lies that was kept when `file` was last replaced.
std::filesystem::path generationBefore(const std::filesystem::path& file);

/// Replaces a file's contents all at once: written beside it, flushed to the disk (fsync), read back and compared, then
/// renamed over it, so that a crash, a full or a failing disk leaves the old file whole. Its mode, owner and group are
/// kept where that is allowed, and a link stays a link. A file of several names (hard links) keeps them: it is written
/// in place, once its contents of before and those to come both lie safely beside it.
/// @param before  whether the contents of before are kept beside the file
Outcome<Done> writeDurably(const std::filesystem::path& file, std::string_view contents, Before before = Before::drop);

/// Takes away what writeDurably had begun for `file` when it was killed. Only for whoever may write the file just now.
void sweepLeftovers(const std::filesystem::path& file);

/// The whole file, up to `limit` bytes.
Outcome<std::string> readWhole(const std::filesystem::path& file, std::uintmax_t limit);

}  // namespace ear
