// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <span>

namespace ear {

/// Energy between left and right, for a picture.
struct StereoPicture {
  static constexpr std::size_t kPlaces = 61;
  std::array<float, kPlaces> level{};  ///< by place from hard left to hard right; the strongest is 1
  float loudest = 0.0F;                ///< RMS of the window, full scale 1
};

/// Of about a tenth of a second around a frame.
/// Any thread; one transform of each side.
/// @param left, right  samples of a whole recording, of equal length; silence lies outside
StereoPicture stereoPictureAt(std::span<const float> left, std::span<const float> right, std::int64_t frame);

}  // namespace ear
