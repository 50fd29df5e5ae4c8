// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/playback/isolator.h"
#include "core/playback/resampler.h"
#include "core/settings/playback_settings.h"

namespace RubberBand {
class RubberBandStretcher;
}

namespace ear {

/// One stereo stream out of a recording from a given frame on, stretched (Rubber Band, finer engine) and shifted by
/// reading what was stretched at another pace; the library's own shifting allocates whenever the pitch changes.
///
/// A stream is cued, primed (the stretcher has to swallow what lies before the first frame), then rendered. Its
/// settings do not change while it sounds: the player cues another stream and crossfades. Neither allocates nor locks
/// after attach(). One thread at a time.
class Stream {
 public:
  Stream();
  ~Stream();
  Stream(Stream&&) noexcept;
  Stream& operator=(Stream&&) noexcept;

  /// Chooses what to play from; allocates. Not while sounding.
  void attach(std::shared_ptr<const Recording> recording);

  /// Forgets what sounded; the next rendered sample will be that of `frame`, which may lie outside of the recording
  /// (silence). @param before  what sounded last, perhaps this stream: its level goes on where it isolates the same
  void cue(double frame, const PlaybackSettings& sounding, const Stream& before);

  /// Works towards readiness, by at most about `outputFrames` of stretching. @return true when ready to render
  bool prime(int outputFrames);
  bool ready() const { return ready_; }

  /// The recording's frame that the next rendered sample belongs to.
  double position() const { return position_; }
  const PlaybackSettings& sounding() const { return sounding_; }

  /// Writes the next samples of both planes, of equal size; only when ready.
  void render(std::span<float> left, std::span<float> right);

 private:
  static constexpr int kChunk = 512;
  void feed(int frames);
  int take(std::span<float> left, std::span<float> right);
  void read(std::span<float> left, std::span<float> right);

  std::shared_ptr<const Recording> recording_;
  std::unique_ptr<RubberBand::RubberBandStretcher> fine_, light_;
  RubberBand::RubberBandStretcher* stretcher_ = nullptr;  // the one of the two that this sounding takes
  Isolator isolator_;
  Resampler resampler_;
  std::array<std::vector<float>, 2> input_;
  std::array<std::vector<float>, 2> waste_;  // takes what is discarded while priming
  PlaybackSettings sounding_;
  double position_ = 0.0;
  std::int64_t fed_ = 0;  // next frame to read
  int discard_ = 0;       // stretched samples still before the cued frame
  double pace_ = 1.0;     // at which what was stretched is read
  bool ready_ = false;
};

}  // namespace ear
