// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/audio/recording.h"
#include "core/base/outcome.h"

namespace ear {

/// Writes a recording as 32-bit float WAV (libsndfile).
/// @return a sentence where the file cannot be made or written to the end
Outcome<Done> writeWav(const Recording& recording, const std::filesystem::path& file);

struct SoundTags {
  std::string title, album, comment;
};

/// Writes a recording to be given away, by the ending of its name: .flac and .wav with 16 bits, .ogg as Vorbis (all by
/// libsndfile), with tags where the kind has them. What stood there before is kept until the new one is whole.
/// @return a sentence where it cannot be made, or the ending is another one
Outcome<Done> writeSound(const Recording& recording, const std::filesystem::path& file, const SoundTags& tags);

}  // namespace ear
