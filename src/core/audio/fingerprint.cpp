// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/fingerprint.h"

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

#include <array>
#include <fstream>
#include <memory>
#include <vector>

#include "core/base/text.h"

namespace ear {

Outcome<std::string> contentHash(const std::filesystem::path& file, const Progress& progress) {
  std::ifstream in(file, std::ios::binary);
  if (!in) return Problem{"“" + shownPath(file) + "” cannot be read."};
  const std::unique_ptr<AVSHA, void (*)(void*)> sha(av_sha_alloc(), av_free);
  av_sha_init(sha.get(), 256);
  std::vector<char> block(1 << 20);
  while (in) {
    if (progress.cancelled()) return Problem{"Reading “" + shownPath(file.filename()) + "” was cancelled."};
    in.read(block.data(), static_cast<std::streamsize>(block.size()));
    av_sha_update(sha.get(), reinterpret_cast<const uint8_t*>(block.data()), static_cast<std::size_t>(in.gcount()));
  }
  std::array<uint8_t, 32> digest{};
  av_sha_final(sha.get(), digest.data());
  constexpr const char* kHex = "0123456789abcdef";
  std::string text;
  for (const uint8_t byte : digest) text += kHex[byte >> 4], text += kHex[byte & 15];
  return text;
}

}  // namespace ear
