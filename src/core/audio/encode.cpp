// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/encode.h"

#include <sndfile.h>

#include <algorithm>
#include <memory>
#include <utility>
#include <vector>

#include "core/base/text.h"

namespace ear {

namespace {

using SoundFile = std::unique_ptr<SNDFILE, int (*)(SNDFILE*)>;

SoundFile opened(const Recording& recording, const std::filesystem::path& file, int format) {
  SF_INFO info{};
  info.samplerate = recording.sampleRate;
  info.channels = static_cast<int>(recording.channels.size());
  info.format = format;
  return {sf_open(file.c_str(), SFM_WRITE, &info), sf_close};
}

/// In parts: the library's Vorbis encoder takes its memory from the stack.
bool writeAll(SNDFILE* out, const Recording& recording) {
  constexpr std::size_t kPart = 4096;
  const std::size_t width = recording.channels.size();
  std::vector<float> interleaved(kPart * width);
  for (std::size_t from = 0; from < recording.frames(); from += kPart) {
    const std::size_t count = std::min(kPart, recording.frames() - from);
    for (std::size_t c = 0; c < width; ++c)
      for (std::size_t i = 0; i < count; ++i) interleaved[i * width + c] = recording.channels[c][from + i];
    if (sf_writef_float(out, interleaved.data(), static_cast<sf_count_t>(count)) != static_cast<sf_count_t>(count))
      return false;
  }
  return true;
}

int formatFor(const std::filesystem::path& file) {
  const auto ending = file.extension();
  return ending == ".flac"  ? SF_FORMAT_FLAC | SF_FORMAT_PCM_16
         : ending == ".ogg" ? SF_FORMAT_OGG | SF_FORMAT_VORBIS
         : ending == ".wav" ? SF_FORMAT_WAV | SF_FORMAT_PCM_16
                            : 0;
}

Outcome<Done> write(const Recording& recording, const std::filesystem::path& file, int format, const SoundTags& tags) {
  SoundFile out = opened(recording, file, format);
  if (!out) return Problem{"“" + shownPath(file) + "” cannot be written: " + sf_strerror(nullptr)};
  for (const auto& [kind, text] :
       {std::pair{SF_STR_TITLE, tags.title}, {SF_STR_ALBUM, tags.album}, {SF_STR_COMMENT, tags.comment}})
    if (!text.empty()) sf_set_string(out.get(), kind, text.c_str());
  if (!writeAll(out.get(), recording))
    return Problem{"“" + shownPath(file) + "” could not be written whole: " + sf_strerror(out.get())};
  return Done{};
}

}  // namespace

Outcome<Done> writeWav(const Recording& recording, const std::filesystem::path& file) {
  return write(recording, file, SF_FORMAT_WAV | SF_FORMAT_FLOAT, {});
}

Outcome<Done> writeSound(const Recording& recording, const std::filesystem::path& file, const SoundTags& tags) {
  const int format = formatFor(file);
  if (format == 0) return Problem{"“" + shownPath(file) + "” has to end in .flac, .ogg or .wav."};
  std::filesystem::path draft = file;
  draft += ".part";
  std::error_code error;
  auto done = write(recording, draft, format, tags);
  if (done) std::filesystem::rename(draft, file, error);
  if (!done || error) {
    std::error_code ignored;
    std::filesystem::remove(draft, ignored);
    if (done) return Problem{"“" + shownPath(file) + "” cannot be written: " + error.message()};
  }
  return done;
}

}  // namespace ear
