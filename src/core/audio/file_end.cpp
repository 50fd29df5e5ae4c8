// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/file_end.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <fstream>
#include <numeric>
#include <string>
#include <string_view>

namespace ear {
namespace {

constexpr std::size_t kLongestPage = 27 + 255 + 255 * 255;  // bytes of an Ogg page

std::string headOf(const std::filesystem::path& file) {
  std::string head(12, '\0');
  std::ifstream(file, std::ios::binary).read(head.data(), static_cast<std::streamsize>(head.size()));
  return head;
}

/// Four bytes, the first one the most or (with step -1) the least significant.
std::uint32_t sizeAt(std::string_view head, int first, int step) {
  std::uint32_t value = 0;
  for (int i = 0; i < 4; ++i)
    value = value << 8 | static_cast<unsigned char>(head[static_cast<std::size_t>(first + step * i)]);
  return value;
}

bool lastOggPageIsTheLast(const std::filesystem::path& file, std::uintmax_t size) {
  std::ifstream in(file, std::ios::binary);
  const auto length = static_cast<std::size_t>(std::min<std::uintmax_t>(size, 2 * kLongestPage));
  in.seekg(static_cast<std::streamoff>(size - length));
  std::string tail(length, '\0');
  in.read(tail.data(), static_cast<std::streamsize>(length));
  const auto page = tail.rfind("OggS");
  if (page == std::string::npos || page + 27 > tail.size()) return false;
  const bool last = (static_cast<unsigned char>(tail[page + 5]) & 4U) != 0;
  const std::size_t segments = static_cast<unsigned char>(tail[page + 26]);
  if (page + 27 + segments > tail.size()) return false;
  std::size_t end = page + 27 + segments;
  for (std::size_t i = 0; i < segments; ++i) end += static_cast<unsigned char>(tail[page + 27 + i]);
  return last && end <= tail.size();
}

}  // namespace

bool endsBeforeItShould(const std::filesystem::path& file) {
  const std::string head = headOf(file);
  const std::string_view kind(head.data(), 4), form(head.data() + 8, 4);
  std::error_code error;
  const auto size = std::filesystem::file_size(file, error);
  if (error) return false;
  if (kind == "OggS") return !lastOggPageIsTheLast(file, size);
  std::uint32_t said = 0;
  if (kind == "RIFF" && form == "WAVE")
    said = sizeAt(head, 7, -1);
  else if (kind == "FORM" && (form == "AIFF" || form == "AIFC"))
    said = sizeAt(head, 4, 1);
  return said != 0 && said != 0xFFFFFFFFU && said > size;
}

bool beginsAsMp4(const std::filesystem::path& file) {
  return std::string_view(headOf(file)).substr(4, 4) == "ftyp";
}

}  // namespace ear
