// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/plucked_string.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr double kFilterDelay = 0.5;  // samples: the mean of two neighbours
constexpr std::size_t kReach = 4;     // samples that the interpolation looks at

}  // namespace

void PluckedString::prepare(int sampleRate) {
  rate_ = sampleRate;
  const auto longest = static_cast<std::size_t>(sampleRate / kLowest.value) + 2 * kReach;
  line_.assign(longest, 0.0F);
  burst_.assign(longest, 0.0F);
  left_ = 0;
}

void PluckedString::pluck(const Pluck& pluck) {
  pluck_ = pluck;
  pluck_.pitch = std::clamp(pluck.pitch, kLowest, kHighest);
  pluck_.moves.count = std::min(pluck.moves.count, kMostMoves);
  std::fill(line_.begin(), line_.end(), 0.0F);
  at_ = move_ = 0;
  before_ = 0.0F;
  fade_ = 1.0F;
  gain_ = static_cast<float>(pluck.level);
  const double turn = (std::clamp(pluck.pan, -1.0, 1.0) + 1) * std::numbers::pi / 4;
  leftGain_ = static_cast<float>(std::numbers::sqrt2 * std::cos(turn));
  rightGain_ = static_cast<float>(std::numbers::sqrt2 * std::sin(turn));
  age_ = 0;
  left_ = std::llround(pluck.ring.value * rate_);
  from_ = now_ = delayStep_ = 0.0;
  // What is plucked with a bend in it already sounds so from the start.
  delay_ = 0.0;
  burstLength_ = 0;
  followMoves();
  strike(1.0);
}

void PluckedString::damp(Seconds within) {
  fade_ = static_cast<float>(std::exp(-std::log(1000.0) / std::max(1.0, within.value * rate_)));
  left_ = std::min<std::int64_t>(left_, std::llround(2 * within.value * rate_));
}

/// Feeds a softened burst of noise in, one period long; its mean is taken out, since the loop would keep it.
void PluckedString::strike(double share) {
  burstLength_ = std::clamp<std::size_t>(static_cast<std::size_t>(delay_ + kFilterDelay), 1, burst_.size());
  burstAt_ = 0;
  burstLevel_ = static_cast<float>(share);
  float soft = 0, mean = 0, peak = 1e-6F;
  const auto burst = std::span(burst_).first(burstLength_);
  for (float& sample : burst) {
    noise_ = noise_ * 1664525U + 1013904223U;
    soft += 0.5F * (static_cast<float>(noise_ >> 8) / 8388608.0F - 1.0F - soft);
    sample = soft;
    mean += soft / static_cast<float>(burstLength_);
  }
  for (float& sample : burst) sample -= mean, peak = std::max(peak, std::abs(sample));
  for (float& sample : burst) sample /= peak;
}

/// Where the pitch is, in cents over the plucked one; begins the moves whose time has come.
double PluckedString::centsAt(double seconds) {
  const auto& moves = pluck_.moves;
  while (move_ < moves.count && moves.all[move_].after.value <= seconds) {
    from_ = now_;
    const Move& begun = moves.all[move_++];
    if (begun.stroke > 0.0) strike(begun.stroke);
  }
  if (move_ == 0) return 0.0;
  const Move& move = moves.all[move_ - 1];
  const double share = move.over.value > 0.0 ? std::min(1.0, (seconds - move.after.value) / move.over.value) : 1.0;
  return std::lerp(from_, move.to.value, share);
}

void PluckedString::followMoves() {
  now_ = centsAt(static_cast<double>(age_) / rate_);
  const double hertz = std::clamp(pluck_.pitch.value * std::exp2(now_ / 1200.0), kLowest.value, kHighest.value);
  const double wanted = rate_ / hertz - kFilterDelay;
  if (delay_ == 0.0) delay_ = wanted;
  delayStep_ = (wanted - delay_) / static_cast<double>(kStep);
  loss_ = static_cast<float>(std::pow(10.0, -3.0 / (hertz * pluck_.ring.value)));
}

float PluckedString::next() {
  const std::size_t size = line_.size();
  // The four samples around the delay; the fraction lies between the two in the middle.
  const auto whole = static_cast<std::size_t>(delay_);
  const auto d = static_cast<float>(delay_ - static_cast<double>(whole)) + 1.0F;
  std::size_t read = at_ + size - whole + 1;
  std::array<float, kReach> x{};
  for (float& sample : x) {
    sample = line_[read % size];
    --read;
  }
  const float out = -x[0] * (d - 1) * (d - 2) * (d - 3) / 6 + x[1] * d * (d - 2) * (d - 3) / 2 -
                    x[2] * d * (d - 1) * (d - 3) / 2 + x[3] * d * (d - 1) * (d - 2) / 6;
  const float mean = loss_ * 0.5F * (out + before_);
  before_ = out;
  line_[at_] = mean;
  float heard = out;
  if (burstAt_ < burstLength_) {
    const float fresh = burstLevel_ * burst_[burstAt_++];
    line_[at_] += fresh;
    heard += fresh;
  }
  at_ = at_ + 1 == size ? 0 : at_ + 1;
  delay_ += delayStep_;
  return heard;
}

void PluckedString::render(std::span<float> out) {
  for (std::size_t i = 0; i + 1 < out.size() && left_ > 0; i += 2) {
    if (age_ % kStep == 0) followMoves();
    ++age_;
    --left_;
    const float sample = gain_ * next();
    gain_ *= fade_;
    out[i] += leftGain_ * sample;
    out[i + 1] += rightGain_ * sample;
  }
}

}  // namespace ear
