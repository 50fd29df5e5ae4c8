// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/document.h"

#include <algorithm>
#include <tuple>

#include "core/study/validity.h"

namespace ear {
namespace {
constexpr std::size_t kMostSteps = 500;

/// What no undo takes back.
void takeWhatHappened(Study& study, const Study& from) {
  study.log = from.log, study.ear = from.ear, study.revisions = from.revisions, study.lessons = from.lessons;
}
}  // namespace

Document::Document(Study study, Measurements measurements)
    : study_(std::move(study)), measurements_(std::move(measurements)) {
  tidy(study_);
  if (!study_.takes.empty()) active_ = study_.takes.front().id;
}

Changed differences(const Study& a, const Study& b) {
  Changed all = Changed::nothing;
  const auto note = [&all](bool differs, Changed what) { all = differs ? all | what : all; };
  note(a.title != b.title, Changed::title);
  note(a.takes.size() != b.takes.size(), Changed::takes);
  for (std::size_t i = 0; i < std::min(a.takes.size(), b.takes.size()); ++i) {
    const Take &was = a.takes[i], &is = b.takes[i];
    if (&was == &is) continue;
    const auto facts = [](const Take& t) { return std::tie(t.id, t.name, t.kind, t.file, t.hash, t.duration); };
    note(facts(was) != facts(is), Changed::takes);
    note(was.pitch != is.pitch, Changed::pitch);
    note(was.key != is.key, Changed::key);
    note(was.time != is.time || was.grid != is.grid, Changed::time);
    note(was.form != is.form, Changed::form);
    note(was.cues != is.cues, Changed::cues);
    note(was.chords != is.chords, Changed::chords);
  }
  note(a.parts != b.parts, Changed::parts);
  note(a.passages != b.passages, Changed::passages);
  note(a.phrases != b.phrases, Changed::phrases);
  note(a.questions != b.questions, Changed::questions);
  note(a.notes != b.notes, Changed::notes);
  note(a.plans != b.plans, Changed::plans);
  note(a.log != b.log || a.revisions != b.revisions || a.lessons != b.lessons, Changed::log);
  note(a.ear != b.ear, Changed::ear);
  note(a.audioForStudents != b.audioForStudents, Changed::title);
  return all;
}

void Document::notify(Changed what) {
  if (touches(what, kOfBrief)) brief_.reset();
  if (touches(what, kOfTake | Changed::chords)) chords_.reset();
  if (touches(what, kOfTake)) entries_.reset();
  if (changed) changed(what);
}

std::optional<Study> Document::after(const std::function<void(Study&)>& change) const {
  Study next = study_;
  change(next);
  tidy(next, &study_);
  const auto fault = faultOf(next, &study_);
  if (!fault) return next;
  if (refused) refused("That was not done: " + *fault + ".");
  return std::nullopt;
}

bool Document::edit(const std::string& label, const std::function<void(Study&)>& change, const std::string& merge) {
  auto next = after(change);
  if (!next) return false;
  const Changed what = differences(study_, *next);
  if (what == Changed::nothing) return false;
  if (merge.empty() || merge != mergeKey_ || past_.empty()) {
    past_.push_back({label, study_});
    if (past_.size() > kMostSteps) past_.erase(past_.begin());
  }
  mergeKey_ = merge;
  future_.clear();
  study_ = *std::move(next);
  modified_ = worked_ = true;
  notify(what | Changed::history);
  return true;
}

void Document::settle(const std::function<void(Study&)>& fact) {
  auto next = after(fact);
  if (!next) return;
  const Changed what = differences(study_, *next);
  study_ = *std::move(next);
  for (auto* steps : {&past_, &future_})
    for (Step& step : *steps) fact(step.state);
  modified_ = true;
  notify(what | Changed::history);
}

void Document::record(const std::function<void(Study&)>& event) {
  auto next = after([&](Study& s) {
    Study happened = s;
    event(happened);
    takeWhatHappened(s, happened);
  });
  if (!next) return;
  const Changed what = differences(study_, *next);
  study_ = *std::move(next);
  modified_ = true;
  notify(what | Changed::history);
}

void Document::turnTo(Study state) {
  takeWhatHappened(state, study_);
  tidy(state);  // of facts settled meanwhile; here once, not in each of hundreds of steps
  const Changed what = differences(study_, state);
  study_ = std::move(state);
  mergeKey_.clear();
  modified_ = worked_ = true;
  notify(what | Changed::history);
}

void Document::undo() {
  if (past_.empty()) return;
  Step step = std::move(past_.back());
  past_.pop_back();
  future_.push_back({step.label, study_});
  turnTo(std::move(step.state));
}

void Document::redo() {
  if (future_.empty()) return;
  Step step = std::move(future_.back());
  future_.pop_back();
  past_.push_back({step.label, study_});
  turnTo(std::move(step.state));
}

void Document::setMeasured(const std::string& take, std::shared_ptr<const Findings> findings) {
  measurements_[take] = std::move(findings);
  modified_ = true;
  notify(Changed::measured | Changed::history);
}

const Findings* Document::findings(const std::string& take) const {
  const auto found = measurements_.find(take);
  return found == measurements_.end() ? nullptr : found->second.get();
}

const Take* Document::activeTake() const {
  const Take* take = study_.take(active_);
  return take != nullptr || study_.takes.empty() ? take : &study_.takes.front();
}

void Document::activate(const std::string& take) {
  if (activeTake() != nullptr) handSide_ = part().side;
  active_ = take;
  notify(Changed::desk);
}

std::vector<GuitarPart> Document::parts() const {
  const Take* take = activeTake();
  return take != nullptr ? partsOf(study_, *take, findings(take->id)) : std::vector<GuitarPart>{};
}

GuitarPart Document::part() const {
  const auto all = parts();
  for (const auto& p : all)
    if (p.id == inHand_) return p;
  for (const auto& p : all)
    if (p.side == handSide_) return p;
  return all.empty() ? GuitarPart{} : all.front();
}

void Document::takeInHand(const std::string& part) {
  inHand_ = part;
  notify(Changed::desk);
}

GuitarSetup Document::setup() const {
  return settled(brief().guitar).value_or(GuitarSetup{});
}

Cents Document::offset() const {
  return settled(brief().pitch).value_or(PitchValue{}).offset;
}

Guitar Document::guitar() const {
  Guitar guitar = guitarOf(setup(), offset());
  guitar.frets = part().frets;
  return guitar;
}

void Document::editPart(const std::string& label, const std::string& id,
                        const std::function<void(GuitarPart&)>& change) {
  const Take* take = activeTake();
  if (take == nullptr) return;
  edit(label, [&, found = findings(take->id), on = *take](Study& s) {
    keepParts(s, on, found);
    if (GuitarPart* part = s.part(id)) change(*part);
  });
}

const Brief& Document::brief() const {
  const Take* take = activeTake();
  if (!brief_) brief_ = take != nullptr ? briefOf(*take, part(), findings(take->id)) : Brief{};
  return *brief_;
}

const std::vector<ShownChord>& Document::chords() const {
  const Take* take = activeTake();
  if (!chords_) chords_ = take != nullptr ? chordsOf(*take, findings(take->id)) : std::vector<ShownChord>{};
  return *chords_;
}

const std::vector<SideEntry>& Document::entries() const {
  const Take* take = activeTake();
  const Findings* found = take != nullptr ? findings(take->id) : nullptr;
  if (!entries_) entries_ = found != nullptr ? sideEntries(found->sides) : std::vector<SideEntry>{};
  return *entries_;
}

}  // namespace ear
