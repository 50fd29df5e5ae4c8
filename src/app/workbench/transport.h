// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTimer>
#include <functional>
#include <memory>

#include "core/playback/mixer.h"
#include "core/study/tune_up.h"
#include "devices/audio_output.h"

namespace ear {

class Session;

/// What plays and how: the mixer and its output, the playhead, speed, pitch, isolation and volume.
class Transport : public QObject {
  Q_OBJECT
 public:
  /// What starts so soon counts as being there: a loop starts a hair before its chord does.
  static constexpr Seconds kBlink{0.06};

  Transport(Session& session, std::unique_ptr<AudioOutput> output, QObject* parent);
  ~Transport() override;

  Mixer& mixer() { return mixer_; }
  const Player& player() const { return mixer_.player(); }
  Player& player() { return mixer_.player(); }
  AudioOutput& output() { return *output_; }
  const AudioOutput& output() const { return *output_; }

  /// Takes the recording off the player and stops the output.
  void unload();
  /// Plays this from now on, at its beginning, as the settings are.
  void load(Track track);
  bool hasSound() const { return player().recording() != nullptr; }

  Seconds position() const { return player().position(); }
  bool playing() const { return player().playing(); }
  void togglePlay();
  void seek(Seconds to);
  /// Asked for when playing starts: a count of so many beats before it, each so long.
  struct Count {
    int beats = 0;
    Seconds each{};
  };
  std::function<Count()> countBefore;

  const PlaybackSettings& sounding() const { return player().sounding(); }
  void setSpeed(double speed);
  void setShift(Cents shift);
  /// Speed, shift and isolation in one; the isolation is what isolating goes back to.
  void setPlayback(double speed, Cents shift, const Isolation& isolation);
  double volume() const { return mixer_.volume(); }
  void setVolume(double volume);
  /// What of the sound is heard while isolating; setting one that is not plain turns isolating on.
  const Isolation& isolation() const { return isolation_; }
  void setIsolation(const Isolation& isolation);
  /// Back and forth between what was isolated and the whole sound.
  bool isolating() const { return isolating_; }
  void setIsolating(bool on);

  /// What shifts the recording to concert pitch.
  Cents shiftToConcert() const;
  /// Ways to move the playback to meet the guitar of the part in hand: at concert pitch, in standard tuning, without
  /// the capo. The first one leaves the recording as it is.
  std::vector<PlaybackShift> meetings() const;
  /// On to the next of them.
  void meetGuitar();
  /// Where the recording sounds now: its own pitch with the playback's shift. Tones of reference follow it.
  Cents soundingOffset() const;
  /// Starts the output where it does not run, as without a recording. @return whether it runs
  bool openOutput();

 signals:
  void changed();  ///< playing, speed, shift, isolation, volume
  void positionChanged();

 private:
  void sound();
  void followConcert();
  bool startOutput(int sampleRate);
  void heed(const std::string& message, bool stopped);

  Session& session_;
  Mixer mixer_;
  std::unique_ptr<AudioOutput> output_;  // after the mixer: its thread must end first
  Isolation isolation_;
  bool isolating_ = false, outputRuns_ = false, wasPlaying_ = false;
  bool wasAtConcert_ = false;    // as the take before was left
  bool concertAwaited_ = false;  // a shift to concert pitch is wanted as soon as the take's pitch is known
  QTimer clock_;
};

}  // namespace ear
