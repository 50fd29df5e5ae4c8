#include "core/playback/player.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace ear {
namespace {

constexpr double kFade = 0.008;     // seconds of output: the crossfade of every seam and jump
constexpr double kRamp = 0.012;     // seconds from silence to full level
constexpr double kCueAhead = 0.30;  // seconds before a seam at which the next voice is primed
constexpr int kPrimeShare = 3;      // stretching done for the next voice, per sample rendered
constexpr double kNothing = std::numeric_limits<double>::quiet_NaN();

}  // namespace

void Player::load(std::shared_ptr<const Recording> recording) {
  recording_ = std::move(recording);
  playing_ = false;
  seekTo_ = kNothing;
  shownFrame_ = 0.0;
  loopRange_ = 0;
  activeLoop_.reset();
  nextIn_ = -1;
  fadeLeft_ = 0;
  gain_ = 0.0F;
  countAsked_ = 0;
  countLeft_ = 0;
  counting_ = false;
  for (auto& plane : scratch_) plane.assign(kBlock, 0.0F);
  if (recording_ == nullptr) return;
  click_.prepare(recording_->sampleRate);
  for (auto& voice : voices_) voice.attach(recording_);
  voices_[current_].cue(0.0, sounding());
}

void Player::playCounted(int beats, Seconds each) {
  if (recording_ == nullptr) return;
  const auto samples = std::max(1.0, std::round(each.value * recording_->sampleRate));
  countAsked_ = static_cast<std::uint64_t>(std::max(0, beats)) << 32 | static_cast<std::uint64_t>(samples);
  counting_ = beats > 0;
  playing_ = true;
}

void Player::seek(Seconds to) {
  if (recording_ == nullptr) return;
  const double last = static_cast<double>(recording_->frames());
  const double frame = std::clamp(to.value * recording_->sampleRate, 0.0, last);
  shownFrame_ = frame;
  seekTo_ = frame;
}

Seconds Player::position() const {
  return recording_ == nullptr ? Seconds(0) : Seconds(shownFrame_ / recording_->sampleRate);
}

void Player::setSounding(Sounding sounding) {
  speed_ = std::clamp(sounding.speed, kSlowest, kFastest);
  cents_ = std::clamp(sounding.shift.value, -kMostShift, kMostShift);
}

Sounding Player::sounding() const {
  return {speed_, Cents(cents_)};
}

void Player::setLoop(std::optional<TimeSpan> span) {
  if (!span || recording_ == nullptr) {
    loopRange_ = 0;
    return;
  }
  const double rate = recording_->sampleRate, frames = static_cast<double>(recording_->frames());
  const double shortest = std::min(kShortestLoop * rate, frames);
  const double start = std::clamp(std::round(span->start.value * rate), 0.0, frames - shortest);
  const double end = std::clamp(std::round(span->end.value * rate), start + shortest, frames);
  loopRange_ = static_cast<std::uint64_t>(start) << 32 | static_cast<std::uint64_t>(end);
}

std::optional<TimeSpan> Player::loop() const {
  const std::uint64_t range = loopRange_;
  if (range == 0) return std::nullopt;
  const double rate = recording_->sampleRate;
  return TimeSpan{Seconds(static_cast<double>(range >> 32) / rate),
                  Seconds(static_cast<double>(range & 0xFFFFFFFFU) / rate)};
}

std::int64_t Player::fadeLength() const {
  return std::llround(kFade * recording_->sampleRate);
}

/// Starts to prime the other voice so that it can come in after `startIn` samples with `frame` at the end of the fade.
void Player::cueNext(double frame, std::int64_t startIn) {
  const Sounding wanted = sounding();
  voices_[1 - current_].cue(frame - static_cast<double>(fadeLength()) * wanted.speed, wanted);
  nextIn_ = std::max<std::int64_t>(0, startIn);
}

/// Counts the samples to the end of the loop anew, from where the current voice is.
void Player::planSeam() {
  if (!activeLoop_) return;
  const Voice& voice = voices_[current_];
  toSeam_ = std::llround((static_cast<double>(activeLoop_->end) - voice.position()) / voice.sounding().speed);
}

