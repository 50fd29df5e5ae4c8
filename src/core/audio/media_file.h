#pragma once

#include <cstdint>
#include <filesystem>
#include <memory>

#include "core/audio/recording.h"
#include "core/outcome.h"

namespace ear {

/// The sound of a file as the FFmpeg libraries read it: packet after packet, with places that can be gone to.
class MediaFile {
 public:
  /// @return a sentence for: no such file, a folder, no permission, an empty file, not a sound file, no sound stream,
  ///         more than eight channels, a strange sample rate, nothing that decodes it
  static Outcome<MediaFile> open(const std::filesystem::path& file);

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

  float peak() const;    ///< greatest absolute sample so far
  bool damaged() const;  ///< something could not be read, or was no number

 private:
  struct Parts;
  explicit MediaFile(std::unique_ptr<Parts> parts);
  std::unique_ptr<Parts> parts_;
};

}  // namespace ear
