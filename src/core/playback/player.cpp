// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/player.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace ear {
namespace {

constexpr double kFade = 0.008;  // seconds of output: the crossfade of every seam and jump
constexpr float kOneEar = 0.7071F;
constexpr double kRamp = 0.012;     // seconds from silence to full level
constexpr double kCueAhead = 0.30;  // seconds before a seam at which the next stream is primed
constexpr int kPrimeShare = 3;      // stretching done for the next stream, per sample rendered
constexpr double kNothing = std::numeric_limits<double>::quiet_NaN();

}  // namespace

Track::Track(std::shared_ptr<const Recording> recording) : recording_(std::move(recording)) {
  if (recording_ == nullptr) return;
  for (auto& stream : streams_) stream.attach(recording_);
}

void Player::follow(TimeLineSource& source) {
  followers_.push_back(&source);
  if (recording() != nullptr) source.prepare(recording()->sampleRate);
}

void Player::load(Track track) {
  track_ = std::move(track);
  playing_ = false;
  seekTo_ = kNothing;
  shownFrame_ = 0.0;
  loopRange_ = 0;
  activeLoop_.reset();
  setSequence({});
  nextIn_ = -1;
  fadeLeft_ = riseLeft_ = 0;
  gain_ = 0.0F;
  countAsked_ = 0;
  rest_ = restBehind_ = {};
  counting_ = resting_ = false;
  for (auto& plane : scratch_) plane.assign(kBlock, 0.0F);
  if (recording() == nullptr) return;
  click_.prepare(sound().sampleRate);
  for (TimeLineSource* source : followers_) source->prepare(sound().sampleRate);
  stream().cue(0.0, set_, stream());
}

void Player::playCounted(int beats, Seconds each) {
  if (recording() == nullptr) return;
  const auto samples = std::max(1.0, std::round(each.value * sound().sampleRate));
  countAsked_ = static_cast<std::uint64_t>(std::max(0, beats)) << 32 | static_cast<std::uint64_t>(samples);
  counting_ = beats > 0;
  playing_ = true;
}

void Player::seek(Seconds to) {
  if (recording() == nullptr) return;
  const auto last = static_cast<double>(sound().frames());
  const double frame = std::clamp(to.value * sound().sampleRate, 0.0, last);
  shownFrame_ = frame;
  seekTo_ = frame;
}

Seconds Player::position() const {
  return recording() == nullptr ? Seconds(0) : Seconds(shownFrame_ / sound().sampleRate);
}

void Player::setPlayback(PlaybackSettings sounding) {
  set_ = {std::clamp(sounding.speed, kSlowest, kFastest),
          Cents(std::clamp(sounding.shift.value, -kMostShift, kMostShift)), withinLimits(sounding.isolation)};
  sounding_.put(set_);
}

Player::Loop Player::framesOf(TimeSpan span) const {
  const double rate = sound().sampleRate, frames = static_cast<double>(sound().frames());
  const double shortest = std::min(kShortestLoop * rate, frames);
  const double start = std::clamp(std::round(span.start.value * rate), 0.0, frames - shortest);
  const double end = std::clamp(std::round(span.end.value * rate), start + shortest, frames);
  return {static_cast<std::int64_t>(start), static_cast<std::int64_t>(end)};
}

void Player::setLoop(std::optional<TimeSpan> span) {
  played_ = 0;
  if (!span || recording() == nullptr) {
    loopRange_ = 0;
    return;
  }
  const Loop loop = framesOf(*span);
  loopRange_ = static_cast<std::uint64_t>(loop.start) << 32 | static_cast<std::uint64_t>(loop.end);
}

void Player::setSequence(std::span<const Segment> turns) {
  Sequence program;
  program.id = ++programs_;
  program.count = turnCount_ = recording() == nullptr ? 0 : std::min(turns.size(), Sequence::kMostSegments);
  std::copy_n(turns.begin(), program.count, program.turns.begin());
  advance_ = false;
  shownTurn_ = shownRepeat_ = played_ = 0;
  program_.put(program);
}

Player::Whereabouts Player::place() const {
  return {shownTurn_, static_cast<int>(shownRepeat_.load()), played_, resting_};
}

std::optional<TimeSpan> Player::loop() const {
  const std::uint64_t range = loopRange_;
  if (range == 0) return std::nullopt;
  const double rate = sound().sampleRate;
  return TimeSpan{Seconds(static_cast<double>(range >> 32) / rate),
                  Seconds(static_cast<double>(range & 0xFFFFFFFFU) / rate)};
}

std::int64_t Player::fadeLength() const {
  return std::llround(kFade * sound().sampleRate);
}

