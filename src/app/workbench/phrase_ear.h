// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <map>
#include <optional>
#include <span>
#include <vector>

#include "app/workbench/background_job.h"
#include "core/checking/by_ear.h"
#include "core/checking/manner.h"
#include "core/phrase/entry/entry.h"
#include "core/settings/isolation.h"
#include "core/writing/suggestions.h"

namespace ear {

class Workbench;

/// What the recording has to say of the phrase in hand: notes as they were heard, to be taken or answered one by one,
/// and a verdict on each written one. Nothing of it is in the study until a person takes it.
class PhraseEar : public QObject {
  Q_OBJECT
 public:
  explicit PhraseEar(Workbench& bench);
  ~PhraseEar() override;

  /// Listening in the background, for suggestions, a walk or a check.
  bool listening() const { return job_.running(); }
  void stopListening() { job_.cancel(); }

  // --- suggestions ---------------------------------------------------------------------------------------------
  /// Hears the passage of the phrase in hand, or the passage where none is written.
  void suggest();
  /// The same with every note that is struck, as of chords: coarser than the leading voice, which knows bends.
  void suggestEveryVoice();
  /// Not taken yet, in order.
  const std::vector<Suggestion>& suggestions() const { return suggestions_; }
  void takeNext();
  void takeAll();
  void dropSuggestions();
  /// Notes from elsewhere, as of a file, to be taken one by one or all; in place of what was suggested before.
  void offer(std::vector<Suggestion> notes);

  // --- walk ----------------------------------------------------------------------------------------------------
  /// Goes through the passage attack by attack, each looped until it is answered. Hears it first where need be.
  void walk();
  bool walking() const { return walking_; }
  struct WalkState {
    int step = 0, steps = 0;  ///< from 1
    int asHeard = 0;          ///< answers that agreed with the recording
    QString word{};           ///< what to say of the last answer
  };
  WalkState walkState() const;
  /// A fret and a string, in the words of the entry line, or the name of a note. One that does not agree is told so;
  /// said once more it stays. Several notes answer as many attacks.
  void answer(const QString& line);
  void answerPlace(FretPosition place);
  void answerPitch(int midi);
  /// Somebody struck a place of the neck, or a note on a keyboard or their own guitar: on a walk it is an answer, else
  /// it is written at the caret.
  void played(FretPosition place);
  void playedPitch(int midi);
  void takeHeard();
  void skip();
  void stepBack();
  void endWalk();

  // --- check ---------------------------------------------------------------------------------------------------
  void check();
  bool checked() const { return !verdicts_.empty(); }
  /// Of notes that have not been changed since.
  const NoteVerdict* verdictOf(const Note& note) const;
  /// What of a note is played otherwise than written, of notes whose gestures have not been changed since.
  std::vector<MannerDoubt> mannerOf(const Note& note) const;
  /// Semitones by which nearly all of it sounds beside what is written.
  std::optional<int> commonShift() const { return shift_; }
  /// Another phrase that is written otherwise and sounds here all the same: recorded alike, it seems.
  struct Alike {
    std::string other;  ///< id
    int differing = 0;  ///< notes
  };
  const std::optional<Alike>& alike() const { return alike_; }
  /// Heard between the written ones, in the take's time.
  const std::vector<PlayedNote>& unwritten() const { return unwritten_; }

  /// The isolation in which the phrase's part is heard best: what is set on the desk, else the side it sits on.
  Isolation isolationOfPart() const;

 signals:
  void changed();
  void progressed(double share);

 private:
  /// What a check has found.
  struct Found {
    EarCheck check;
    std::vector<MannerDoubt> manner{};
    std::optional<Alike> alike{};
  };
  enum class For { suggestions, everyVoice, walk, check };
  void hear(TimeSpan span, For what);
  void hearPassage(For what);
  void useVoice(const HeardVoice& voice, TimeSpan span, bool thenWalk);
  void keepVerdicts(const Found& found, TimeSpan span);
  std::vector<Note> timedNotes(std::span<const Note> notes, Seconds start) const;
  std::vector<std::pair<Alike, std::vector<Note>>> writtenOtherwise(Seconds start) const;
  void forgetHeard();
  std::optional<TimeSpan> spanToHear() const;
  std::vector<std::size_t> stepNotes(int step) const;  // indices into heard_
  int stepCount() const;
  void playStep();
  void goOn();
  void putAnswer(std::vector<Note> notes, bool agrees);
  void write(Note note);
  void judge(std::vector<Note> notes, const QString& said);
  std::optional<Note> placeNear(int midi) const;

  Workbench& bench_;
  BackgroundJob job_;
  std::vector<Suggestion> suggestions_;
  std::string phrase_;  // whose they are; empty for a passage without one
  TimeSpan heardSpan_;

  bool walking_ = false;
  std::vector<Suggestion> heard_;  // what the walk goes through
  int step_ = 0, agreed_ = 0;
  QString word_, said_;

  struct Checked {
    Note note;
    NoteVerdict verdict;
    std::vector<MannerDoubt> manner{};
  };
  std::map<int, Checked> verdicts_;
  std::optional<int> shift_;
  std::optional<Alike> alike_;
  std::vector<PlayedNote> unwritten_;  // in the take's time
};

}  // namespace ear
