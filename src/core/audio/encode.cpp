// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/encode.h"

#include <sndfile.h>

#include <memory>

#include "core/base/text.h"

namespace ear {

Outcome<Done> writeWav(const Recording& recording, const std::filesystem::path& file) {
  SF_INFO info{};
  info.samplerate = recording.sampleRate;
  info.channels = static_cast<int>(recording.channels.size());
  info.format = SF_FORMAT_WAV | SF_FORMAT_FLOAT;
  const std::unique_ptr<SNDFILE, int (*)(SNDFILE*)> out(sf_open(file.c_str(), SFM_WRITE, &info), sf_close);
  if (!out) return Problem{"“" + shownPath(file) + "” cannot be written: " + sf_strerror(nullptr)};
  std::vector<float> interleaved(recording.frames() * recording.channels.size());
  for (std::size_t c = 0; c < recording.channels.size(); ++c)
    for (std::size_t i = 0; i < recording.frames(); ++i)
      interleaved[i * recording.channels.size() + c] = recording.channels[c][i];
  const auto frames = static_cast<sf_count_t>(recording.frames());
  if (sf_writef_float(out.get(), interleaved.data(), frames) != frames)
    return Problem{"“" + shownPath(file) + "” could not be written whole: " + sf_strerror(out.get())};
  return Done{};
}

}  // namespace ear