/// How the recording is to be heard in a turn of the program.
PlaybackSettings Player::wanted(std::size_t turn) const {
  PlaybackSettings sounding = wishes_.sounding;
  const Sequence& program = *wishes_.program;
  if (turn < program.count && program.turns[turn].speed > 0.0)
    sounding.speed = std::clamp(program.turns[turn].speed, kSlowest, kFastest);
  return sounding;
}

std::optional<Player::Loop> Player::wantedLoop() const {
  if (const Sequence& program = *wishes_.program; program.count > 0)
    return framesOf(program.turns[std::min(turn_, program.count - 1)].span);
  return wishes_.loop;
}

void Player::readControls() {
  wishes_.program = &program_.newest();
  wishes_.sounding = sounding_.newest();
  const std::uint64_t range = loopRange_;
  wishes_.loop.reset();
  if (range != 0)
    wishes_.loop = Loop{static_cast<std::int64_t>(range >> 32), static_cast<std::int64_t>(range & 0xFFFFFFFFU)};
  wishes_.play = playing_;
}

/// Starts to prime the other stream so that it can come in after `startIn` samples with `frame` at the end of the fade.
void Player::cueNext(double frame, std::int64_t startIn, const PlaybackSettings& sounding) {
  other().cue(frame - static_cast<double>(fadeLength()) * sounding.speed, sounding, stream());
  nextIn_ = std::max<std::int64_t>(0, startIn);
}

/// Cues what follows the end of the loop or turn: its start again, or the next turn.
void Player::cueSeam() {
  const Sequence& program = *wishes_.program;
  nextTurn_ = turn_, nextRepeat_ = repeat_ + 1;
  std::int64_t start = activeLoop_->start;
  restBehind_ = {};
  if (program.count > 0) {
    const Segment& turn = program.turns[turn_];
    if ((turn.repeats > 0 && nextRepeat_ >= turn.repeats) || advance_)
      nextTurn_ = (turn_ + 1) % program.count, nextRepeat_ = 0;
    start = framesOf(program.turns[nextTurn_].span).start;
    const double samples = sound().sampleRate / stream().sounding().speed;
    restBehind_.beat = std::max<std::int64_t>(1, std::llround(turn.each.value * samples));
    restBehind_.clicksLeft = std::max(0, turn.clicks) * restBehind_.beat;
    restBehind_.left = std::max<std::int64_t>(std::llround(turn.rest.value * samples), restBehind_.clicksLeft);
  }
  nextIsSeam_ = true;
  cueNext(static_cast<double>(start), toSeam_ - fadeLength(), wanted(nextTurn_));
}

/// Counts the samples to the end of the loop anew, from where the current stream is.
void Player::planSeam() {
  if (!activeLoop_) return;
  const Stream& stream = this->stream();
  toSeam_ = std::llround((static_cast<double>(activeLoop_->end) - stream.position()) / stream.sounding().speed);
}

/// Another program starts with its first turn.
void Player::followProgram() {
  if (wishes_.program->id == programId_) return;
  programId_ = wishes_.program->id;
  turn_ = 0, repeat_ = 0;
}

/// Turns what the control side asked for into a cued stream; one thing at a time, the rest waits for the next block.
void Player::obeyControls() {
  if (fadeLeft_ > 0) return;
  followProgram();
  const auto loop = wantedLoop();
  Stream& stream = this->stream();
  const bool loopChanged = loop != activeLoop_;
  if (loopChanged) {
    activeLoop_ = loop;
    if (nextIsSeam_) nextIn_ = -1, nextIsSeam_ = false;
    planSeam();
  }
  const PlaybackSettings now = wanted();
  const double fade = static_cast<double>(fadeLength()) * now.speed;
  if (const double to = seekTo_.exchange(kNothing); !std::isnan(to)) {
    nextIsSeam_ = false;
    cueNext(to + fade, 0, now);
  } else if (loop &&
             (stream.position() > static_cast<double>(loop->end) ||
              (loopChanged && stream.position() < static_cast<double>(loop->start) - fade)) &&
             nextIn_ < 0) {
    nextIsSeam_ = false;
    cueNext(static_cast<double>(loop->start) + fade, 0, now);
  } else if (stream.sounding() != now && (nextIn_ < 0 || nextIsSeam_)) {
    // The new stream needs a moment to prime: aim for where the old one will be by then.
    const auto lead = static_cast<std::int64_t>(kFade * 4 * sound().sampleRate);
    double frame = stream.position() + static_cast<double>(lead + fadeLength()) * stream.sounding().speed;
    if (loop && frame > static_cast<double>(loop->end)) frame -= static_cast<double>(loop->end - loop->start);
    nextIsSeam_ = false;
    cueNext(frame, lead, now);
  } else if (loop && nextIn_ < 0 &&
             toSeam_ < static_cast<std::int64_t>(kCueAhead * sound().sampleRate) + fadeLength()) {
    cueSeam();
  }
}

