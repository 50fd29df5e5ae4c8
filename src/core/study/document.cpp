// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/document.h"

#include "core/study/validity.h"

namespace ear {
namespace {
constexpr std::size_t kMostSteps = 500;
}

Document::Document(Study study, Measurements measurements)
    : study_(std::move(study)), measurements_(std::move(measurements)) {
  if (!study_.takes.empty()) active_ = study_.takes.front().id;
}

void Document::notify() {
  brief_.reset();
  chords_.reset();
  entries_.reset();
  if (changed) changed();
}

std::optional<Study> Document::after(const std::function<void(Study&)>& change) const {
  Study next = study_;
  change(next);
  tidy(next);
  const auto fault = faultOf(next);
  if (!fault) return next;
  if (refused) refused("That was not done: " + *fault + ".");
  return std::nullopt;
}

bool Document::edit(const std::string& label, const std::function<void(Study&)>& change, const std::string& merge) {
  auto next = after(change);
  if (!next || *next == study_) return false;
  if (merge.empty() || merge != mergeKey_ || past_.empty()) {
    past_.push_back({label, study_});
    if (past_.size() > kMostSteps) past_.erase(past_.begin());
  }
  mergeKey_ = merge;
  future_.clear();
  study_ = *std::move(next);
  modified_ = worked_ = true;
  notify();
  return true;
}

void Document::settle(const std::function<void(Study&)>& fact) {
  auto next = after(fact);
  if (!next) return;
  study_ = *std::move(next);
  for (auto* steps : {&past_, &future_})
    for (Step& step : *steps) fact(step.state);
  modified_ = true;
  notify();
}

void Document::undo() {
  if (past_.empty()) return;
  future_.push_back({past_.back().label, std::move(study_)});
  study_ = std::move(past_.back().state);
  tidy(study_);  // of facts settled meanwhile; here once, not in each of hundreds of steps
  past_.pop_back();
  mergeKey_.clear();
  modified_ = worked_ = true;
  notify();
}

void Document::redo() {
  if (future_.empty()) return;
  past_.push_back({future_.back().label, std::move(study_)});
  study_ = std::move(future_.back().state);
  tidy(study_);
  future_.pop_back();
  mergeKey_.clear();
  modified_ = worked_ = true;
  notify();
}

void Document::setMeasured(const std::string& take, std::shared_ptr<const Findings> findings) {
  measurements_[take] = std::move(findings);
  modified_ = true;
  notify();
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
  notify();
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
  notify();
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
