// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/stream.h"

#include <rubberband/RubberBandStretcher.h>

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

using Stretcher = RubberBand::RubberBandStretcher;

// Near full speed and above, the stretcher has most to do for each second of output and least to change: there it works
// with one window instead of several, which takes a quarter of the time (bench/RESULTS.md).
constexpr double kLightFrom = 0.72;

// Output samples of the music before the cue that the stretcher hears first, so that it starts in full swing.
constexpr double kRunUp = 1024;

}  // namespace

Stream::Stream() {
  for (auto* planes : {&input_, &waste_})
    for (auto& plane : *planes) plane.resize(kChunk);
}

Stream::~Stream() = default;
Stream::Stream(Stream&&) noexcept = default;
Stream& Stream::operator=(Stream&&) noexcept = default;

void Stream::attach(std::shared_ptr<const Recording> recording) {
  recording_ = std::move(recording);
  const auto make = [&](Stretcher::Options window) {
    auto stretcher = std::make_unique<Stretcher>(
        static_cast<std::size_t>(recording_->sampleRate), 2,
        Stretcher::OptionProcessRealTime | Stretcher::OptionEngineFiner | Stretcher::OptionChannelsTogether | window);
    stretcher->setMaxProcessSize(kChunk);
    return stretcher;
  };
  isolator_.attach(recording_);
  fine_ = make(Stretcher::OptionWindowStandard);
  light_ = make(Stretcher::OptionWindowShort);
  // A stretcher that has never run answers a little differently from one that was reset: let each run once.
  for (const double speed : {0.5, 0.95}) {
    cue(0.0, {.speed = speed}, *this);
    prime(kChunk * 16);
  }
  ready_ = false;
}

void Stream::cue(double frame, const PlaybackSettings& sounding, const Stream& before) {
  sounding_ = sounding;
  position_ = frame;
  ready_ = false;
  if (!sounding.stretched()) {
    position_ = std::round(frame);
    fed_ = static_cast<std::int64_t>(position_);
    ready_ = sounding.isolation.plain();
  } else {
    pace_ = std::exp2(sounding.wholeShift().value / 1200.0);
    const double ratio = pace_ / sounding.speed;  // stretched samples to each of the recording
    stretcher_ = (ratio * kLightFrom < 1.0 ? light_ : fine_).get();
    // Ratio first: a reset with the new one gives the same output each time, one before it does not.
    stretcher_->setTimeRatio(ratio);
    stretcher_->reset();
    const auto pad = static_cast<double>(stretcher_->getPreferredStartPad());
    fed_ = static_cast<std::int64_t>(std::floor(frame - pad - kRunUp / ratio));
    discard_ = static_cast<int>(stretcher_->getStartDelay()) +
               static_cast<int>(std::lround((frame - pad - static_cast<double>(fed_)) * ratio));
    if (pace_ != 1.0) {
      resampler_.start(pace_);
      discard_ -= resampler_.reach();
    }
  }
  if (!sounding.isolation.plain()) isolator_.cue(fed_, sounding.isolation, before.isolator_);
}

/// The next samples of what is to be heard of the recording, silence outside of it.
void Stream::read(std::span<float> left, std::span<float> right) {
  if (!sounding_.isolation.plain()) {
    isolator_.read(left, right);
  } else {
    readPart(recording_->left(), fed_, left);
    readPart(recording_->right(), fed_, right);
  }
  fed_ += static_cast<std::int64_t>(left.size());
}

void Stream::feed(int frames) {
  const auto size = static_cast<std::size_t>(frames);
  read(std::span(input_[0]).first(size), std::span(input_[1]).first(size));
  const std::array<const float*, 2> planes{input_[0].data(), input_[1].data()};
  stretcher_->process(planes.data(), size, false);
}

/// Stretched samples. @return how many
int Stream::take(std::span<float> left, std::span<float> right) {
  const int have = std::min(stretcher_->available(), static_cast<int>(left.size()));
  if (have <= 0) return 0;
  const std::array<float*, 2> planes{left.data(), right.data()};
  return static_cast<int>(stretcher_->retrieve(planes.data(), static_cast<std::size_t>(have)));
}

bool Stream::prime(int outputFrames) {
  int budget = outputFrames;
  while (!ready_ && budget > 0) {
    if (!sounding_.isolation.plain() && !isolator_.ready()) {
      isolator_.prime(budget);
      budget /= 2;  // what is left is not known; the next block goes on
    } else if (!sounding_.stretched()) {
      ready_ = true;
    } else if (stretcher_->available() > 0) {
      if (discard_ == 0) {
        ready_ = true;
        break;
      }
      const auto want = static_cast<std::size_t>(std::min(discard_, kChunk));
      discard_ -= take(std::span(waste_[0]).first(want), std::span(waste_[1]).first(want));
    } else {
      feed(kChunk);
      budget -= static_cast<int>(kChunk * pace_ / sounding_.speed);
    }
  }
  return ready_;
}

void Stream::render(std::span<float> left, std::span<float> right) {
  const auto size = static_cast<int>(left.size());
  position_ += size * sounding_.speed;
  if (!sounding_.stretched()) {
    read(left, right);
    return;
  }
  int done = 0;
  while (done < size) {
    const auto at = static_cast<std::size_t>(done);
    int got = 0;
    if (pace_ == 1.0) {
      got = take(left.subspan(at), right.subspan(at));
    } else {
      got = static_cast<int>(resampler_.pull(left.subspan(at), right.subspan(at)));
      if (got == 0) {
        const std::size_t room = std::min<std::size_t>(resampler_.room(), kChunk);
        const auto more =
            static_cast<std::size_t>(take(std::span(waste_[0]).first(room), std::span(waste_[1]).first(room)));
        resampler_.push(std::span(waste_[0]).first(more), std::span(waste_[1]).first(more));
        if (more > 0) continue;
      }
    }
    done += got;
    if (got == 0) feed(kChunk);
  }
}

}  // namespace ear
