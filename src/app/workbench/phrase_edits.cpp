// SPDX-License-Identifier: GPL-3.0-or-later
// Choosing notes and changing them: the other half of class PhraseKeeper.

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/phrase_keeper.h"
#include "app/workbench/workbench.h"
#include "core/phrase/fingers.h"
#include "core/phrase/moving.h"
#include "core/phrase/refingering.h"

namespace ear {
namespace {

/// The moments of a phrase in order.
std::vector<Beats> momentsOf(const std::vector<Note>& notes) {
  std::vector<Beats> moments;
  for (const Note& n : notes) moments.push_back(n.at);
  std::sort(moments.begin(), moments.end());
  moments.erase(std::unique(moments.begin(), moments.end()), moments.end());
  return moments;
}

}  // namespace

// --- what is chosen --------------------------------------------------------------------------------------------

std::vector<Note> PhraseKeeper::chosenNotes() const {
  std::vector<Note> some;
  for (const ShownNote& s : view().shown.notes)
    if (chosen_.contains(s.note.id)) some.push_back(s.note);
  return some;
}

void PhraseKeeper::choose(std::set<int> ids) {
  bench_.document().endMerge();
  chosen_ = std::move(ids);
  if (const auto some = chosenNotes(); !some.empty())
    caret_.at = some.front().at, caret_.string = some.front().place.string, caret_.voice = some.front().voice;
  emit changed();
}

void PhraseKeeper::chooseAll() {
  std::set<int> all;
  for (const Note& n : notes()) all.insert(n.id);
  choose(std::move(all));
}

void PhraseKeeper::stepMoment(int by, bool extend) {
  bench_.document().endMerge();
  const auto all = notes();
  const auto moments = momentsOf(all);
  if (moments.empty()) return;
  const auto here = std::lower_bound(moments.begin(), moments.end(), caret_.at);
  auto at = here - moments.begin();
  const bool on = here != moments.end() && *here == caret_.at;
  at = by > 0 ? at + (on && !chosen_.empty() ? by : on ? 0 : by - 1) : at + by;
  const auto last = static_cast<std::ptrdiff_t>(moments.size()) - 1;
  if (at > last) return putCaretAtEnd();
  const Beats to = moments[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(at, 0, last))];
  std::set<int> ids = extend ? chosen_ : std::set<int>{};
  const Note* nearest = nullptr;
  for (const Note& n : all) {
    if (n.at != to) continue;
    if (extend) ids.insert(n.id);
    const auto away = [&](const Note& m) { return std::abs(m.place.string - caret_.string); };
    if (nearest == nullptr || away(n) < away(*nearest)) nearest = &n;
  }
  if (!extend) ids.insert(nearest->id);
  chosen_ = std::move(ids);
  caret_.at = to, caret_.string = nearest->place.string, caret_.voice = nearest->voice;
  emit changed();
}

void PhraseKeeper::stepString(int by) {
  const int to = std::clamp(caret_.string + by, 0, view().guitar.strings() - 1);
  putCaret(caret_.at, to);
}

void PhraseKeeper::putCaret(Beats at, int string) {
  bench_.document().endMerge();
  caret_.at = at, caret_.string = string;
  chosen_.clear();
  for (const Note& n : notes())
    if (n.at == at && n.place.string == string) chosen_ = {n.id};
  emit changed();
}

void PhraseKeeper::setVoice(int voice) {
  caret_.voice = voice;
  putCaretAtEnd();
}

void PhraseKeeper::putCaretAtEnd() {
  chosen_.clear();
  caret_.at = Beats(0);
  for (const Note& n : notes()) {
    if (n.voice != caret_.voice || n.free) continue;
    if (n.end() >= caret_.at) caret_.string = n.place.string;
    caret_.at = std::max(caret_.at, n.end());
  }
  emit changed();
}

// --- writing ---------------------------------------------------------------------------------------------------

EntryContext PhraseKeeper::entryContext() const {
  EntryContext context;
  context.guitar = phrase() != nullptr ? view().guitar : bench_.document().guitar();
  context.schools = bench_.session().notation();
  context.fretsFromNut = bench_.document().fretsFromNut();
  context.usual = usual_;
  for (const Note& n : notes())
    if (n.at < caret_.at && n.voice == caret_.voice) context.before.push_back(n);
  if (!context.before.empty()) context.string = context.before.back().place.string;
  return context;
}

void PhraseKeeper::setUsualLength(Beats length) {
  usual_ = length;
  emit changed();
}

