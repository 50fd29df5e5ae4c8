// SPDX-License-Identifier: GPL-3.0-or-later
// Going through a passage attack by attack: the other half of class PhraseEar.

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/phrase_ear.h"
#include "app/workbench/workbench.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr Seconds kLead{0.03};       // of a step before its attack
constexpr Seconds kShortStep{0.45};  // a step is looped for at least so long
constexpr double kSame = 0.6;        // semitones within which two pitches are one

bool together(const Note& a, const Note& b) {
  return a.free ? b.free && std::abs((a.free->start - b.free->start).value) < 0.03 : a.at == b.at;
}

}  // namespace

std::vector<std::size_t> PhraseEar::stepNotes(int step) const {
  std::vector<std::size_t> notes;
  int at = -1;
  for (std::size_t i = 0; i < heard_.size(); ++i) {
    if (i == 0 || !together(heard_[i].note, heard_[i - 1].note)) ++at;
    if (at == step) notes.push_back(i);
  }
  return notes;
}

int PhraseEar::stepCount() const {
  int count = 0;
  for (std::size_t i = 0; i < heard_.size(); ++i)
    if (i == 0 || !together(heard_[i].note, heard_[i - 1].note)) ++count;
  return count;
}

PhraseEar::WalkState PhraseEar::walkState() const {
  return {step_ + 1, stepCount(), agreed_, word_};
}

void PhraseEar::walk() {
  if (walking_) return endWalk();
  if (const auto span = spanToHear())
    hear(*span, For::walk);
  else
    bench_.say(tr("A walk goes through a passage: drag one, or press O to loop the bar at the playhead."));
}

/// Loops from the attack to the next one.
void PhraseEar::playStep() {
  const auto notes = stepNotes(step_);
  if (notes.empty()) return;
  Phrase here;
  if (const auto span = spanToHear()) here.span = *span;
  if (const Phrase* p = bench_.phrases().phrase()) here = *p;
  const PhraseTime time = bench_.phrases().timing(here);
  const auto startOf = [&](std::size_t i) {
    const auto span = time.spanOf(heard_[i].note);
    return (span ? span->start : here.span.start) - heard_[i].moved;  // where it was heard
  };
  const Seconds start = startOf(notes.front());
  Seconds end = notes.back() + 1 < heard_.size() ? startOf(notes.back() + 1) : here.span.end;
  end = std::max(end, start + kShortStep);
  bench_.selection().playSpot({start - kLead, end - kLead}, false);
}

void PhraseEar::goOn() {
  said_.clear();
  if (++step_ >= stepCount()) return endWalk();
  playStep();
  emit changed();
}

void PhraseEar::endWalk() {
  const int steps = std::min(step_, stepCount());
  walking_ = false;
  heard_.clear();
  bench_.say(
      tr("Walked through %1, %2 of them as heard.").arg(counted(steps, tr("attack"), tr("attacks"))).arg(agreed_));
  if (const Phrase* p = bench_.phrases().phrase()) bench_.selection().put(p->span);
  emit changed();
}

void PhraseEar::skip() {
  if (!walking_) return;
  word_ = tr("Left out.");
  goOn();
}

void PhraseEar::stepBack() {
  if (!walking_ || step_ == 0) return;
  --step_;
  word_.clear(), said_.clear();
  playStep();
  emit changed();
}

void PhraseEar::takeHeard() {
  if (!walking_) return;
  std::vector<Note> notes;
  for (const std::size_t i : stepNotes(step_)) notes.push_back(heard_[i].note);
  word_ = tr("Taken as heard.");
  bench_.phrases().putNotes(tr("Take what was heard"), std::move(notes));
  goOn();
}

/// The place of a pitch that is nearest to where the hand is.
std::optional<Note> PhraseEar::placeNear(int midi) const {
  const EntryContext context = bench_.phrases().entryContext();
  const auto places = placesOf(context.guitar, midi);
  if (places.empty()) return std::nullopt;
  Note note;
  if (context.before.empty() && walking_) {
    // Nothing tells where the hand is: as the whole passage would be played.
    note.place = heard_[stepNotes(step_).front()].note.place;
    if (context.guitar.pitch(note.place) == midi) return note;
  }
  const FretPosition hand = context.before.empty() ? FretPosition{3, 5} : context.before.back().place;
  const auto away = [&](FretPosition p) {
    return (p.fret == 0 ? 2.0 : std::abs(p.fret - hand.fret)) + 0.5 * std::abs(p.string - hand.string);
  };
  note.place = *std::min_element(places.begin(), places.end(),
                                 [&](FretPosition a, FretPosition b) { return away(a) < away(b); });
  return note;
}

void PhraseEar::answerPlace(FretPosition place) {
  Note note;
  note.place = place;
  if (walking_) judge({note}, QString("%1:%2").arg(place.string).arg(place.fret));
}