/// Turns what the control side asked for into a cued voice; one thing at a time, the rest waits for the next block.
void Player::obeyControls() {
  if (fadeLeft_ > 0) return;
  const std::uint64_t range = loopRange_;
  const auto loop =
      range == 0
          ? std::nullopt
          : std::optional(Loop{static_cast<std::int64_t>(range >> 32), static_cast<std::int64_t>(range & 0xFFFFFFFFU)});
  Voice& voice = voices_[current_];
  const bool loopChanged = loop != activeLoop_;
  if (loopChanged) {
    activeLoop_ = loop;
    if (nextIsSeam_) nextIn_ = -1;
    planSeam();
  }
  if (const double to = seekTo_.exchange(kNothing); !std::isnan(to)) {
    nextIsSeam_ = false;
    cueNext(to + static_cast<double>(fadeLength()) * sounding().speed, 0);
  } else if (loop &&
             (voice.position() > static_cast<double>(loop->end) ||
              (loopChanged && voice.position() < static_cast<double>(loop->start))) &&
             (nextIn_ < 0 || nextIsSeam_)) {
    nextIsSeam_ = false;
    cueNext(static_cast<double>(loop->start) + static_cast<double>(fadeLength()) * sounding().speed, 0);
  } else if (voice.sounding() != sounding() && (nextIn_ < 0 || nextIsSeam_)) {
    // The new voice needs a moment to prime: aim for where the old one will be by then.
    const auto lead = static_cast<std::int64_t>(kFade * 4 * recording_->sampleRate);
    double frame = voice.position() + static_cast<double>(lead + fadeLength()) * voice.sounding().speed;
    if (loop && frame > static_cast<double>(loop->end)) frame -= static_cast<double>(loop->end - loop->start);
    nextIsSeam_ = false;
    cueNext(frame, lead);
  } else if (loop && nextIn_ < 0 &&
             toSeam_ < static_cast<std::int64_t>(kCueAhead * recording_->sampleRate) + fadeLength()) {
    nextIsSeam_ = true;
    cueNext(static_cast<double>(loop->start), toSeam_ - fadeLength());
  }
}

void Player::renderSound(std::size_t count) {
  std::size_t done = 0;
  while (done < count) {
    std::size_t run = count - done;
    Voice& voice = voices_[current_];
    Voice& other = voices_[1 - current_];
    if (nextIn_ == 0 && fadeLeft_ == 0) {
      // A seam must not be late; a jump may wait for its voice to be ready.
      if (!other.ready() && nextIsSeam_) other.prime(std::numeric_limits<int>::max());
      if (other.ready()) fadeLeft_ = fadeTotal_ = fadeLength();
    }
    if (nextIn_ > 0) run = std::min<std::size_t>(run, static_cast<std::size_t>(nextIn_));
    if (fadeLeft_ > 0) run = std::min<std::size_t>(run, static_cast<std::size_t>(fadeLeft_));
    const auto left = std::span(scratch_[0]).subspan(done, run), right = std::span(scratch_[1]).subspan(done, run);
    click_.mark(voice.position(), voice.sounding().speed, run, done);
    voice.render(left, right);
    if (nextIn_ > 0) nextIn_ -= static_cast<std::int64_t>(run);
    toSeam_ -= static_cast<std::int64_t>(run);
    if (fadeLeft_ > 0) {
      const auto inLeft = std::span(scratch_[2]).first(run), inRight = std::span(scratch_[3]).first(run);
      other.render(inLeft, inRight);
      for (std::size_t i = 0; i < run; ++i) {
        const double share =
            1.0 - (static_cast<double>(fadeLeft_) - static_cast<double>(i) - 0.5) / static_cast<double>(fadeTotal_);
        const auto in = static_cast<float>(std::sin(share * std::numbers::pi / 2));
        const auto out = static_cast<float>(std::cos(share * std::numbers::pi / 2));
        left[i] = left[i] * out + inLeft[i] * in;
        right[i] = right[i] * out + inRight[i] * in;
      }
      fadeLeft_ -= static_cast<std::int64_t>(run);
      if (fadeLeft_ == 0) {
        current_ = 1 - current_;
        nextIn_ = -1;
        nextIsSeam_ = false;
        planSeam();
      }
    }
    done += run;
  }
}