void PhraseKeeper::edit(const QString& label, const std::function<void(std::vector<Note>&, int)>& change,
                        const std::string& merge) {
  if (phrase() == nullptr) begin();
  const Phrase* p = phrase();
  if (p == nullptr) return bench_.say(tr("Open a recording first: a phrase belongs to a take."));
  std::vector<Note> edited = notes();
  change(edited, freshNoteId(bench_.document().study().phrases));
  putInOrder(edited);
  bench_.document().edit(
      label.toStdString(),
      [&, guitar = view().guitar](Study& s) {
        Phrase& target = *s.phrase(id_);
        if (level_ == 0 && target.link) {
          const PhraseLink link = *target.link;
          if (ear::linkTo(s.phrases, target, link.to, edited, guitar, link.frets, link.strings))
            target.link->how = link.how;
        } else {
          target.levels.change()[level_].notes = edited;
        }
      },
      merge.empty() ? merge : merge + id_);
}

void PhraseKeeper::put(const Entry& entry) {
  if (entry.steps.empty()) return;
  std::vector<Note> fresh;
  Beats end(0);
  for (const EnteredStep& step : entry.steps) {
    end = std::max(end, step.at + step.length);
    for (const Note& n : step.notes) fresh.push_back(n);
  }
  const Caret caret = caret_;
  edit(tr("Write notes"), [&](std::vector<Note>& all, int id) {
    std::erase_if(all, [&](const Note& n) {
      return !n.free && n.voice == caret.voice && n.at >= caret.at && n.at < caret.at + end;
    });
    for (Note& n : fresh) {
      n.id = id++;
      n.at += caret.at;
      n.voice = caret.voice;
      n.origin = Origin::set;
      all.push_back(n);
    }
  });
  chosen_.clear();
  caret_ = {caret.at + end, fresh.empty() ? caret.string : fresh.back().place.string, caret.voice};
  emit changed();
}

void PhraseKeeper::putNotes(const QString& label, std::vector<Note> fresh) {
  if (fresh.empty()) return;
  std::set<int> ids;
  edit(label, [&](std::vector<Note>& all, int id) {
    for (Note& n : fresh) {
      std::erase_if(all, [&](const Note& o) {
        return o.voice == n.voice && !o.free && !n.free && o.at == n.at && !ids.contains(o.id);
      });
      n.id = id++;
      ids.insert(n.id);
      all.push_back(n);
    }
  });
  caret_.at = fresh.back().end(), caret_.string = fresh.back().place.string;
  chosen_.clear();
  emit changed();
}

QString PhraseKeeper::sayOfChosen(const QString& words) {
  const auto some = chosenNotes();
  if (some.empty()) return tr("Choose a note in the tab first, or say a fret and a string.");
  EntryContext context = entryContext();
  std::map<int, Note> said;
  for (const Note& n : some) {
    // The words are read as if they stood behind the note's own fret and string.
    context.string = n.place.string;
    context.before = {n};
    context.usual = n.length;
    const int fret = context.fretsFromNut ? context.guitar.fromNut(n.place) : n.place.fret;
    const std::string line = "fret " + std::to_string(fret) + " " + words.toStdString();
    const Entry entry = readEntry(line, context);
    if (!entry.problems.empty()) return text(entry.problems.front().text);
    if (!entry.questions.empty()) return text(entry.questions.front().text);
    if (entry.steps.size() != 1 || entry.steps.front().notes.size() != 1)
      return tr("That says more than what a note does.");
    said[n.id] = entry.steps.front().notes.front();
  }
  changeChosen(tr("Say what notes do"), [&](Note& n) {
    Note changed = said.at(n.id);
    changed.id = n.id, changed.voice = n.voice, changed.at = n.at, changed.free = n.free;
    changed.why = n.why, changed.readings = n.readings;
    if (changed.finger == Finger::unsaid) changed.finger = n.finger;
    if (changed.picking == Picking::unsaid) changed.picking = n.picking;
    n = changed;
  });
  return {};
}

void PhraseKeeper::typeFret(int fret) {
  if (!chosen_.empty()) {
    changeChosen(
        tr("Another fret"),
        [&](Note& n) {
          n.place.fret = fret;
          n.origin = Origin::set;
        },
        "fret");
    return;
  }
  Note n;
  n.at = caret_.at, n.length = usual_, n.voice = caret_.voice;
  n.place = {caret_.string, fret};
  edit(
      tr("Write a note"),
      [&](std::vector<Note>& all, int id) {
        n.id = id;
        all.push_back(n);
      },
      "fret");  // its second figure is no other step
  chosen_ = {n.id};
  emit changed();
}

void PhraseKeeper::changeChosen(const QString& label, const std::function<void(Note&)>& change,
                                const std::string& merge) {
  if (chosen_.empty() || phrase() == nullptr) return;
  edit(
      label,
      [&](std::vector<Note>& all, int) {
        for (Note& n : all)
          if (chosen_.contains(n.id)) change(n);
      },
      merge);
}

