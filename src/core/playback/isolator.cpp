// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/isolator.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr double kShortTerm = 3.0;                    // seconds: EBU Tech 3341
constexpr double kMostGain = 8.0, kLeastGain = 0.25;  // +18 and -12 dB: what is hardly there is not blown up
constexpr Hertz kBassTop{250.0};                      // of what bassUp keeps: above the open fourth string's octave
constexpr int kHopCost = 192;                         // of one hop while priming, in samples of stretching
constexpr int kTaps = 2 * 8 + 1;                      // of both medians (Fitzgerald 2010 takes 17)

float medianOf(std::array<float, kTaps>& values) {
  std::nth_element(values.begin(), values.begin() + kTaps / 2, values.end());
  return values[kTaps / 2];
}

}  // namespace

void Isolator::attach(std::shared_ptr<const Recording> recording) {
  recording_ = std::move(recording);
  size_ = recording_->sampleRate > 50000 ? 8192 : 4096;
  hop_ = size_ / 4;
  forward_ = std::make_unique<RealFft>(size_);
  back_ = std::make_unique<InverseFft>(size_);
  window_ = hannWindow(size_);
  for (float& w : window_) w = std::sqrt(w);
  const std::size_t bins = size_ / 2 + 1;
  for (Frame& f : frames_) {
    f.left.assign(bins, {});
    f.right.assign(bins, {});
    f.magnitude.assign(bins, 0.0F);
  }
  for (auto& k : kept_) k.assign(bins, {});
  for (auto& s : sum_) s.assign(size_, 0.0F);
  bands_.assign(bins, 1.0F);
  parts_.assign(bins, 1.0F);
  loudness_.resize(bins);
  for (std::size_t k = 0; k < bins; ++k)
    loudness_[k] = static_cast<float>(
        loudnessWeight(Hertz(static_cast<double>(k) * recording_->sampleRate / static_cast<double>(size_))));
  levelMost_ =
      std::min(kMostLevels, static_cast<std::size_t>(kShortTerm * recording_->sampleRate / static_cast<double>(hop_)));
}

void Isolator::cue(std::int64_t frame, const Isolation& isolation, const Isolator& before) {
  if (before.isolation_ == isolation) {
    if (this != &before) {
      levels_ = before.levels_;
      levelCount_ = before.levelCount_, levelAt_ = before.levelAt_;
      plainSum_ = before.plainSum_, keptSum_ = before.keptSum_;
    }
  } else {
    levelCount_ = levelAt_ = 0;
    plainSum_ = keptSum_ = 0;
  }
  isolation_ = isolation;
  Isolation band = isolation;
  if (band.bassUp) band.highCut = band.highCut > Hertz(0) ? std::min(band.highCut, kBassTop) : kBassTop;
  for (std::size_t k = 0; k < bands_.size(); ++k)
    bands_[k] = bandGain(band, Hertz(static_cast<double>(k) * recording_->sampleRate / static_cast<double>(size_)));
  // The hop that completes the sample `frame` starts there.
  centre_ = frame + static_cast<std::int64_t>(size_ / 2) - kFirstHop * static_cast<std::int64_t>(hop_);
  analysed_ = -kReach;
  made_ = 0;
  given_ = hop_;
  for (auto& s : sum_) std::fill(s.begin(), s.end(), 0.0F);
}

void Isolator::analyse(std::int64_t hop) {
  Frame& frame = frameAt(hop);
  const std::int64_t from = centre_ + hop * static_cast<std::int64_t>(hop_) - static_cast<std::int64_t>(size_ / 2);
  for (std::size_t c = 0; c < 2; ++c) {
    readWindow(c == 0 ? recording_->left() : recording_->right(), from, window_, forward_->input());
    const auto bins = forward_->transform();
    std::copy(bins.begin(), bins.end(), (c == 0 ? frame.left : frame.right).begin());
  }
  for (std::size_t k = 0; k < frame.magnitude.size(); ++k)
    frame.magnitude[k] = std::sqrt(std::norm(frame.left[k]) + std::norm(frame.right[k]));
}

/// Soft masks of what lasts against what strikes, from medians along time and along frequency.
void Isolator::weighParts(std::int64_t hop) {
  const auto bins = static_cast<std::int64_t>(parts_.size());
  const std::vector<float>& now = frameAt(hop).magnitude;
  std::array<float, kTaps> values{};
  std::array<const float*, kRing> ring{};
  for (int i = 0; i < kRing; ++i) ring[static_cast<std::size_t>(i)] = frameAt(hop - kReach + i).magnitude.data();
  const bool harmonic = isolation_.part == Isolation::Component::harmonic;
  for (std::int64_t k = 0; k < bins; ++k) {
    for (std::size_t i = 0; i < kRing; ++i) values[i] = ring[i][k];
    const float lasting = medianOf(values);
    for (int i = 0; i < kTaps; ++i)
      values[static_cast<std::size_t>(i)] =
          now[static_cast<std::size_t>(std::clamp<std::int64_t>(k + i - kReach, 0, bins - 1))];
    const float striking = medianOf(values);
    const float h = lasting * lasting, p = striking * striking;
    parts_[static_cast<std::size_t>(k)] = h + p > 0 ? (harmonic ? h : p) / (h + p) : 0.0F;
  }
}

