// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>
#include <vector>

#include "core/audio/recording.h"
#include "core/base/outcome.h"
#include "core/base/progress.h"

namespace ear {

/// The sound of a file as the FFmpeg libraries read it: packet after packet, with places that can be gone to.
///
/// Only what is a recording is opened: a fixed list of containers and codecs, from this one file, which cannot have
/// others opened for it. Pictures are never decoded.
class MediaFile {
 public:
  /// What of the sound could not be had.
  struct Losses {
    std::vector<TimeSpan> missing{};  ///< silence stands there instead, so that later times are right
    std::vector<Seconds> damaged{};   ///< places where something is broken; times after them may be off
    bool joined = false;              ///< several recordings, one behind the other
    bool unreal = false;              ///< samples that were no numbers
  };

  /// @param progress  cancelling it ends open() and read() wherever they are; it must outlive the file
  /// @return a sentence for: no such file, a folder, no permission, an empty file, not a sound file, an MP4 without
  ///         its index, no sound stream, more than eight channels, a strange sample rate, nothing that decodes it,
  ///         cancelled
  static Outcome<MediaFile> open(const std::filesystem::path& file, const Progress& progress);

  MediaFile(MediaFile&&) noexcept;
  MediaFile& operator=(MediaFile&&) noexcept;
  ~MediaFile();

  /// Seconds the file says it is long; 0 when it does not say.
  Seconds declared() const;
  /// Decodes the next packet and appends it, at most two channels at the file's own rate. @return false at the end,
  /// when everything has been appended
  bool read(Recording& to);
  /// Goes on near a time. @return false where the file does not allow that
  bool seek(Seconds to);

  float peak() const;  ///< greatest absolute sample so far
  Losses losses() const;

 private:
  struct Parts;
  explicit MediaFile(std::unique_ptr<Parts> parts);
  std::unique_ptr<Parts> parts_;
};

}  // namespace ear
