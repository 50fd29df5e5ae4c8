// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

namespace ear {

/// Whether a file that says where it should end is shorter than that: WAV and AIFF by the size in their first bytes,
/// Ogg (RFC 3533) by a last page that is whole and marked as the last. Others never are.
bool endsBeforeItShould(const std::filesystem::path& file);

/// Whether it begins as an MP4 file does (ISO/IEC 14496-12: a file type box). Where such a file does not open, its
/// index is missing, which is written last.
bool beginsAsMp4(const std::filesystem::path& file);

}  // namespace ear
