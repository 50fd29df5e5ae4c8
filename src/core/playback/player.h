// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "core/playback/click.h"
#include "core/playback/mailbox.h"
#include "core/playback/stream.h"
#include "core/playback/time_line_source.h"
#include "core/settings/sequence.h"

namespace ear {

/// A recording made ready to be played: what stretches it has been built and has run once, which takes a moment, so
/// that a Track is made on any thread but the window's.
class Track {
 public:
  /// No recording.
  Track() = default;
  explicit Track(std::shared_ptr<const Recording> recording);

  const std::shared_ptr<const Recording>& recording() const { return recording_; }

 private:
  friend class Player;
  std::shared_ptr<const Recording> recording_;
  std::array<Stream, 2> streams_;
};

/// Plays one recording, looped or not, slowed and shifted, and what lies along its time line; full level, but ramped
/// where playing starts and ends.
///
/// The control side may be called from any one thread at any time; render() belongs to the audio thread and neither
/// allocates, locks nor waits. Whatever makes the sound discontinuous (the seam of a loop, a jump, another
/// speed, pitch or isolation) happens in one way: a second stream is cued at the new place and crossfaded in with equal
/// power. Rests between turns of a program, and counts, are silences before a stream that waits.
class Player {
 public:
  static constexpr double kSlowest = 0.2, kFastest = 1.5;
  static constexpr double kMostShift = 1200.0;  ///< cents
  static constexpr double kShortestLoop = 0.1;  ///< seconds

  /// Chooses the recording and forgets loop and position. Not while the audio thread renders.
  void load(Track track);
  const Recording* recording() const { return track_.recording_.get(); }
  std::shared_ptr<const Recording> shared() const { return track_.recording_; }

  /// Has a source sound along with the recording from now on; it has to outlive the player. Not while the audio thread
  /// renders.
  void follow(TimeLineSource& source);

  // --- control side -------------------------------------------------------------------------------------------
  void play() { playing_ = true; }
  /// Plays after a count of so many clicks, the first one as on the first beat of a bar.
  void playCounted(int beats, Seconds each);
  void pause() { playing_ = false; }
  /// Still counting in.
  bool counting() const { return counting_; }
  bool playing() const { return playing_; }
  void seek(Seconds to);
  Seconds position() const;
  void setPlayback(PlaybackSettings sounding);  ///< clamped to the limits above
  const PlaybackSettings& sounding() const { return set_; }
  /// Loops a span (at least kShortestLoop long), or with nothing plays on to the end. The crossfade of the seam lies
  /// inside the loop: each repetition lasts length / speed, rounded to one output sample.
  void setLoop(std::optional<TimeSpan> span);
  std::optional<TimeSpan> loop() const;
  /// Plays turns one after the other in place of the loop; none: the loop again. At most Sequence::kMostSegments, each
  /// span held within the recording as setLoop() does.
  void setSequence(std::span<const Segment> turns);
  /// Turns are played, not the loop.
  bool hasSequence() const { return turnCount_ > 0; }
  /// On to the next turn when this one has been played to its end.
  void advance() { advance_ = true; }
  /// Where the program is.
  struct Whereabouts {
    std::size_t turn = 0;
    int repeat = 0;            ///< of the turn, from 0
    std::uint32_t played = 0;  ///< times that anything was played to its end since the loop or the program was set
    bool resting = false;
  };
  Whereabouts place() const;
  /// How loud the recording itself is, and in which ears, while what lies along its time line sounds as ever.
  /// @param level   0 ... 1, of its own
  /// @param toLeft  0 as it was mixed ... 1 all of it in the left ear
  void setRecordingPlace(double level, double toLeft) { level_ = level, toLeft_ = toLeft; }
  /// Clicks on the beats of the recording. Its control side may be called like the player's own.
  Click& click() { return click_; }
  const Click& click() const { return click_; }

  // --- audio thread -------------------------------------------------------------------------------------------
  /// The next samples, left and right in turn, at the recording's rate.
  void render(std::span<float> interleaved);

 private:
  static constexpr std::size_t kBlock = 256;
  struct Loop {
    std::int64_t start, end;  // frames
    constexpr bool operator==(const Loop&) const = default;
  };

  /// What the control side wants. Looked at once a block: what changes meanwhile counts from the next one on, so that
  /// no block is made of two programs.
  struct Wishes {
    const Sequence* program = nullptr;  // never null while rendering
    PlaybackSettings sounding;
    std::optional<Loop> loop;
    bool play = false;
  };

  void renderBlock(std::span<float> interleaved);
  void readControls();
  void renderSound(std::size_t count);
  std::size_t renderRest(std::size_t from, std::size_t most);
  void startCount();
  void settle();
  void followProgram();
  void obeyControls();
  void cueNext(double frame, std::int64_t startIn, const PlaybackSettings& wanted);
  void cueSeam();
  void endFade();
  void planSeam();
  std::int64_t fadeLength() const;
  Stream& stream() { return track_.streams_[current_]; }
  Stream& other() { return track_.streams_[1 - current_]; }
  const Recording& sound() const { return *track_.recording_; }
  Loop framesOf(TimeSpan span) const;
  std::optional<Loop> wantedLoop() const;
  PlaybackSettings wanted(std::size_t turn) const;
  PlaybackSettings wanted() const { return wanted(turn_); }

  Track track_;
  std::vector<TimeLineSource*> followers_;

  std::atomic<bool> playing_ = false;
  PlaybackSettings set_;  // of the control thread
  Mailbox<PlaybackSettings> sounding_;
  Mailbox<Sequence> program_;
  std::uint32_t programs_ = 0;  // of the control thread
  std::size_t turnCount_ = 0;   // of the control thread
  std::atomic<bool> advance_ = false;
  std::atomic<double> level_ = 1.0, toLeft_ = 0.0;
  std::atomic<double> seekTo_;  // frames; NaN: nothing asked for
  std::atomic<double> shownFrame_ = 0.0;
  std::atomic<std::uint64_t> loopRange_ = 0;   // start frame << 32 | end frame; 0: none
  std::atomic<std::uint64_t> countAsked_ = 0;  // beats << 32 | samples of each; 0: none
  std::atomic<bool> counting_ = false, resting_ = false;
  std::atomic<std::uint32_t> shownTurn_ = 0, shownRepeat_ = 0, played_ = 0;

  // Of the audio thread alone.
  Wishes wishes_;
  struct Rest {
    std::int64_t left = 0;                  // samples
    std::int64_t clicksLeft = 0, beat = 1;  // the last `clicksLeft` samples of it are clicks, so far apart
    bool first = true;                      // no click has been given
  };
  std::size_t current_ = 0;  // of the track's two streams
  std::optional<Loop> activeLoop_;
  std::uint32_t programId_ = 0;
  std::size_t turn_ = 0, nextTurn_ = 0;
  int repeat_ = 0, nextRepeat_ = 0;
  std::int64_t toSeam_ = 0;   // output samples until the loop's end
  std::int64_t nextIn_ = -1;  // output samples until the other stream may come in; -1: it is not cued
  bool nextIsSeam_ = false;
  std::int64_t fadeLeft_ = 0, fadeTotal_ = 1;
  std::int64_t riseLeft_ = 0;  // samples until what comes out of a rest is at its level
  Rest rest_, restBehind_;     // the one that lasts; the one behind the turn that sounds
  Click click_;
  float gain_ = 0.0F;
  float levelNow_ = 1.0F, toLeftNow_ = 0.0F;
  std::array<std::vector<float>, 4> scratch_;
};

}  // namespace ear
