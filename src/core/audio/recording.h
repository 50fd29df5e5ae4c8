// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <string>
#include <vector>

#include "core/audio/samples.h"
#include "core/base/units.h"

namespace ear {

/// Decoded sound: one or two planes of samples at the file's own rate, full scale at +-1. Once made it is shared as
/// const and read from any thread.
struct Recording {
  int sampleRate = 0;             ///< Hz
  std::vector<Samples> channels;  ///< one plane (mono) or two (left, right), of equal length
  std::string notice;             ///< a sentence when not all of the file could be read, else empty

  std::size_t frames() const { return channels.empty() ? 0 : channels.front().size(); }
  Seconds duration() const { return Seconds(static_cast<double>(frames()) / sampleRate); }
  // @pre there is a plane
  std::span<const float> left() const { return channels.front(); }
  std::span<const float> right() const { return channels.back(); }
};

/// Whether left and right cancel each other, as where one of them is inverted: their mean has next to nothing of them.
bool sidesCancel(const Recording& recording);

/// The mean of left and right; the left side alone where the two cancel.
Samples mixToMono(const Recording& recording);

/// The samples of one of its planes within a span, which is clipped to the recording.
std::span<const float> partOf(const Recording& recording, std::span<const float> plane, TimeSpan span);

/// As evict() of samples, for a part of a recording.
void evict(const Recording& recording, TimeSpan span);

/// A copy of a part; the span is clipped to the recording.
Recording excerpt(const Recording& recording, TimeSpan span);

}  // namespace ear
