#pragma once

#include <filesystem>
#include <string>
#include <string_view>

#include "core/outcome.h"

namespace ear {

/// Replaces a file's contents all at once: written beside it, flushed to the disk (fsync), then renamed over it, so
/// that a crash or a full disk leaves the old file whole.
Outcome<Done> writeDurably(const std::filesystem::path& file, std::string_view contents);

/// The whole file, up to `limit` bytes.
Outcome<std::string> readWhole(const std::filesystem::path& file, std::uintmax_t limit);

}  // namespace ear