void PhraseKeeper::removeChosen() {
  if (chosen_.empty()) return;
  const Caret caret = caret_;
  edit(tr("Remove notes"), [ids = chosen_](std::vector<Note>& all, int) {
    std::erase_if(all, [&](const Note& n) { return ids.contains(n.id); });
  });
  chosen_.clear();
  caret_ = caret;
  emit changed();
}

void PhraseKeeper::moveChosenInTime(Beats by) {
  changeChosen(
      tr("Move notes in time"), [&](Note& n) { n.at += by; }, "move");
  if (const auto some = chosenNotes(); !some.empty()) caret_.at = some.front().at;
  emit changed();
}

void PhraseKeeper::moveChosenToString(int by) {
  const Guitar guitar = view().guitar;
  bool fits = true;
  for (const Note& n : chosenNotes()) {
    const int string = n.place.string + by;
    const int fret = string >= 0 && string < guitar.strings() ? guitar.pitch(n.place) - guitar.open(string) : -1;
    fits = fits && fret >= 0 && fret <= guitar.lastFret(string);
  }
  if (!fits) return bench_.say(tr("The same pitch is not on that string."));
  changeChosen(tr("To another string"), [&](Note& n) {
    const int midi = guitar.pitch(n.place);
    n.place.string += by;
    n.place.fret = midi - guitar.open(n.place.string);
  });
  caret_.string += by;
  emit changed();
}

void PhraseKeeper::moveChosenByFrets(int by) {
  const Guitar guitar = view().guitar;
  auto some = chosenNotes();
  if (!std::all_of(some.begin(), some.end(), [&](Note& n) { return move(n, guitar, by, 0); }))
    return bench_.say(tr("The neck ends there."));
  changeChosen(
      tr("By a fret"), [&](Note& n) { move(n, guitar, by, 0); }, "frets");
}

std::vector<LinePlacing> PhraseKeeper::waysOfChosen(std::size_t most) const {
  const Guitar guitar = view().guitar;
  const auto some = chosenNotes();
  return some.empty() ? std::vector<LinePlacing>{} : placeLine(guitar, lineOf(some, guitar), wishes(), most);
}

void PhraseKeeper::placeAnew(std::size_t way) {
  const Guitar guitar = view().guitar;
  const auto ways = refingered(chosenNotes(), guitar, guitar, 0, wishes(), way + 1);
  if (way >= ways.size()) return;
  changeChosen(tr("Another place on the neck"), [&](Note& n) {
    for (const Note& placed : ways[way].notes)
      if (placed.id == n.id) n = placed;
  });
}

void PhraseKeeper::replaceNotes(const std::string& part, std::vector<Note> fresh) {
  const Phrase* now = phrase();
  if (now == nullptr) return;
  if (part == now->part || part.empty())
    return edit(tr("Another place for the phrase"), [&](std::vector<Note>& all, int) { all = std::move(fresh); });
  Phrase other = *now;
  other.id = freshId(bench_.document().study(), "phrase");
  other.part = part, other.faith = Faith::arranged;
  other.link.reset();
  int id = freshNoteId(bench_.document().study().phrases);
  for (Note& n : fresh) n.id = id++;
  Arrangement level;
  level.notes = std::move(fresh);
  other.levels.change() = {level};
  bench_.document().edit(tr("A phrase of another guitar").toStdString(), [&](Study& s) { s.phrases.push_back(other); });
  open(other.id);
}

void PhraseKeeper::transpose(int semitones) {
  if (chosen_.empty()) chooseAll();
  const Guitar guitar = view().guitar;
  const auto ways = refingered(chosenNotes(), guitar, guitar, semitones, {}, 1);
  if (ways.empty()) return;
  if (const auto lost = static_cast<int>(ways.front().unplayable.size()); lost > 0)
    bench_.say(tr("%1 cannot be played there and stayed where they were.").arg(counted(lost, tr("note"), tr("notes"))));
  changeChosen(tr("Transpose"), [&](Note& n) {
    for (const Note& placed : ways.front().notes)
      if (placed.id == n.id) n = placed;
  });
}

void PhraseKeeper::proposeFingers() {
  const std::vector<Note> all = notes();
  const auto fingers = proposedFingers(all);
  edit(tr("Propose fingers"), [&](std::vector<Note>& edited, int) {
    for (Note& n : edited)
      for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].id == n.id && (chosen_.empty() || chosen_.contains(n.id)))
          n.finger = fingers[i].finger, n.barred = fingers[i].barred;
  });
}

