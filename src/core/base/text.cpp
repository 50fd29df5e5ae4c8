// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"

#include <utf8cpp/utf8.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <iterator>

namespace ear {

std::string fixed(double value, int decimals) {
  std::array<char, 400> buffer{};  // the greatest double has 309 digits
  const auto end =
      std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::fixed, decimals);
  std::string text(buffer.data(), end.ptr);
  if (text.starts_with('-') && text.find_first_of("123456789") == std::string::npos) text.erase(0, 1);
  return text;
}

std::string joined(const std::vector<std::string>& parts, std::string_view between) {
  std::string text;
  for (const auto& part : parts) {
    if (!text.empty()) text += between;
    text += part;
  }
  return text;
}

std::string withSign(double value, int decimals) {
  std::string text = fixed(value, decimals);
  const bool zero = text.find_first_of("123456789") == std::string::npos;
  return value > 0 && !zero ? "+" + text : text;
}

namespace {

/// Windows-1252 where it differs from Latin-1, from 0x80 on; 0 where nothing is assigned
/// (Unicode Consortium, MAPPINGS/VENDORS/MICSFT/WINDOWS/CP1252.TXT).
constexpr std::array<char16_t, 32> kWindows1252 = {0x20AC, 0,      0x201A, 0x0192, 0x201E, 0x2026, 0x2020, 0x2021,
                                                   0x02C6, 0x2030, 0x0160, 0x2039, 0x0152, 0,      0x017D, 0,
                                                   0,      0x2018, 0x2019, 0x201C, 0x201D, 0x2022, 0x2013, 0x2014,
                                                   0x02DC, 0x2122, 0x0161, 0x203A, 0x0153, 0,      0x017E, 0x0178};

bool controls(char c) {
  const auto byte = static_cast<unsigned char>(c);
  return (byte < 0x20 && c != '\t' && c != '\n') || byte == 0x7F;
}

}  // namespace

std::string asUtf8(std::string_view text) {
  std::string out;
  if (utf8::is_valid(text.begin(), text.end())) {
    out = text;
  } else {
    for (const char c : text) {
      const auto byte = static_cast<unsigned char>(c);
      const char16_t known = byte >= 0x80 && byte < 0xA0 ? kWindows1252[byte - 0x80U] : byte;
      utf8::append(static_cast<char32_t>(known != 0 ? known : 0xFFFD), std::back_inserter(out));
    }
  }
  std::replace_if(out.begin(), out.end(), controls, ' ');
  return out;
}

std::string shortened(std::string text, std::size_t bytes) {
  constexpr std::string_view kEllipsis = "…";
  if (text.size() <= bytes) return text;
  std::size_t end = bytes - std::min(bytes, kEllipsis.size());
  while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80U) --end;
  text.resize(end);
  return text.append(kEllipsis);
}

std::string shownPath(const std::filesystem::path& path) {
  constexpr const char* kHex = "0123456789ABCDEF";
  const std::string& bytes = path.native();
  std::string out;
  for (auto at = bytes.begin(); at != bytes.end();) {
    const auto bad = utf8::find_invalid(at, bytes.end());
    out.append(at, bad);
    at = bad;
    if (at == bytes.end()) break;
    const auto byte = static_cast<unsigned char>(*at++);
    out += {'%', kHex[byte >> 4], kHex[byte & 15]};
  }
  std::replace_if(out.begin(), out.end(), controls, ' ');
  return out;
}

namespace {
std::string clock(long long units, long long perSecond) {
  const long long seconds = units / perSecond;
  const auto two = [](long long n) { return (n < 10 ? "0" : "") + std::to_string(n); };
  std::string text =
      seconds >= 3600 ? std::to_string(seconds / 3600) + ":" + two(seconds / 60 % 60) : std::to_string(seconds / 60);
  text += ":" + two(seconds % 60);
  if (perSecond == 10) text += "." + std::to_string(units % 10);
  return text;
}
}  // namespace

std::string clockTime(Seconds time) {
  return clock(static_cast<long long>(std::max(0.0, time.value)), 1);
}

std::string clockTenths(Seconds time) {
  return clock(std::llround(std::max(0.0, time.value) * 10), 10);
}

}  // namespace ear