/// The level of what is kept is brought to that of the plain sound, both over the last three seconds.
void Isolator::followLevel(const Level& level) {
  if (levelCount_ == levelMost_) {
    plainSum_ -= static_cast<double>(levels_[levelAt_].plain);
    keptSum_ -= static_cast<double>(levels_[levelAt_].kept);
  } else {
    ++levelCount_;
  }
  levels_[levelAt_] = level;
  levelAt_ = (levelAt_ + 1) % levelMost_;
  plainSum_ += static_cast<double>(level.plain);
  keptSum_ += static_cast<double>(level.kept);
  gain_ =
      keptSum_ > 1e-9 && plainSum_ > 1e-9 ? std::clamp(std::sqrt(plainSum_ / keptSum_), kLeastGain, kMostGain) : 1.0;
}

void Isolator::make(std::int64_t hop) {
  using Channel = Isolation::Channel;
  const Frame& frame = frameAt(hop);
  const bool parts = isolation_.part != Isolation::Component::all, places = isolation_.place != Isolation::Panned::all;
  if (parts) weighParts(hop);
  Level level;
  for (std::size_t k = 0; k < bands_.size(); ++k) {
    const auto l = frame.left[k], r = frame.right[k];
    level.plain += loudness_[k] * (std::norm(l) + std::norm(r));
    float weight = bands_[k];
    if (weight < 1e-5F) {
      kept_[0][k] = kept_[1][k] = 0.0F;
      continue;
    }
    if (parts) weight *= parts_[k];
    if (places) weight *= placeGain(isolation_, placeOf(l.real(), l.imag(), r.real(), r.imag()));
    auto outLeft = l * weight, outRight = r * weight;
    switch (isolation_.channel) {
      case Channel::both:
        break;
      case Channel::left:
        outRight = outLeft;
        break;
      case Channel::right:
        outLeft = outRight;
        break;
      case Channel::middle:
        outLeft = outRight = (outLeft + outRight) * 0.5F;
        break;
      case Channel::sides:
        outLeft = outRight = (outLeft - outRight) * 0.5F;
        break;
    }
    level.kept += loudness_[k] * (std::norm(outLeft) + std::norm(outRight));
    kept_[0][k] = outLeft, kept_[1][k] = outRight;
  }
  followLevel(level);
  // Analysis and synthesis with the root of a Hann window at a quarter of its length sum to 2.
  const auto scale = static_cast<float>(gain_ * 0.5);
  for (std::size_t c = 0; c < 2; ++c) {
    auto& sum = sum_[c];
    std::copy(sum.begin() + static_cast<std::ptrdiff_t>(hop_), sum.end(), sum.begin());
    std::fill(sum.end() - static_cast<std::ptrdiff_t>(hop_), sum.end(), 0.0F);
    if (hop + 3 < kFirstHop) continue;  // only its level is wanted
    std::copy(kept_[c].begin(), kept_[c].end(), back_->input().begin());
    const auto samples = back_->transform();
    for (std::size_t n = 0; n < size_; ++n) sum[n] += samples[n] * window_[n] * scale;
  }
  given_ = 0;
}

bool Isolator::prime(int samples) {
  for (int budget = samples; !ready() && budget > 0; budget -= kHopCost) {
    while (analysed_ <= made_ + kReach) analyse(analysed_++);
    make(made_++);
  }
  return ready();
}

void Isolator::read(std::span<float> left, std::span<float> right) {
  prime(1 << 20);
  for (std::size_t done = 0; done < left.size();) {
    if (given_ == hop_) {
      while (analysed_ <= made_ + kReach) analyse(analysed_++);
      make(made_++);
    }
    const std::size_t run = std::min(left.size() - done, hop_ - given_);
    const auto from = static_cast<std::ptrdiff_t>(given_);
    std::copy_n(sum_[0].begin() + from, run, left.begin() + static_cast<std::ptrdiff_t>(done));
    std::copy_n(sum_[1].begin() + from, run, right.begin() + static_cast<std::ptrdiff_t>(done));
    given_ += run, done += run;
  }
}

Recording isolatedPart(std::shared_ptr<const Recording> recording, TimeSpan span, const Isolation& isolation) {
  constexpr int kAtOnce = 1 << 16;  // samples
  Recording part = excerpt(*recording, span);
  if (isolation.plain() || part.frames() == 0) return part;
  const auto from = static_cast<std::int64_t>(std::llround(span.start.value * recording->sampleRate));
  Isolator isolator;
  isolator.attach(std::move(recording));
  isolator.cue(from, isolation, Isolator());
  while (!isolator.prime(kAtOnce)) {
  }
  part.channels.resize(2);
  part.channels[1].resize(part.channels[0].size());
  isolator.read(part.channels[0], part.channels[1]);
  return part;
}

}  // namespace ear