bool Player::renderCount(std::span<float> out) {
  if (!playing_) countLeft_ = 0, countAsked_ = 0;
  if (const std::uint64_t asked = countAsked_.exchange(0); asked != 0) {
    countBeat_ = static_cast<std::int64_t>(asked & 0xFFFFFFFFU);
    countLeft_ = static_cast<std::int64_t>(asked >> 32) * countBeat_;
    countAge_ = 0;
  }
  counting_ = countLeft_ > 0;
  if (countLeft_ == 0) return false;
  constexpr double kLeast = 0.5;  // a count that cannot be heard would be a silence that nobody understands
  std::fill(out.begin(), out.end(), 0.0F);
  const auto count = static_cast<std::int64_t>(out.size() / 2);
  const std::int64_t sinceBeat = countAge_ % countBeat_;
  const std::int64_t next = sinceBeat == 0 ? 0 : countBeat_ - sinceBeat;
  if (next < count)
    click_.strike(countAge_ + next == 0, static_cast<std::size_t>(next), std::max(kLeast, click_.level()));
  click_.render(out, volume_);
  voices_[current_].prime(kPrimeShare * static_cast<int>(count));
  countAge_ += count, countLeft_ -= count;
  counting_ = countLeft_ > 0;
  return true;
}

void Player::renderBlock(std::span<float> out) {
  const std::size_t count = out.size() / 2;
  const bool play = playing_;
  if (!play && gain_ == 0.0F) {
    // Standing still: a jump or another setting needs no crossfade.
    const double to = seekTo_.exchange(kNothing);
    Voice& voice = voices_[current_];
    if (!std::isnan(to) || voice.sounding() != sounding() || fadeLeft_ > 0 || nextIn_ >= 0) {
      voice.cue(std::isnan(to) ? voice.position() : to, sounding());
      fadeLeft_ = 0;
      nextIn_ = -1;
      nextIsSeam_ = false;
    }
    voice.prime(kPrimeShare * static_cast<int>(count));
    std::fill(out.begin(), out.end(), 0.0F);
    return;
  }
  Voice& voice = voices_[current_];
  if (!voice.ready() && !voice.prime(kPrimeShare * static_cast<int>(count)) && gain_ == 0.0F) {
    std::fill(out.begin(), out.end(), 0.0F);
    return;
  }
  if (gain_ == 0.0F) planSeam();
  obeyControls();
  if (nextIn_ >= 0 && !voices_[1 - current_].ready())
    voices_[1 - current_].prime(kPrimeShare * static_cast<int>(count));
  renderSound(count);

  const float target = play ? static_cast<float>(volume_.load()) : 0.0F;
  const auto step = static_cast<float>(1.0 / (kRamp * recording_->sampleRate));
  for (std::size_t i = 0; i < count; ++i) {
    gain_ = gain_ < target ? std::min(target, gain_ + step) : std::max(target, gain_ - step);
    out[2 * i] = scratch_[0][i] * gain_;
    out[2 * i + 1] = scratch_[1][i] * gain_;
  }
  click_.render(out, volume_);
  const double position = voices_[current_].position();
  if (std::isnan(seekTo_.load())) shownFrame_ = std::clamp(position, 0.0, static_cast<double>(recording_->frames()));
  if (!activeLoop_ && position >= static_cast<double>(recording_->frames())) playing_ = false;
}

void Player::render(std::span<float> interleaved) {
  if (recording_ == nullptr) {
    std::fill(interleaved.begin(), interleaved.end(), 0.0F);
    return;
  }
  while (!interleaved.empty()) {
    std::size_t size = std::min(interleaved.size(), 2 * kBlock);
    if (countLeft_ > 0) size = std::min(size, 2 * static_cast<std::size_t>(countLeft_));
    if (!renderCount(interleaved.first(size))) renderBlock(interleaved.first(size));
    interleaved = interleaved.subspan(size);
  }
}

}  // namespace ear
