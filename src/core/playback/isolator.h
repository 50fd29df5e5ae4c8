// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <complex>
#include <cstdint>
#include <memory>
#include <vector>

#include "core/audio/recording.h"
#include "core/playback/isolation_gains.h"
#include "core/signal/fft.h"

namespace ear {

/// Reads a recording with only what an Isolation keeps, as loud as all of it.
///
/// A Hann STFT whose bins are weighed by where they sit between left and right, by whether they last or strike
/// (median filtering: Fitzgerald 2010) and by their frequency. The level follows the plain sound's by K-weighted energy
/// over the short-term window of EBU R 128 (3 s; EBU Tech 3341), so that isolating changes what is heard and not how
/// loud. The file can be read ahead, so nothing comes late. Neither allocates nor locks after attach(). One thread at a
/// time. Cost: two transforms there and two back for each hop read.
class Isolator {
 public:
  /// Chooses the recording; allocates.
  void attach(std::shared_ptr<const Recording> recording);

  /// The next sample read will be that of `frame`. @param before  what sounded last, perhaps this one:
  /// when it isolated the same, its level goes on
  void cue(std::int64_t frame, const Isolation& isolation, const Isolator& before);

  /// Works towards the first sample, by about `samples` of reading. @return true when it is there
  bool prime(int samples);
  bool ready() const { return made_ > kFirstHop; }

  /// Writes the next samples. @pre ready(), spans of equal size
  void read(std::span<float> left, std::span<float> right);

  /// The factor by which what is kept is raised now.
  double levelGain() const { return gain_; }

 private:
  static constexpr int kReach = 8;                 // hops that the medians look to both sides
  static constexpr int kRing = 2 * kReach + 1;     // spectra kept
  static constexpr int kHistory = 8;               // hops before the first sample that tell its level
  static constexpr int kFirstHop = kHistory + 3;   // the one that completes the first sample
  static constexpr std::size_t kMostLevels = 300;  // hops in three seconds, at the most

  struct Frame {
    std::vector<std::complex<float>> left, right;
    std::vector<float> magnitude;
  };
  struct Level {
    float plain = 0, kept = 0;
  };

  Frame& frameAt(std::int64_t hop) { return frames_[static_cast<std::size_t>((hop + kRing) % kRing)]; }
  void analyse(std::int64_t hop);
  void make(std::int64_t hop);
  void weighParts(std::int64_t hop);
  void followLevel(const Level& level);

  std::shared_ptr<const Recording> recording_;
  Isolation isolation_;
  std::size_t size_ = 0, hop_ = 0;
  std::unique_ptr<RealFft> forward_;
  std::unique_ptr<InverseFft> back_;
  std::vector<float> window_;
  std::array<Frame, kRing> frames_;
  std::vector<float> bands_, loudness_, parts_;
  std::array<std::vector<float>, 2> sum_;  // overlap-add: the first hop of it is complete
  std::array<std::vector<std::complex<float>>, 2> kept_;
  std::int64_t centre_ = 0;                  // frame of the recording in the middle of hop 0
  std::int64_t analysed_ = 0, made_ = 0;     // next hops to do
  std::size_t given_ = 0;                    // samples of the complete hop that were read
  std::array<Level, kMostLevels> levels_{};  // ring over three seconds
  std::size_t levelCount_ = 0, levelAt_ = 0, levelMost_ = 0;
  double plainSum_ = 0, keptSum_ = 0, gain_ = 1.0;
};

/// A part of a recording as it is heard isolated; a plain copy where nothing is. Any thread; allocates the part.
Recording isolatedPart(std::shared_ptr<const Recording> recording, TimeSpan span, const Isolation& isolation);

}  // namespace ear
