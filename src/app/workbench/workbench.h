// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <memory>

#include "app/workbench/analysis.h"
#include "app/workbench/chord_keeper.h"
#include "app/workbench/ear_keeper.h"
#include "app/workbench/form_keeper.h"
#include "app/workbench/lesson_keeper.h"
#include "app/workbench/listening_guard.h"
#include "app/workbench/phrase_ear.h"
#include "app/workbench/phrase_keeper.h"
#include "app/workbench/practice_keeper.h"
#include "app/workbench/reference_voice.h"
#include "app/workbench/selection.h"
#include "app/workbench/session.h"
#include "app/workbench/time_keeper.h"
#include "app/workbench/transport.h"
#include "app/workbench/written_voice.h"

namespace ear {

/// What the views work on, each part with its own state and signals. Views ask it for the state and call it to change
/// something; they keep no copy. All of it lives on the window's thread; what takes long goes to a BackgroundJob, which
/// posts its results back to that thread.
class Workbench : public QObject {
  Q_OBJECT
 public:
  explicit Workbench(std::unique_ptr<AudioOutput> output, QObject* parent = nullptr);

  /// The study, the take, and how things are named.
  Session& session() { return session_; }
  const Session& session() const { return session_; }
  /// What plays and how.
  Transport& transport() { return transport_; }
  const Transport& transport() const { return transport_; }
  /// Opening and listening.
  Analysis& analysis() { return analysis_; }
  const Analysis& analysis() const { return analysis_; }
  /// The passage in hand.
  Selection& selection() { return selection_; }
  const Selection& selection() const { return selection_; }

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
  /// What is written down, and the phrase in hand.
  PhraseKeeper& phrases() { return *phrases_; }
  const PhraseKeeper& phrases() const { return *phrases_; }
  /// What the recording has to say of it.
  PhraseEar& phraseEar() { return *phraseEar_; }
  const PhraseEar& phraseEar() const { return *phraseEar_; }
  WrittenVoice& written() { return *written_; }
  /// The plan of the lesson, and giving it.
  LessonKeeper& lesson() { return *lesson_; }
  /// The account of what the ears get.
  ListeningGuard& guard() { return *guard_; }
  /// Notes and chords to compare with.
  ReferenceVoice& voice() { return voice_; }

  // What nearly every view needs of the session.
  Document& document() { return session_.document(); }
  const Document& document() const { return session_.document(); }
  const Brief& brief() const { return session_.brief(); }
  const Take* take() const { return session_.take(); }
  void say(const QString& sentence) { session_.say(sentence); }

 private:
  // In the order in which they hear of a change: the passage and the sound are right before anybody shows them.
  Session session_;
  Transport transport_;
  Analysis analysis_;
  Selection selection_;
  ReferenceVoice voice_;
  TimeKeeper* time_;
  FormKeeper* form_;
  ChordKeeper* chords_;
  PracticeKeeper* practice_;
  EarKeeper* ear_;
  PhraseKeeper* phrases_;
  PhraseEar* phraseEar_;
  WrittenVoice* written_;
  LessonKeeper* lesson_;
  ListeningGuard* guard_;
};

}  // namespace ear