void PhraseEar::answerPitch(int midi) {
  if (!walking_) return;
  if (const auto note = placeNear(midi)) return judge({*note}, QString::number(midi));
  word_ = tr("No string of this guitar has %1.").arg(text(noteName(midi, bench_.session().spelling())));
  emit changed();
}

void PhraseEar::played(FretPosition place) {
  if (walking_) return answerPlace(place);
  Note note;
  note.place = place;
  write(note);
}

void PhraseEar::playedPitch(int midi) {
  if (walking_) return answerPitch(midi);
  if (const auto note = placeNear(midi)) write(*note);
}

void PhraseEar::write(Note note) {
  const PhraseKeeper& phrases = bench_.phrases();
  note.at = phrases.caret().at, note.voice = phrases.caret().voice;
  note.length = phrases.usualLength();
  bench_.phrases().putNotes(tr("Write a note"), {note});
}

void PhraseEar::answer(const QString& line) {
  if (!walking_) return;
  const QString words = line.trimmed();
  if (words.isEmpty()) return takeHeard();
  const std::string plain = words.toStdString();
  const auto notes = stepNotes(step_);
  // A name alone is a pitch; without an octave it is the one that is nearest to what sounds.
  std::optional<int> midi = parsePitch(plain);
  if (const auto pc = parsePitchClass(plain); !midi && pc) {
    const Guitar guitar = bench_.phrases().entryContext().guitar;
    const int heard = guitar.pitch(heard_[notes.front()].note.place);
    midi = heard + PitchClass(pc->value - heard + 6).value - 6;
  }
  if (midi) return answerPitch(*midi);
  const Entry entry = readEntry(plain, bench_.phrases().entryContext());
  std::vector<std::vector<Note>> said;
  for (const EnteredStep& step : entry.steps)
    if (!step.notes.empty()) said.push_back(step.notes);
  if (!entry.clear() || said.empty()) {
    word_ = !entry.problems.empty()    ? text(entry.problems.front().text)
            : !entry.questions.empty() ? text(entry.questions.front().text)
                                       : tr("Say a fret and a string, or the name of a note.");
    emit changed();
    return;
  }
  // Several notes answer as many attacks; the first that does not agree is where it stops.
  for (std::size_t i = 0; i < said.size() && walking_; ++i) {
    const int before = step_;
    judge(std::move(said[i]), said.size() == 1 ? words : QString());
    if (walking_ && step_ == before) {
      if (said.size() > 1) word_ = tr("Note %1 of these: %2").arg(i + 1).arg(word_);
      emit changed();
      return;
    }
  }
}

void PhraseEar::judge(std::vector<Note> notes, const QString& said) {
  const Guitar guitar = bench_.phrases().entryContext().guitar;
  const auto indices = stepNotes(step_);
  bool agrees = true, octave = false;
  for (const Note& n : notes) {
    const auto pitch = pitchAtStart(guitar, n);
    bool found = !pitch.has_value();  // what has no pitch cannot be denied
    for (const std::size_t i : indices) {
      const auto heard = pitchAtStart(guitar, heard_[i].note);
      const double apart = heard && pitch ? std::abs((*heard - *pitch).value) : 0.0;
      found = found || apart <= kSame;
      octave = octave || std::abs(apart - 12) <= kSame;
    }
    agrees = agrees && found;
  }
  if (!agrees && (said.isEmpty() || said != said_)) {
    said_ = said;
    word_ = octave ? tr("The right note in another octave. Listen again; the same answer once more keeps it.")
                   : tr("Something else is heard. Listen again; the same answer once more keeps yours.");
    emit changed();
    return;
  }
  putAnswer(std::move(notes), agrees);
}

/// The answer's place and words, in the time of what was heard, with its gestures where none were said.
void PhraseEar::putAnswer(std::vector<Note> notes, bool agrees) {
  const Guitar guitar = bench_.phrases().entryContext().guitar;
  const auto indices = stepNotes(step_);
  for (Note& n : notes) {
    const Note* like = &heard_[indices.front()].note;
    for (const std::size_t i : indices)
      if (guitar.pitch(heard_[i].note.place) == guitar.pitch(n.place)) like = &heard_[i].note;
    n.at = like->at, n.length = like->length, n.free = like->free;
    if (agrees) {
      if (!n.bend) n.bend = like->bend;
      if (n.bend && !n.bend->size && like->bend) n.bend->size = like->bend->size;
      if (!n.vibrato) n.vibrato = like->vibrato;
      if (n.attack == Attack::plucked && like->attack == Attack::slidInto)
        n.attack = like->attack, n.slidFrom = like->slidFrom;
      n.origin = Origin::confirmed;
      ++agreed_;
    } else {
      n.origin = Origin::set;
      n.why = "not what was heard";
    }
  }
  word_ = agrees ? tr("Agrees.") : tr("Kept as you said.");
  bench_.phrases().putNotes(tr("Write what you hear"), std::move(notes));
  goOn();
}

}  // namespace ear
