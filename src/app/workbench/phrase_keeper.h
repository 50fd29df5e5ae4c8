// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <functional>
#include <map>
#include <optional>
#include <set>
#include <vector>

#include "core/checking/near_repeat.h"
#include "core/checking/slips.h"
#include "core/engraving/tab_score.h"
#include "core/phrase/entry/entry.h"
#include "core/phrase/placing.h"
#include "core/study/phrase_time.h"
#include "core/study/study.h"

namespace ear {

class Workbench;

/// The phrases of the take on the desk, and the one in hand: what it holds, which of its notes are chosen, and every
/// edit of them, each one step of undo. A phrase that is the same as another one keeps its link: what is changed in it
/// becomes part of the difference.
class PhraseKeeper : public QObject {
  Q_OBJECT
 public:
  explicit PhraseKeeper(Workbench& bench);

  // --- which -------------------------------------------------------------------------------------------------
  std::vector<const Phrase*> ofTake() const;  ///< by time
  const Phrase* phrase() const;               ///< in hand; null where none is
  /// Takes it to hand, with its guitar, and makes its span the passage.
  void open(const std::string& id);
  void step(bool next);
  /// A fresh one over the passage in hand, or the bar at the playhead.
  void begin();
  /// The passage in hand is the phrase in hand once more.
  void repeatHere();
  void detach();
  /// A phrase that is written nearly like the one in hand, and making this one a link to it.
  std::optional<NearRepeat> nearest() const;
  void linkTo(const std::string& other);
  void remove();
  /// Changes what is said of the phrase in hand as a whole.
  void describe(const QString& label, const std::function<void(Phrase&)>& change, const std::string& merge = {});

  std::size_t level() const;
  void setLevel(std::size_t level);
  /// Another level, beginning as a copy of the one in hand.
  void addLevel(const QString& name) { addLevel(name, notes()); }
  void addLevel(const QString& name, std::vector<Note> notes);
  void removeLevel();

  // --- what it holds -----------------------------------------------------------------------------------------
  struct View {
    Guitar guitar{};
    ShownPhrase shown{};
    std::vector<Note> notes{};  ///< of it, plain
    TabScore score{};
    QStringList barNames{};
    std::vector<std::pair<Beats, QString>> chords{};  ///< that sound under it, where they change
    std::vector<std::pair<Beats, QString>> scales{};  ///< that are stated, with their boxes
    std::vector<Slip> slips{};
    bool timed = false;  ///< the beats of its take are known
    Seconds start{};
  };
  /// Of the phrase in hand; empty without one. Worked out once after each change.
  const View& view() const;
  /// A guitar of the take as it sounds; standard tuning where it is not settled.
  Guitar guitarOf(const GuitarPart& part) const;
  const View& viewOf(const Phrase& phrase, std::size_t level = 0) const;
  SlipContext slipContext() const;
  /// The stated scale where the caret stands; null where none is.
  const ScaleStretch* scaleInHand() const;
  /// What is wished of places for its notes: the boxes that are stated.
  PlacingWishes wishes() const;
  /// Chords that sound while the phrase in hand does, each once, as far as they are at least likely.
  std::vector<Chord> chordsUnder() const;
  /// What the notes of the phrase in hand lie in, on the tonic of the key; empty where that is not settled.
  ScaleUse scalesUsed() const;
  /// States the scale and its box of the stretch where the caret stands; nothing: none is stated.
  void sayScale(const std::optional<Scale>& scale, int box);
  void switchScaleHere(const Scale& scale);
  void sayScalesUsed();
  /// Chosen notes outside of the stated scale are meant so, or no longer.
  void meanChosen(bool meant);
  Seconds timeOf(const Phrase& phrase, Beats place) const;
  double placeOf(const Phrase& phrase, Seconds time) const;
  /// The beats of a phrase in its take; of the take on the desk where it names none. Holds until the next change.
  PhraseTime timing(const Phrase& phrase) const;

