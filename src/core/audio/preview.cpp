// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/preview.h"

#include "core/audio/media_file.h"

namespace ear {
namespace {

constexpr double kMoment = 0.1;  // seconds

/// Fills the recording with the moment at a time. @return false where there is none
bool readMoment(MediaFile& media, Seconds at, Recording& moment) {
  for (auto& plane : moment.channels) plane.clear();
  if (!media.seek(at)) return false;
  while (moment.frames() == 0 || moment.duration() < Seconds(kMoment))
    if (!media.read(moment)) break;
  return moment.frames() > 0;
}

}  // namespace

Preview previewOf(const std::filesystem::path& file, std::size_t stretches, const std::function<bool(Seconds)>& enough,
                  const Progress& progress) {
  auto media = MediaFile::open(file, progress);
  if (!media || media->declared() <= Seconds(0)) return {};
  const Seconds duration = media->declared(), each = duration / static_cast<double>(stretches);
  Recording moment;
  std::vector<std::vector<Extent>> planes;
  for (std::size_t stride = stretches; stride > 0; stride /= 2)
    // Every second place of this stride has been visited with the one before.
    for (std::size_t i = stride == stretches ? 0 : stride; i < stretches; i += 2 * stride) {
      if (enough(duration)) return {duration, WaveformPyramid(std::move(planes), each)};
      if (!readMoment(*media, each * (static_cast<double>(i) + 0.5), moment)) return {};
      planes.resize(moment.channels.size(), std::vector<Extent>(stretches));
      for (std::size_t c = 0; c < planes.size(); ++c)
        std::fill_n(planes[c].begin() + static_cast<std::ptrdiff_t>(i), stride, extentOf(moment.channels[c]));
    }
  return {duration, WaveformPyramid(std::move(planes), each)};
}

}  // namespace ear
