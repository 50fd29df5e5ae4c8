// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/listening/results/findings.h"
#include "core/study/brief.h"
#include "core/study/parts.h"
#include "core/study/study.h"

namespace ear {

/// What was measured on each take, by take id. Never changed in place, so that undo need not copy it.
using Measurements = std::map<std::string, std::shared_ptr<const Findings>>;

/// What a change has changed: whoever shows something else need not look.
enum class Changed : unsigned {
  nothing = 0,
  title = 1U << 0,
  takes = 1U << 1,  ///< which there are, and their names, kinds and files
  pitch = 1U << 2,  ///< what a person decided of a take: this and the next five
  key = 1U << 3,
  time = 1U << 4,  ///< tempo, metre, swing and beats
  form = 1U << 5,
  cues = 1U << 6,
  chords = 1U << 7,
  parts = 1U << 8,
  passages = 1U << 9,
  notes = 1U << 10,
  log = 1U << 11,
  ear = 1U << 12,
  measured = 1U << 13,
  desk = 1U << 14,     ///< another take or guitar came to hand
  history = 1U << 15,  ///< what can be undone, or that there is something to save
  phrases = 1U << 16,
  questions = 1U << 17,
  plans = 1U << 18,  ///< of lessons
  everything = (1U << 19) - 1,
};
constexpr Changed operator|(Changed a, Changed b) {
  return static_cast<Changed>(static_cast<unsigned>(a) | static_cast<unsigned>(b));
}
constexpr bool touches(Changed changed, Changed what) {
  return (static_cast<unsigned>(changed) & static_cast<unsigned>(what)) != 0;
}

/// All that may change what is shown of the take on the desk, and what may change its brief.
inline constexpr Changed kOfTake = Changed::takes | Changed::measured | Changed::desk;
inline constexpr Changed kOfBrief =
    kOfTake | Changed::pitch | Changed::key | Changed::time | Changed::form | Changed::parts;

/// Where two states of a study differ. Costs a look at what they do not share.
Changed differences(const Study& a, const Study& b);

/// A study being edited: the one copy of the truth, with undo and redo for every edit.
///
/// An edit works on the study, and the state before it is kept whole, so that nothing can be forgotten in an inverse
/// operation; both share whatever the edit leaves alone. Measurements are kept apart.
class Document {
 public:
  Document() = default;
  Document(Study study, Measurements measurements);

  const Study& study() const { return study_; }
  const Measurements& measurements() const { return measurements_; }

  /// Changes the study as one step of undo. Nothing is recorded when `change` changes nothing, or leads to what no
  /// study may hold (core/study/validity.h): then `refused` is told why and the study stays as it was.
  /// @param label  what the undo command says, such as "Rename passage"
  /// @param merge  edits in a row with the same non-empty key make one step (dragging, typing)
  /// @return whether the study changed
  bool edit(const std::string& label, const std::function<void(Study&)>& change, const std::string& merge = {});

  /// Fills in what is a fact rather than an edit (a recording's length and hash): in the present and in every step of
  /// undo. Refused like an edit. @pre what holds for the present study holds for every step
  void settle(const std::function<void(Study&)>& fact);

  /// Adds to what has happened: the log, lessons given, sheets handed out and the account of the ear, which no undo
  /// takes back. Refused like an edit.
  void record(const std::function<void(Study&)>& event);

  bool canUndo() const { return !past_.empty(); }
  bool canRedo() const { return !future_.empty(); }
  std::string undoLabel() const { return past_.empty() ? "" : past_.back().label; }
  std::string redoLabel() const { return future_.empty() ? "" : future_.back().label; }
  void undo();
  void redo();
  /// The next edit starts a step of its own, whatever its merge key.
  void endMerge() { mergeKey_.clear(); }

  /// A new measurement of a take; decisions of a person stay.
  void setMeasured(const std::string& take, std::shared_ptr<const Findings> findings);
  const Findings* findings(const std::string& take) const;

  /// The take on the desk; first one by default.
  const Take* activeTake() const;
  /// Puts another take on the desk; of its guitars the one that sits where the one in hand does comes to hand.
  void activate(const std::string& take);

  /// The guitars of the take on the desk.
  std::vector<GuitarPart> parts() const;
  /// The guitar in hand; the first one by default.
  GuitarPart part() const;
  void takeInHand(const std::string& part);
  /// The guitar in hand with its setup and the recording's pitch; standard tuning and concert pitch where these are not
  /// settled.
  Guitar guitar() const;
  GuitarSetup setup() const;
  /// Whether frets of the guitar in hand are counted from the nut where a capo is on.
  bool fretsFromNut() const { return part().fretsFromNut; }
  Cents offset() const;  ///< of the recording from A 440
  /// Changes a guitar as one step of undo.
  void editPart(const std::string& label, const std::string& id, const std::function<void(GuitarPart&)>& change);
  // What follows from the study and its measurements is worked out once after each change; a reference holds until the
  // next change.
  const Brief& brief() const;
  /// Of the take on the desk, in order.
  const std::vector<ShownChord>& chords() const;
  /// Where something comes in on a side of the take on the desk.
  const std::vector<SideEntry>& entries() const;

  /// Changed since it was opened or saved.
  bool modified() const { return modified_; }
  void markSaved() { modified_ = worked_ = false; }
  /// Something would be lost by closing it now. A study that only holds a fresh measurement of a recording, and has no
  /// file, loses nothing that cannot be had again.
  bool worthSaving() const { return modified_ && activeTake() != nullptr && (worked_ || !file.empty()); }
  /// It differs from what lies in its file, as after opening an automatic copy.
  void markChanged() {
    modified_ = worked_ = true;
    notify(Changed::history);
  }

  /// Called after every change of any kind.
  std::function<void(Changed)> changed;
  /// Called with a sentence when a change is refused.
  std::function<void(const std::string&)> refused;

  std::filesystem::path file;  ///< empty until saved

 private:
  struct Step {
    std::string label;
    Study state;
  };
  void notify(Changed what);
  /// Another state, with its facts tidied, in place of the present one.
  void turnTo(Study state);
  /// The study after a change; empty, and said why, where it may not be.
  std::optional<Study> after(const std::function<void(Study&)>& change) const;

  Study study_;
  Measurements measurements_;
  std::string active_, inHand_;
  std::optional<Side> handSide_;  // where the guitar in hand sat on the take before
  std::vector<Step> past_, future_;
  std::string mergeKey_;
  bool modified_ = false;
  bool worked_ = false;  // modified by a person
  mutable std::optional<Brief> brief_;
  mutable std::optional<std::vector<ShownChord>> chords_;
  mutable std::optional<std::vector<SideEntry>> entries_;
};

}  // namespace ear