  // --- the notes that are chosen, and the caret ----------------------------------------------------------------
  const std::set<int>& chosen() const { return chosen_; }
  std::vector<Note> chosenNotes() const;
  void choose(std::set<int> ids);
  void chooseAll();
  /// On to the next moment or back to the one before. @param extend  keeps what is chosen
  void stepMoment(int by, bool extend);
  void stepString(int by);
  struct Caret {
    Beats at;
    int string = 0;
    int voice = 0;
  };
  const Caret& caret() const { return caret_; }
  void putCaret(Beats at, int string);
  void setVoice(int voice);
  void putCaretAtEnd();

  // --- writing -------------------------------------------------------------------------------------------------
  EntryContext entryContext() const;
  Beats usualLength() const { return usual_; }
  void setUsualLength(Beats length);
  /// Puts what was understood at the caret, in place of what starts there in its voice, and goes on behind it.
  void put(const Entry& entry);
  /// Puts notes as they are.
  void putNotes(const QString& label, std::vector<Note> notes);
  /// Says of the chosen notes what a line of words says of one: "bent a half step", "finger 3". @return what was not
  /// understood; empty when it was done
  QString sayOfChosen(const QString& words);
  /// A fret on the string of the caret, or of the chosen note.
  void typeFret(int fret);
  void changeChosen(const QString& label, const std::function<void(Note&)>& change, const std::string& merge = {});
  void removeChosen();
  void moveChosenInTime(Beats by);
  /// To the next string at the same pitch, or by frets on the same string.
  void moveChosenToString(int by);
  void moveChosenByFrets(int by);
  /// Ways to play the chosen notes, the easiest first, and taking one of them.
  std::vector<LinePlacing> waysOfChosen(std::size_t most) const;
  void placeAnew(std::size_t way);
  /// Other notes in place of those in hand; for another guitar of the take they are a phrase of their own, arranged.
  void replaceNotes(const std::string& part, std::vector<Note> notes);
  /// All of it so many semitones higher, where it lies best.
  void transpose(int semitones);
  /// Fingers of the left hand for the chosen notes, or all of them.
  void proposeFingers();
  /// Starts of the chosen notes, or all, on a raster of so many parts of a beat. Says how far they had to move.
  void quantise(int parts);
  void scaleChosenLength(Beats factor);
  void confirmChosen();
  /// The stretch of the chosen notes, or of the passage, is not made out, may be filled freely, or is the hardest; once
  /// more: no longer.
  void markStretch(OpenStretch::Kind kind);
  void markHardest();
  /// What stands beside a note becomes the note.
  void takeReading(int note, std::size_t reading);
  void copyChosen();
  void paste();
  bool canPaste() const { return !copied_.empty(); }

 signals:
  void opened();   ///< a phrase was taken to hand, to be seen
  void changed();  ///< the phrase in hand, its notes, what is chosen

 private:
  struct Known {
    std::string id;
    std::size_t level;
    auto operator<=>(const Known&) const = default;  // NOLINT(modernize-use-nullptr): its literal 0
  };
  void forget();
  void followSelection();
  View work(const Phrase& phrase, std::size_t level) const;
  Phrase fresh(const Study& study, TimeSpan span) const;
  const std::vector<Note>& notes() const { return view().notes; }
  std::optional<std::pair<Beats, Beats>> stretchInHand() const;
  /// Replaces the notes in hand; begins a phrase where there is none.
  void edit(const QString& label, const std::function<void(std::vector<Note>&, int freshId)>& change,
            const std::string& merge = {});

  Workbench& bench_;
  std::string id_;
  std::size_t level_ = 0;
  std::set<int> chosen_;
  Caret caret_;
  Beats usual_ = Beats(1, 2);
  std::vector<Note> copied_;
  mutable std::map<std::string, TimeMap> maps_;  // by take
  mutable std::map<Known, View> views_;
};

}  // namespace ear
