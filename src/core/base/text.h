// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// 125.44 s -> "2:05"; from an hour on "1:02:05". Negative times count as 0.
std::string clockTime(Seconds time);

/// 125.44 s -> "2:05.4", the form in which sheets cite times.
std::string clockTenths(Seconds time);

/// A number with a fixed count of decimals and a dot, whatever the locale; never "-0.0".
std::string fixed(double value, int decimals);

/// The text as UTF-8: unchanged where it is, else read as Windows-1252, as old tags and label files are written.
/// Characters of control other than tab and line feed become spaces, so that no view draws them.
std::string asUtf8(std::string_view text);

/// The text, or its beginning with an ellipsis where it has more than `bytes` bytes; never cut within a character.
std::string shortened(std::string text, std::size_t bytes);

/// A path or file name as it can be shown: bytes that are no UTF-8 stand as %E9.
std::string shownPath(const std::filesystem::path& path);

/// "a, b, c" with `between` as ", ".
std::string joined(const std::vector<std::string>& parts, std::string_view between);

/// A number with its sign: "+12", "-7.5", and "0" without one.
std::string withSign(double value, int decimals);

}  // namespace ear
