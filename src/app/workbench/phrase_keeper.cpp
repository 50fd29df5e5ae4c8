// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/phrase_keeper.h"

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/sheet/engraved_phrase.h"

namespace ear {
namespace {}  // namespace

PhraseKeeper::PhraseKeeper(Workbench& bench) : QObject(&bench), bench_(bench) {
  bench.session().whenChanged(kOfBrief | Changed::phrases | Changed::title, this, [this] { forget(); });
  connect(&bench.session(), &Session::studyReplaced, this, [this] { id_.clear(), copied_.clear(); });
  connect(&bench.session(), &Session::takeEntered, this, [this] { id_.clear(), forget(), followSelection(); });
  connect(&bench.selection(), &Selection::changed, this, &PhraseKeeper::followSelection);
}

void PhraseKeeper::forget() {
  views_.clear();
  maps_.clear();
  const Phrase* now = phrase();
  if (now == nullptr) {
    id_.clear(), chosen_.clear(), level_ = 0;
  } else {
    level_ = std::min(level_, now->levels->size() - 1);
    std::erase_if(chosen_, [&notes = notes()](int id) {
      return std::none_of(notes.begin(), notes.end(), [id](const Note& n) { return n.id == id; });
    });
  }
  emit changed();
}

// --- which -----------------------------------------------------------------------------------------------------

std::vector<const Phrase*> PhraseKeeper::ofTake() const {
  std::vector<const Phrase*> phrases;
  if (bench_.take() == nullptr) return phrases;
  for (const Phrase& p : bench_.document().study().phrases)
    if (p.take == bench_.take()->id) phrases.push_back(&p);
  std::stable_sort(phrases.begin(), phrases.end(),
                   [](const Phrase* a, const Phrase* b) { return a->span.start < b->span.start; });
  return phrases;
}

const Phrase* PhraseKeeper::phrase() const {
  const Study& study = bench_.document().study();
  const Phrase* found = study.phrase(id_);
  return found != nullptr && bench_.take() != nullptr && found->take == bench_.take()->id ? found : nullptr;
}

void PhraseKeeper::open(const std::string& id) {
  const Phrase* wanted = std::as_const(bench_.document()).study().phrase(id);
  if (wanted == nullptr) return;
  const TimeSpan span = wanted->span;
  const std::string part = wanted->part;
  if (id_ != id) chosen_.clear(), level_ = 0;
  id_ = id;
  if (!part.empty()) bench_.document().takeInHand(part);
  bench_.selection().put(span);
  putCaretAtEnd();
  emit opened();
}

void PhraseKeeper::step(bool next) {
  const auto all = ofTake();
  if (all.empty()) return bench_.say(tr("No phrase is written yet. Take a passage and type its notes."));
  const auto here = std::find(all.begin(), all.end(), phrase());
  const auto at = here - all.begin(), count = static_cast<std::ptrdiff_t>(all.size());
  const auto to = here == all.end() ? (next ? 0 : count - 1) : (at + (next ? 1 : count - 1)) % count;
  open(all[static_cast<std::size_t>(to)]->id);
}

/// What is looped is what is written: another phrase under the passage comes to hand, and none where none lies there.
void PhraseKeeper::followSelection() {
  const auto& passage = bench_.selection().passage();
  if (!passage) return;
  const auto holds = [&](const Phrase& p) { return overlap(p.span, *passage) > passage->length() * 0.5; };
  if (const Phrase* now = phrase(); now != nullptr && holds(*now)) return;
  const auto all = ofTake();
  const std::string inHand = bench_.take() == nullptr ? "" : bench_.document().part().id;
  const Phrase* found = nullptr;
  for (const Phrase* p : all)
    if (holds(*p) && (found == nullptr || p->part == inHand)) found = p;
  if (found == nullptr && id_.empty()) return;
  id_ = found != nullptr ? found->id : "";
  chosen_.clear(), level_ = 0;
  putCaretAtEnd();
}

Phrase PhraseKeeper::fresh(const Study& study, TimeSpan span) const {
  Phrase p;
  p.id = freshId(study, "phrase");
  p.take = bench_.take()->id;
  p.part = bench_.document().part().id;
  p.span = span;
  return p;
}

void PhraseKeeper::begin() {
  if (bench_.take() == nullptr || bench_.analysis().duration() <= Seconds(0)) return;
  if (!bench_.selection().passage()) bench_.form().loopHere();
  const auto passage = bench_.selection().passage();
  if (!passage) return;
  const Phrase p = fresh(bench_.document().study(), *passage);
  bench_.document().edit(tr("New phrase").toStdString(), [&](Study& s) { s.phrases.push_back(p); });
  id_ = p.id, level_ = 0;
  chosen_.clear();
  putCaretAtEnd();
}

void PhraseKeeper::repeatHere() {
  const Phrase* original = phrase();
  const auto passage = bench_.selection().passage();
  if (original == nullptr || !passage)
    return bench_.say(tr("Open the phrase that comes again, then drag over where it does."));
  if (overlap(original->span, *passage) > Seconds(0))
    return bench_.say(
        tr("The passage lies in the phrase itself. Drag over where it comes again, and press the key "
           "before anything else is opened."));
  Phrase p = fresh(bench_.document().study(), *passage);
  p.part = original->part;
  p.link = PhraseLink{.to = original->id};
  bench_.document().edit(tr("The same phrase again").toStdString(), [&](Study& s) { s.phrases.push_back(p); });
  open(p.id);
}

void PhraseKeeper::detach() {
  describe(tr("Make the phrase its own"), [this, guitar = view().guitar](Phrase& p) {
    ear::detach(std::as_const(bench_.document()).study().phrases, p, guitar);
  });
}

std::optional<NearRepeat> PhraseKeeper::nearest() const {
  const Phrase* p = phrase();
  return p != nullptr && level_ == 0 ? nearRepeat(bench_.document().study().phrases, *p, view().guitar) : std::nullopt;
}

/// Notes that are alike get the ids of the other phrase, so that only the others are differences.
void PhraseKeeper::linkTo(const std::string& other) {
  const Phrase* original = std::as_const(bench_.document()).study().phrase(other);
  if (original == nullptr) return;
  const auto theirs = viewOf(*original).shown.notes;
  std::vector<Note> own = notes();
  for (Note& n : own)
    for (const ShownNote& t : theirs)
      if (t.note.at == n.at && t.note.place.string == n.place.string) {
        const bool like = t.note.place == n.place && t.note.bend == n.bend && t.note.attack == n.attack;
        const int id = t.note.id;
        if (like) n = t.note;
        n.id = id;
      }
  const Guitar guitar = view().guitar;
  bench_.document().edit(tr("Link the repeat").toStdString(), [&](Study& s) {
    const Pieces<Phrase> phrases = s.phrases;
    ear::linkTo(phrases, *s.phrase(id_), other, own, guitar);
  });
}

void PhraseKeeper::remove() {
  if (phrase() == nullptr) return;
  bench_.document().edit(tr("Remove phrase").toStdString(),
                         [id = id_](Study& s) { s.phrases.removeIf([&](const Phrase& p) { return p.id == id; }); });
}

void PhraseKeeper::describe(const QString& label, const std::function<void(Phrase&)>& change,
                            const std::string& merge) {
  if (phrase() == nullptr) return;
  bench_.document().edit(
      label.toStdString(), [&](Study& s) { change(*s.phrase(id_)); }, merge.empty() ? merge : merge + id_);
}

std::size_t PhraseKeeper::level() const {
  return level_;
}

void PhraseKeeper::setLevel(std::size_t level) {
  const Phrase* p = phrase();
  if (p == nullptr || level >= p->levels->size()) return;
  level_ = level;
  chosen_.clear();
  putCaretAtEnd();
}

void PhraseKeeper::addLevel(const QString& name, std::vector<Note> notes) {
  const Phrase* p = phrase();
  if (p == nullptr) return;
  const std::size_t count = p->levels->size();
  describe(tr("Another level"), [&](Phrase& changed) {
    Arrangement level;
    level.name = name.toStdString();
    level.notes = std::move(notes);
    int id = freshNoteId(bench_.document().study().phrases);
    for (Note& n : level.notes) n.id = id++;
    changed.levels.change().push_back(std::move(level));
  });
  setLevel(count);
}

void PhraseKeeper::removeLevel() {
  if (level_ == 0) return;
  describe(tr("Remove the level"), [level = level_](Phrase& p) {
    auto& levels = p.levels.change();
    levels.erase(levels.begin() + static_cast<std::ptrdiff_t>(level));
  });
}

// --- what it holds ---------------------------------------------------------------------------------------------

PhraseTime PhraseKeeper::timing(const Phrase& phrase) const {
  const Document& document = bench_.document();
  const Take* take = phrase.take.empty() ? bench_.take() : document.study().take(phrase.take);
  const std::string id = take != nullptr ? take->id : "";
  auto map = maps_.find(id);
  if (map == maps_.end()) {
    Grid grid;
    std::optional<TimeValue> time;
    if (take != nullptr) {
      grid = gridOf(*take, document.findings(id));
      time = settled(briefOf(*take, {}, document.findings(id)).time);
    }
    map = maps_.emplace(id, TimeMap(grid, time ? time->swing : Swing{})).first;
  }
  return {phrase, map->second};
}

Seconds PhraseKeeper::timeOf(const Phrase& phrase, Beats place) const {
  const PhraseTime time = timing(phrase);
  return time.known() ? time.timeOf(place) : phrase.span.start + Seconds(place.value());
}

double PhraseKeeper::placeOf(const Phrase& phrase, Seconds at) const {
  return placeIn(phrase, timing(phrase), at);
}

const PhraseKeeper::View& PhraseKeeper::viewOf(const Phrase& phrase, std::size_t level) const {
  const Known key{phrase.id, level};
  const auto found = views_.find(key);
  return found != views_.end() ? found->second : views_.emplace(key, work(phrase, level)).first->second;
}

const PhraseKeeper::View& PhraseKeeper::view() const {
  static const View kNone;
  const Phrase* p = phrase();
  return p != nullptr ? viewOf(*p, level_) : kNone;
}

Guitar PhraseKeeper::guitarOf(const GuitarPart& part) const {
  const Document& document = bench_.document();
  const Findings* findings = document.findings(part.take);
  const auto setup = setupOf(part, findings);
  const Take* take = document.study().take(part.take);
  const auto pitch = take != nullptr ? settled(briefOf(*take, part, findings).pitch) : std::nullopt;
  Guitar guitar =
      ear::guitarOf(isSettled(setup) ? setup->value : GuitarSetup{}, pitch ? pitch->offset : document.offset());
  guitar.frets = part.frets;
  return guitar;
}

PhraseKeeper::View PhraseKeeper::work(const Phrase& phrase, std::size_t level) const {
  View view;
  const Document& document = bench_.document();
  const Take* take = document.study().take(phrase.take);
  const auto parts =
      take != nullptr ? partsOf(document.study(), *take, document.findings(take->id)) : std::vector<GuitarPart>{};
  const auto part = std::find_if(parts.begin(), parts.end(), [&](const GuitarPart& g) { return g.id == phrase.part; });
  view.guitar = part != parts.end() ? guitarOf(*part) : bench_.document().guitar();
  const PhraseTime time = timing(phrase);
  const TabScoreContext context{view.guitar, bench_.session().notation(),
                                part != parts.end() ? part->fretsFromNut : bench_.document().fretsFromNut()};
  // Chords are known of the take on the desk alone.
  const EngravedPhrase engraved =
      engravePhrase(document.study().phrases, phrase, level, context, time,
                    take == document.activeTake() ? document.chords() : std::vector<ShownChord>{});
  view.shown = engraved.shown;
  for (const ShownNote& s : view.shown.notes) view.notes.push_back(s.note);
  view.start = phrase.span.start;
  view.timed = engraved.timed;
  view.score = engraved.score;
  for (std::size_t i = 0; i < engraved.bars.size(); ++i)
    view.barNames << tr("%1   %2").arg(engraved.bars[i]).arg(text(clockTenths(engraved.barTimes[i])));
  for (const auto& [at, c] : engraved.chords) {
    const Session::ChordWords words = bench_.session().chordWords(*c.chord);
    view.chords.emplace_back(at, text(words.sounding) + (words.shape.empty() ? "" : "  " + text(words.shape)));
  }
  for (const ScaleStretch& s : phrase.scales) {
    QString name =
        text(pitchClassName(s.scale.tonic, bench_.session().spelling())) + " " + text(scaleName(s.scale.kind));
    if (s.box > 0) name += tr(", box %1").arg(s.box);
    view.scales.emplace_back(phrase.scales.front() == s ? view.score.from : s.from, name);
  }
  view.slips = slipsIn(view.notes, {view.guitar, phrase.scales, phrase.meant});
  return view;
}

SlipContext PhraseKeeper::slipContext() const {
  const Phrase* p = phrase();
  return p != nullptr ? SlipContext{view().guitar, p->scales, p->meant} : SlipContext{bench_.document().guitar()};
}

PlacingWishes PhraseKeeper::wishes() const {
  PlacingWishes wishes;
  if (const Phrase* p = phrase()) wishes.inUse = placesInBoxes(view().guitar, p->scales);
  return wishes;
}

std::vector<Chord> PhraseKeeper::chordsUnder() const {
  std::vector<Chord> chords;
  const Phrase* p = phrase();
  if (p == nullptr || bench_.take() == nullptr || p->take != bench_.take()->id) return chords;
  for (const ShownChord& c : bench_.document().chords())
    if (c.chord && isSettled(c) && overlap(c.span, p->span) > Transport::kBlink &&
        std::find(chords.begin(), chords.end(), *c.chord) == chords.end())
      chords.push_back(*c.chord);
  return chords;
}

ScaleUse PhraseKeeper::scalesUsed() const {
  const auto key = settled(bench_.brief().key);
  return key ? ear::scalesUsed(view().guitar, notes(), key->tonic) : ScaleUse{};
}

const ScaleStretch* PhraseKeeper::scaleInHand() const {
  const Phrase* p = phrase();
  return p != nullptr ? stretchAt(p->scales, caret_.at) : nullptr;
}

void PhraseKeeper::sayScale(const std::optional<Scale>& scale, int box) {
  describe(tr("Scale of the phrase"), [&](Phrase& p) {
    const ScaleStretch* here = stretchAt(p.scales, caret_.at);
    if (here == nullptr && scale) return p.scales.push_back({Beats(0), *scale, box});
    if (here == nullptr) return;
    const auto at = p.scales.begin() + (here - p.scales.data());
    if (scale)
      at->scale = *scale, at->box = box;
    else
      p.scales.erase(at);
  });
}

void PhraseKeeper::switchScaleHere(const Scale& scale) {
  describe(tr("Another scale from here"), [&](Phrase& p) {
    std::erase_if(p.scales, [this](const ScaleStretch& s) { return s.from == caret_.at; });
    p.scales.push_back({caret_.at, scale});
    std::sort(p.scales.begin(), p.scales.end(),
              [](const ScaleStretch& a, const ScaleStretch& b) { return a.from < b.from; });
  });
}

void PhraseKeeper::sayScalesUsed() {
  describe(tr("Scales of the phrase"), [used = scalesUsed()](Phrase& p) { p.scales = used.stretches; });
}

void PhraseKeeper::meanChosen(bool meant) {
  describe(tr("A note outside of the scale is meant"), [&](Phrase& p) {
    for (const int id : chosen_) meant ? void(p.meant.insert(id)) : void(p.meant.erase(id));
  });
}

}  // namespace ear