/// The stream that was faded to is the one that sounds.
void Player::endFade() {
  current_ = 1 - current_;
  nextIn_ = -1;
  if (nextIsSeam_) {
    nextIsSeam_ = false;
    if (nextTurn_ != turn_) advance_ = false;
    turn_ = nextTurn_, repeat_ = nextRepeat_;
    shownTurn_ = static_cast<std::uint32_t>(turn_), shownRepeat_ = static_cast<std::uint32_t>(repeat_);
    ++played_;
    if (wishes_.program->count > 0) activeLoop_ = wantedLoop();
    if (restBehind_.left > 0) {
      rest_ = restBehind_;
      // The stream comes in a fade's length before the turn's start.
      rest_.left -= fadeLength();
      riseLeft_ = fadeTotal_;
    }
  }
  planSeam();
}

/// Silence and clicks while a rest or a count lasts. @return samples done, 0 when there is no rest
std::size_t Player::renderRest(std::size_t from, std::size_t most) {
  if (rest_.left <= 0) return 0;
  std::size_t run = std::min(most, static_cast<std::size_t>(rest_.left));
  const std::int64_t toClicks = rest_.left - rest_.clicksLeft;
  if (toClicks > 0) {
    run = std::min(run, static_cast<std::size_t>(toClicks));
  } else {
    const std::int64_t toBeat = rest_.clicksLeft % rest_.beat;
    if (toBeat == 0) {
      constexpr double kLeast = 0.5;  // a count that cannot be heard would be a silence that nobody understands
      click_.strike(rest_.first, from, std::max(kLeast, click_.level()));
      rest_.first = false;
    }
    run = std::min(run, static_cast<std::size_t>(toBeat == 0 ? rest_.beat : toBeat));
    rest_.clicksLeft = std::max<std::int64_t>(0, rest_.clicksLeft - static_cast<std::int64_t>(run));
  }
  for (const auto side : {0U, 1U}) std::fill_n(scratch_[side].begin() + static_cast<std::ptrdiff_t>(from), run, 0.0F);
  stream().prime(kPrimeShare * static_cast<int>(run));
  rest_.left -= static_cast<std::int64_t>(run);
  // What the rest ends with has to be there; a rest too short for that lasts a little longer.
  if (rest_.left == 0 && !stream().ready()) rest_.left = static_cast<std::int64_t>(run);
  return run;
}

void Player::renderSound(std::size_t count) {
  std::size_t done = 0;
  while (done < count) {
    if (const std::size_t silent = renderRest(done, count - done); silent > 0) {
      done += silent;
      continue;
    }
    std::size_t run = count - done;
    Stream& stream = this->stream();
    Stream& other = this->other();
    const bool toSilence = nextIsSeam_ && restBehind_.left > 0;
    if (nextIn_ == 0 && fadeLeft_ == 0) {
      // It has been primed since long before, unless somebody jumped to just before a seam: then this one seam waits
      // for its stream, rather than the audio thread for the stretcher.
      if (other.ready() || toSilence) fadeLeft_ = fadeTotal_ = fadeLength();
    }
    if (nextIn_ > 0) run = std::min<std::size_t>(run, static_cast<std::size_t>(nextIn_));
    if (fadeLeft_ > 0) run = std::min<std::size_t>(run, static_cast<std::size_t>(fadeLeft_));
    const auto left = std::span(scratch_[0]).subspan(done, run), right = std::span(scratch_[1]).subspan(done, run);
    click_.mark(stream.position(), stream.sounding().speed, run, done);
    for (TimeLineSource* source : followers_) source->mark(stream.position(), stream.sounding().speed, run, done);
    stream.render(left, right);
    if (nextIn_ > 0) nextIn_ -= static_cast<std::int64_t>(run);
    toSeam_ -= static_cast<std::int64_t>(run);
    if (riseLeft_ > 0) {
      for (std::size_t i = 0; i < run && riseLeft_ > 0; ++i, --riseLeft_) {
        const double share = 1.0 - (static_cast<double>(riseLeft_) - 0.5) / static_cast<double>(fadeLength());
        left[i] *= static_cast<float>(share), right[i] *= static_cast<float>(share);
      }
    }
    if (fadeLeft_ > 0) {
      const auto inLeft = std::span(scratch_[2]).first(run), inRight = std::span(scratch_[3]).first(run);
      if (toSilence) {
        std::fill(inLeft.begin(), inLeft.end(), 0.0F);
        std::fill(inRight.begin(), inRight.end(), 0.0F);
      } else {
        other.render(inLeft, inRight);
      }
      for (std::size_t i = 0; i < run; ++i) {
        const double share =
            1.0 - (static_cast<double>(fadeLeft_) - static_cast<double>(i) - 0.5) / static_cast<double>(fadeTotal_);
        const auto in = static_cast<float>(std::sin(share * std::numbers::pi / 2));
        const auto out = static_cast<float>(std::cos(share * std::numbers::pi / 2));
        left[i] = left[i] * out + inLeft[i] * in;
        right[i] = right[i] * out + inRight[i] * in;
      }
      fadeLeft_ -= static_cast<std::int64_t>(run);
      if (fadeLeft_ == 0) endFade();
    }
    done += run;
  }
}

