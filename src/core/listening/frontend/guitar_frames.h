// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/base/progress.h"
#include "core/base/units.h"
#include "core/listening/frontend/spectra.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// What the note activations of guitars are worked out from: magnitudes on a logarithmic axis of three bins a semitone,
/// tuned to the recording, each frame in three planes. bench/fit/activation_frames.py makes the same.
struct GuitarFrames {
  static constexpr int kLowestMidi = 24, kHighestMidi = 120, kBinsPerSemitone = 3;
  static constexpr int kBins = (kHighestMidi - kLowestMidi) * kBinsPerSemitone + 1;
  enum class Plane { middle, sides, middleShort };  ///< left and right together; their difference; short windows
  static constexpr int kPlanes = 3;
  static constexpr std::size_t kHop = 1024;                       ///< samples at kListeningRate
  static constexpr double kRate = double{kListeningRate} / kHop;  ///< frames a second

  FrameClock clock;
  std::vector<float> levels;  ///< frames x kPlanes x kBins, log (1 + 3 magnitude / mean magnitude of the middle)

  std::size_t count() const { return levels.size() / (kPlanes * kBins); }
  std::span<const float> frame(std::size_t i, Plane plane) const {
    return std::span(levels).subspan((i * kPlanes + static_cast<std::size_t>(plane)) * kBins, kBins);
  }
};

/// Hann windows of 8192 and 2048 samples at 22 050 Hz, a frame each 1024, summed into triangles a third of a semitone
/// to either side. Linear in the length.
/// @param tuning  offset of the recording from A 440
/// @return nothing where it was cancelled
GuitarFrames measureGuitarFrames(const Recording& recording, Cents tuning, const Progress& progress);

}  // namespace ear
