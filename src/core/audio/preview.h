// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>

#include "core/audio/waveform_pyramid.h"
#include "core/base/progress.h"

namespace ear {

/// What a recording looks like from afar, before all of it is decoded.
struct Preview {
  Seconds duration;  ///< that the file says it has
  WaveformPyramid envelope;
};

/// Decodes a moment of each of `stretches` equal stretches. They are visited in an order that halves the gaps, so that
/// a glance that is cut short shows all of the recording, coarser.
/// @param stretches  a power of two
/// @param enough     asked before each moment with the duration; true ends the glance
/// @return an empty envelope where the file does not open, does not say its length or cannot be gone to places of
Preview previewOf(const std::filesystem::path& file, std::size_t stretches, const std::function<bool(Seconds)>& enough,
                  const Progress& progress = {});

}  // namespace ear
