// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <map>
#include <memory>

#include "app/workbench/background_job.h"
#include "app/workbench/chord_keeper.h"
#include "app/workbench/ear_keeper.h"
#include "app/workbench/form_keeper.h"
#include "app/workbench/listening_guard.h"
#include "app/workbench/practice_keeper.h"
#include "app/workbench/reference_voice.h"
#include "app/workbench/time_keeper.h"
#include "core/audio/glance.h"
#include "core/playback/monitor.h"
#include "core/playback/player.h"
#include "core/study/document.h"
#include "core/study/tune_up.h"
#include "devices/audio_output.h"

namespace ear {

/// What the views work on: the document, the sound of the active take, the passage in hand and the listening in the
/// background. Views ask it for the state and call it to change something; they keep no copy.
class Workbench : public QObject {
  Q_OBJECT
 public:
  /// What starts so soon counts as being there: a loop starts a hair before its chord does.
  static constexpr Seconds kBlink{0.06};

  explicit Workbench(std::unique_ptr<AudioOutput> output, QObject* parent = nullptr);
  ~Workbench() override;

  // --- the study ---------------------------------------------------------------------------------------------
  Document& document() { return *document_; }
  const Document& document() const { return *document_; }
  const Brief& brief() const { return document_->brief(); }
  const Take* take() const { return document_->activeTake(); }
  const Findings* findings() const;

  /// Calls `slot` of a view (a function of it, or any other without arguments) when something of `what` has changed.
  template <class View, class Slot>
  void whenChanged(Changed what, View* view, Slot slot) {
    connect(this, &Workbench::documentChanged, view, [what, view, slot](Changed changed) {
      if (!touches(changed, what)) return;
      if constexpr (std::is_member_function_pointer_v<Slot>)
        (view->*slot)();
      else
        slot();
    });
  }
  /// A line to the user.
  void say(const QString& sentence) { emit said(sentence); }

  /// Puts another study on the desk. @param file  empty for one that was never saved
  void setStudy(Study study, Measurements measurements, const QString& file);
  void newFromRecording(const QString& file);
  void addTake(const QString& file);
  /// Each take is found as it was left: place, passage, and what is heard of it. Speed, isolation and a shift to
  /// concert pitch go along.
  void activateTake(const std::string& id);
  /// The recording of the active take was moved: here it is.
  void relocate(const QString& file);
  void markSaved(const QString& file);

  // --- naming ------------------------------------------------------------------------------------------------
  const Schools& schools() const { return schools_; }
  /// Kept for the next start; every view names things anew.
  void setSchools(const Schools& schools);
  /// For names in the key of the take.
  Spelling spelling() const;
  /// A sounding chord by its name, and by that of the shape on the guitar in hand; empty where the two are one.
  struct ChordWords {
    std::string sounding, shape;
  };
  ChordWords chordWords(const Chord& chord) const;

  // --- listening ---------------------------------------------------------------------------------------------
  bool listening() const { return job_.running(); }
  QString listeningTo() const { return doing_; }
  void listenAgain();
  void cancelListening();
  /// A sentence when the recording cannot be used, else empty.
  QString problem() const { return problem_; }
  bool recordingMissing() const { return missing_; }

  // --- sound -------------------------------------------------------------------------------------------------
  bool hasSound() const { return player_.recording() != nullptr; }
  Seconds duration() const;
  const Envelope& envelope() const { return envelope_; }
  /// The envelope, or what a glance at a long recording showed while it is being opened.
  const Envelope& overview() const { return envelope_.empty() ? glance_.envelope : envelope_; }
  const Player& player() const { return player_; }
  Player& player() { return player_; }
  /// Beats, taps, click and count-in.
  TimeKeeper& time() { return *time_; }
  const TimeKeeper& time() const { return *time_; }
  /// Sections, marks and what is worth looping.
  FormKeeper& form() { return *form_; }
  ChordKeeper& chords() { return *chords_; }
  const ChordKeeper& chords() const { return *chords_; }
  /// Ladder, chain, call and answer.
  PracticeKeeper& practice() { return *practice_; }
  /// Hints, guesses, and the voice of the passage.
  EarKeeper& ear() { return *ear_; }
  const EarKeeper& ear() const { return *ear_; }
  /// The account of what the ears get.
  ListeningGuard& guard() { return *guard_; }
  Monitor& monitor() { return monitor_; }
  const AudioOutput& output() const { return *output_; }
  AudioOutput& output() { return *output_; }
  Seconds position() const { return player_.position(); }
  bool playing() const { return player_.playing(); }
  void togglePlay();
  void seek(Seconds to);
  /// As a click does: a passage that lies elsewhere is let go.
  void goTo(Seconds to);
  void setSpeed(double speed);
  void setShift(Cents shift);
  void setVolume(double volume);
  /// What of the sound is heard while isolating; setting one that is not plain turns isolating on.
  const Isolation& isolation() const { return isolation_; }
  void setIsolation(const Isolation& isolation);
  /// What of the sound is heard now.
  Isolation heard() const { return isolating_ ? isolation_ : Isolation{}; }
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
  /// Another guitar of the take comes to hand, in the order of the parts.
  void nextGuitar();
  /// How far the recording lies from A 440; 0 while that is not settled.
  Cents recordingPitch() const;
  /// Where the recording sounds now: its own pitch with the playback's shift. Tones of reference follow it.
  Cents soundingOffset() const;
  ReferenceVoice& voice() { return voice_; }
  /// Starts the output where it does not run, as without a recording. @return whether it runs
  bool openOutput();
  /// Loops a spot that is worth hearing, without touching kept passages.
  void playSpot(TimeSpan span);