/// A count that was asked for stands before what is played.
void Player::startCount() {
  const std::uint64_t asked = countAsked_.exchange(0);
  if (asked == 0) return;
  rest_ = {};
  rest_.beat = static_cast<std::int64_t>(asked & 0xFFFFFFFFU);
  rest_.left = rest_.clicksLeft = static_cast<std::int64_t>(asked >> 32) * rest_.beat;
  if (rest_.left > 0) riseLeft_ = fadeLength();
}

/// While nothing sounds, a jump or another setting needs no crossfade.
void Player::settle() {
  followProgram();
  const double to = seekTo_.exchange(kNothing);
  Stream& stream = this->stream();
  if (std::isnan(to) && stream.sounding() == wanted() && fadeLeft_ == 0 && nextIn_ < 0) return;
  stream.cue(std::isnan(to) ? stream.position() : to, wanted(), stream);
  fadeLeft_ = riseLeft_ = 0;
  nextIn_ = -1;
  nextIsSeam_ = false;
}

void Player::renderBlock(std::span<float> out) {
  const std::size_t count = out.size() / 2;
  readControls();
  const bool play = wishes_.play;
  Stream& stream = this->stream();
  if (gain_ == 0.0F) {
    if (!play) rest_ = {}, countAsked_ = 0, counting_ = resting_ = false;
    if (rest_.left == 0) settle(), startCount();
    const bool ready = stream.prime(kPrimeShare * static_cast<int>(count));
    if (!play || (!ready && rest_.left == 0)) {
      std::fill(out.begin(), out.end(), 0.0F);
      return;
    }
  }
  if (gain_ == 0.0F) planSeam();
  // Whoever jumps or asks for something else does not want to wait for the end of a rest.
  if (!std::isnan(seekTo_.load()) || wishes_.program->id != programId_) rest_ = {};
  if (rest_.left == 0) obeyControls();
  if (nextIn_ >= 0 && !other().ready()) other().prime(kPrimeShare * static_cast<int>(count));
  renderSound(count);

  const float target = play ? 1.0F : 0.0F;
  const auto step = static_cast<float>(1.0 / (kRamp * sound().sampleRate));
  const auto toward = [step](float& now, float wanted) {
    now = now < wanted ? std::min(wanted, now + step) : std::max(wanted, now - step);
  };
  const auto level = static_cast<float>(level_), toLeft = static_cast<float>(toLeft_);
  for (std::size_t i = 0; i < count; ++i) {
    toward(gain_, target), toward(levelNow_, level), toward(toLeftNow_, toLeft);
    const float left = scratch_[0][i], right = scratch_[1][i], stays = 1.0F - toLeftNow_;
    // Both channels in one ear are as loud together as they were in two where they differ (equal power).
    out[2 * i] = (left * stays + (left + right) * kOneEar * toLeftNow_) * gain_ * levelNow_;
    out[2 * i + 1] = right * stays * gain_ * levelNow_;
  }
  click_.render(out);
  for (TimeLineSource* source : followers_) source->render(out);
  counting_ = rest_.left > 0 && rest_.left <= rest_.clicksLeft;
  resting_ = rest_.left > 0;
  const double position = this->stream().position();
  if (std::isnan(seekTo_.load())) shownFrame_ = std::clamp(position, 0.0, static_cast<double>(sound().frames()));
  if (!activeLoop_ && position >= static_cast<double>(sound().frames())) playing_ = false;
}

void Player::render(std::span<float> interleaved) {
  if (recording() == nullptr) {
    std::fill(interleaved.begin(), interleaved.end(), 0.0F);
    return;
  }
  while (!interleaved.empty()) {
    const std::size_t size = std::min(interleaved.size(), 2 * kBlock);
    renderBlock(interleaved.first(size));
    interleaved = interleaved.subspan(size);
  }
}

}  // namespace ear
