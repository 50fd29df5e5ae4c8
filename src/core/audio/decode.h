// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/audio/recording.h"
#include "core/base/outcome.h"
#include "core/base/progress.h"

namespace ear {

/// Reads the sound of an audio or video file with the FFmpeg libraries, at its own sample rate.
///
/// One to eight channels; more than two are folded to stereo. A file that ends early or has unreadable
/// places is opened as far as it goes, which `Recording::notice` then says. Any thread; takes memory for all of it (in
/// a file behind it, where it is long) and goes at the pace of the decoder.
///
/// @return the recording, or a sentence for: no such file, a folder, no permission, an empty file, not a
///         sound file, no sound stream, nothing decodable, nothing but silence, cancelled
Outcome<Recording> decode(const std::filesystem::path& file, const Progress& progress = {});

}  // namespace ear