  // --- the passage in hand -----------------------------------------------------------------------------------
  const std::optional<TimeSpan>& passage() const { return passage_; }
  void setPassage(std::optional<TimeSpan> span);
  /// A passage that was found; a kept one on the desk is let go, not changed.
  void putPassage(TimeSpan span);
  void nudgeStart(Seconds by);
  void nudgeEnd(Seconds by);
  bool looping() const { return looping_; }
  void setLooping(bool on);
  /// The kept passage on the desk, or empty.
  const std::string& passageId() const { return passageId_; }
  /// It is heard otherwise now than it is kept: other edges, speed, pitch or isolation.
  bool passageChanged() const;
  void openPassage(const std::string& id);
  /// Keeps a new passage, or a changed one as it is now.
  void keepPassage();
  /// Puts a changed passage back to how it is kept, and the other way round again.
  void backToKept();
  void removePassage(const std::string& id);

 signals:
  void documentChanged(Changed what);  ///< of the study or its measurements; everything when names are said anew
  void soundChanged();                 ///< another recording, or none
  void listeningChanged();             ///< started, went on, ended
  void listeningProgress(double share);
  void settingsChanged();  ///< speed, shift, loop, volume, passage, playing
  void positionChanged();
  void passageOpened();                ///< a kept passage was put on the desk
  void said(const QString& sentence);  ///< worth a line to the user

 private:
  void loadTake();
  void dropSound();
  void receiveSound(std::shared_ptr<const Recording> recording, Envelope envelope, const std::string& hash);
  void followPassage();
  void followConcert();
  Passage::Settings onDesk() const;
  void putOnDesk(const Passage::Settings& settings);
  void leavePassage();
  void takePartInHand(const std::string& id);
  void applyLoop();
  bool startOutput(int sampleRate);
  /// Has what is played next read in, where the recording lies on disk.
  void readAhead();
  void setSounding(double speed, Cents shift, const Isolation& isolation);
  void sound();

  std::unique_ptr<Document> document_;
  Player player_;
  ReferenceVoice voice_;
  Monitor monitor_;
  Schools schools_;
  std::unique_ptr<AudioOutput> output_;  // after the player: its thread must end first
  Envelope envelope_;
  Glance glance_;  // while a long recording is being decoded
  BackgroundJob job_;
  TimeKeeper* time_;
  FormKeeper* form_;
  ChordKeeper* chords_;
  PracticeKeeper* practice_;
  EarKeeper* ear_;
  ListeningGuard* guard_;
  QString doing_, problem_;
  Isolation isolation_;
  bool isolating_ = false;
  bool missing_ = false, looping_ = true, outputRuns_ = false;
  std::string loadedTake_;
  std::optional<TimeSpan> passage_;
  std::string passageId_;
  Passage::Settings kept_;  // of that passage, as last seen in the study
  /// Kept passages that were left changed, or were put back: as they were heard then.
  std::map<std::string, Passage::Settings> changed_;
  /// How a take was left.
  struct Left {
    Seconds position;
    std::optional<TimeSpan> passage;
    std::string passageId;
  };
  std::map<std::string, Left> left_;  // by take
  std::optional<Seconds> resumeAt_;   // once the sound is there
  bool concertAwaited_ = false;       // a shift to concert pitch is wanted as soon as the take's pitch is known
  QTimer clock_;
  bool wasPlaying_ = false;
  int ticks_ = 0;  // of the clock
};

}  // namespace ear
