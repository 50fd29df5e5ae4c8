// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

extern "C" {
#include <libavutil/frame.h>
#include <libswresample/swresample.h>
}

#include <memory>
#include <span>

#include "core/audio/recording.h"

namespace ear {

/// Frees what FFmpeg allocated.
template <auto Free>
struct MediaDeleter {
  template <class T>
  void operator()(T* p) const {
    Free(&p);
  }
};

/// Converts decoded frames to planar float with at most two channels and one sample rate.
class FrameFold {
 public:
  /// Appends a frame (or, with null, what the resampler still holds) to the recording.
  /// @return false where the frame cannot be converted
  bool append(const AVFrame* frame, Recording& out);

  float peak() const { return peak_; }           ///< greatest absolute sample so far
  bool metUnreal() const { return metUnreal_; }  ///< some samples were no numbers

 private:
  void check(std::span<float> samples);
  bool matches(const AVFrame& frame) const;
  bool configure(const AVFrame& frame, Recording& out);

  std::unique_ptr<SwrContext, MediaDeleter<swr_free>> swr_;
  int format_ = -1, rate_ = 0, channels_ = 0;
  float peak_ = 0.0F;
  bool metUnreal_ = false;
};

}  // namespace ear