void PhraseKeeper::quantise(int parts) {
  const Phrase* p = phrase();
  if (p == nullptr) return;
  const PhraseTime time = timing(*p);
  if (!time.known()) return bench_.say(tr("The beats of this take are not known. Tap the beat with T."));
  double most = 0;
  int moved = 0;
  edit(tr("Put on the beat"), [&](std::vector<Note>& all, int) {
    for (Note& n : all) {
      if (!chosen_.empty() && !chosen_.contains(n.id)) continue;
      const Seconds was = n.free ? n.free->start : time.timeOf(n.at);
      const double place = n.free ? time.placeOf(n.free->start) : n.at.value();
      const Beats to(std::llround(place * parts), parts);
      if (n.free) {
        n.length = std::max(Beats(1, parts), Beats(std::llround(time.placeOf(n.free->end) * parts), parts) - to);
        n.free.reset();
      } else if (to == n.at) {
        continue;
      }
      n.at = to;
      most = std::max(most, std::abs((time.timeOf(to) - was).value));
      ++moved;
    }
  });
  bench_.say(moved == 0 ? tr("Every note is on that raster already.")
                        : tr("%1 moved, by %2 ms at most.")
                              .arg(counted(moved, tr("note"), tr("notes")))
                              .arg(std::lround(most * 1000)));
}

void PhraseKeeper::scaleChosenLength(Beats factor) {
  changeChosen(tr("Note lengths"), [&](Note& n) {
    if (const Beats length = n.length * factor; length.sane() && length >= Beats(1, 16) && length <= Beats(64))
      n.length = length;
  });
}

void PhraseKeeper::confirmChosen() {
  changeChosen(tr("Confirm notes by ear"), [](Note& n) {
    n.origin = Origin::confirmed;
    n.certainty = 1.0;
  });
}

/// Of the chosen notes, else of the passage where it is a part of the phrase.
std::optional<std::pair<Beats, Beats>> PhraseKeeper::stretchInHand() const {
  const auto some = chosenNotes();
  if (!some.empty()) {
    Beats from = some.front().at, to = from;
    for (const Note& n : some) from = std::min(from, n.at), to = std::max(to, n.end());
    return std::pair{from, to};
  }
  const Phrase* p = phrase();
  const auto& passage = bench_.selection().passage();
  if (p == nullptr || !passage || !view().timed) return std::nullopt;
  const auto place = [&](Seconds t) { return Beats(std::llround(placeOf(*p, t) * 4), 4); };
  const Beats from = place(passage->start), to = place(passage->end);
  return from < to ? std::optional(std::pair{from, to}) : std::nullopt;
}

void PhraseKeeper::markStretch(OpenStretch::Kind kind) {
  const auto stretch = stretchInHand();
  if (phrase() == nullptr || !stretch)
    return bench_.say(tr("Choose the notes that it is about, or take the part of the phrase as the passage."));
  if (phrase()->link && level_ == 0)
    return bench_.say(tr("This phrase is a repeat: mark it in the one that it is the same as, or make it its own."));
  const auto [from, to] = *stretch;
  describe(kind == OpenStretch::Kind::unclear ? tr("Mark an unclear spot") : tr("Mark a free fill"),
           [&, from = from, to = to](Phrase& p) {
             auto& open = p.levels.change()[level_].open;
             const auto count = std::erase_if(
                 open, [&](const OpenStretch& o) { return o.kind == kind && o.from < to && from < o.to; });
             if (count == 0) open.push_back({from, to, kind});
           });
}

void PhraseKeeper::markHardest() {
  const auto stretch = stretchInHand();
  if (phrase() == nullptr || !stretch)
    return bench_.say(tr("Choose the notes that it is about, or take the part of the phrase as the passage."));
  describe(tr("Mark the hardest spot"), [&](Phrase& p) {
    auto& hardest = p.levels.change()[level_].hardest;
    hardest = hardest == stretch ? std::nullopt : stretch;
  });
}

void PhraseKeeper::takeReading(int id, std::size_t which) {
  choose({id});
  changeChosen(tr("Take the other reading"), [&](Note& n) {
    if (which >= n.readings.size()) return;
    // What it was read as before stays beside it.
    const NoteReading before{n.at, n.length, n.place, n.bend, n.certainty, n.why};
    const NoteReading now = n.readings[which];
    n.readings[which] = before;
    n.at = now.at, n.length = now.length, n.place = now.place, n.bend = now.bend;
    n.certainty = now.certainty, n.why = now.why;
    n.origin = Origin::set;
  });
}

void PhraseKeeper::copyChosen() {
  if (auto some = chosenNotes(); !some.empty()) {
    const Beats start = some.front().at;
    for (Note& n : some) n.at -= start;
    copied_ = std::move(some);
  }
}

void PhraseKeeper::paste() {
  if (copied_.empty()) return;
  std::vector<Note> fresh = copied_;
  for (Note& n : fresh) n.at += caret_.at;
  putNotes(tr("Paste notes"), std::move(fresh));
}

}  // namespace ear
