// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/frame_fold.h"

extern "C" {
#include <libavutil/channel_layout.h>
}

#include <algorithm>
#include <array>
#include <cmath>

namespace ear {

bool FrameFold::append(const AVFrame* frame, Recording& out) {
  if (frame != nullptr && !matches(*frame)) {
    if (swr_ != nullptr && !append(nullptr, out)) return false;
    if (!configure(*frame, out)) return false;
  }
  if (swr_ == nullptr) return true;
  const int have = frame != nullptr ? frame->nb_samples : 0;
  const int room = swr_get_out_samples(swr_.get(), have);
  if (room <= 0) return true;
  const std::size_t before = out.frames();
  std::array<uint8_t*, 2> planes{};
  for (std::size_t c = 0; c < out.channels.size(); ++c) {
    out.channels[c].resize(before + static_cast<std::size_t>(room));
    planes[c] = reinterpret_cast<uint8_t*>(out.channels[c].data() + before);
  }
  const uint8_t** input = frame != nullptr ? const_cast<const uint8_t**>(frame->extended_data) : nullptr;
  const int got = swr_convert(swr_.get(), planes.data(), room, input, have);
  for (auto& plane : out.channels) {
    plane.resize(before + static_cast<std::size_t>(std::max(got, 0)));
    check(std::span(plane).subspan(before));
  }
  return got >= 0;
}

/// Samples that are no numbers (a damaged float file) would poison every measurement.
void FrameFold::check(std::span<float> samples) {
  for (float& s : samples) {
    if (!std::isfinite(s)) s = 0.0F, metUnreal_ = true;
    peak_ = std::max(peak_, std::abs(s));
  }
}

bool FrameFold::matches(const AVFrame& f) const {
  return swr_ != nullptr && f.format == format_ && f.sample_rate == rate_ && f.ch_layout.nb_channels == channels_;
}

bool FrameFold::configure(const AVFrame& frame, Recording& out) {
  if (out.sampleRate == 0) {
    out.sampleRate = frame.sample_rate;
    out.channels.resize(frame.ch_layout.nb_channels == 1 ? 1 : 2);
  }
  AVChannelLayout to{}, from{};
  av_channel_layout_default(&to, static_cast<int>(out.channels.size()));
  if (frame.ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
    av_channel_layout_default(&from, frame.ch_layout.nb_channels);
  else
    av_channel_layout_copy(&from, &frame.ch_layout);
  SwrContext* fresh = nullptr;
  const int made = swr_alloc_set_opts2(&fresh, &to, AV_SAMPLE_FMT_FLTP, out.sampleRate, &from,
                                       static_cast<AVSampleFormat>(frame.format), frame.sample_rate, 0, nullptr);
  swr_.reset(fresh);
  av_channel_layout_uninit(&from);
  if (made < 0 || swr_init(swr_.get()) < 0) {
    swr_.reset();
    return false;
  }
  format_ = frame.format;
  rate_ = frame.sample_rate;
  channels_ = frame.ch_layout.nb_channels;
  return true;
}

}  // namespace ear
