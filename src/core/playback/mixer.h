// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <span>

#include "core/playback/drone.h"
#include "core/playback/held_sound.h"
#include "core/playback/monitor.h"
#include "core/playback/player.h"
#include "core/playback/read_ahead.h"
#include "core/playback/tones.h"
#include "core/playback/written_line.h"

namespace ear {

/// The whole playback graph, as an output asks for it: the recording and what follows its time line, tones of
/// reference, drone and a held moment over it, one volume for all of them, and the monitor with its limiter last.
///
/// render() belongs to the audio thread, which neither allocates, locks nor waits in it, neither for the stretcher nor
/// for a disk; everything else to one control thread.
class Mixer {
 public:
  Mixer() { player_.follow(line_); }

  /// The parts, each with its own control side.
  Player& player() { return player_; }
  const Player& player() const { return player_; }
  Tones& tones() { return tones_; }
  Drone& drone() { return drone_; }
  HeldSound& held() { return held_; }
  /// What was written down, along the recording.
  WrittenLine& line() { return line_; }
  Monitor& monitor() { return monitor_; }

  /// Puts a track in the player, or an empty one. Not while the audio thread renders.
  void load(Track track);
  /// Before the audio thread renders at a rate; allocates.
  void prepare(int sampleRate);

  void setVolume(double gain) { volume_ = gain; }  ///< 0 ... 1, linear; of all that sounds
  double volume() const { return volume_; }

  // As the player's own; what may be played next is read in beforehand.
  void seek(Seconds to);
  void setLoop(std::optional<TimeSpan> span);
  void setSequence(std::span<const Segment> segments);

  /// The next samples, left and right in turn.
  void render(std::span<float> interleaved);

 private:
  void expectNext();

  WrittenLine line_;
  Player player_;
  Tones tones_;
  Drone drone_;
  HeldSound held_;
  Monitor monitor_;
  std::atomic<double> volume_ = 0.7;
  std::vector<TimeSpan> segments_;  // of the sequence
  int rate_ = 0;
  float gain_ = 0.0F;                                           // where the volume is now
  ReadAhead readAhead_{[this] { return player_.position(); }};  // last: its thread asks the player
};

}  // namespace ear
