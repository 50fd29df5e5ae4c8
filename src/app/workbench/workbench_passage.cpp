// SPDX-License-Identifier: GPL-3.0-or-later
// The passage in hand, kept or not: the part of class Workbench that moves its edges and remembers how it is heard.

#include <algorithm>

#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {

void Workbench::applyLoop() {
  player_.setLoop(looping_ ? passage_ : std::nullopt);
}

void Workbench::setPassage(std::optional<TimeSpan> span) {
  if (span) {
    if (span->end < span->start) std::swap(span->start, span->end);
    const Seconds shortest(Player::kShortestLoop), all = duration();
    span->start = std::clamp(span->start, Seconds(0), std::max(Seconds(0), all - shortest));
    span->end = std::clamp(span->end, span->start + shortest, std::max(span->start + shortest, all));
  } else {
    leavePassage();
  }
  passage_ = span;
  applyLoop();
  emit settingsChanged();
}

void Workbench::putPassage(TimeSpan span) {
  setPassage(std::nullopt);
  setPassage(span);
  if (!passage_->contains(position())) seek(passage_->start);
  emit passageOpened();
}

void Workbench::nudgeStart(Seconds by) {
  if (passage_)
    setPassage(TimeSpan{std::min(passage_->start + by, passage_->end - Seconds(Player::kShortestLoop)), passage_->end});
}

void Workbench::nudgeEnd(Seconds by) {
  if (passage_)
    setPassage(
        TimeSpan{passage_->start, std::max(passage_->end + by, passage_->start + Seconds(Player::kShortestLoop))});
}

void Workbench::setLooping(bool on) {
  looping_ = on;
  applyLoop();
  emit settingsChanged();
}

Passage::Settings Workbench::onDesk() const {
  const Sounding& sounding = player_.sounding();
  return {passage_.value_or(TimeSpan{}), sounding.speed, sounding.shift, sounding.isolation};
}

void Workbench::putOnDesk(const Passage::Settings& settings) {
  passage_ = settings.span;
  setSounding(settings.speed, settings.shift, settings.isolation);
  applyLoop();
  emit settingsChanged();
}

bool Workbench::passageChanged() const {
  return !passageId_.empty() && passage_ && onDesk() != kept_;
}

/// The kept passage on the desk is let go of. A change of it is not lost: it is there when it is opened again.
void Workbench::leavePassage() {
  if (passageId_.empty()) return;
  if (passageChanged())
    changed_[passageId_] = onDesk();
  else
    changed_.erase(passageId_);
  passageId_.clear();
}

/// Undo may move or take away the kept passage on the desk. What was only changed on the desk stays as it is.
void Workbench::followPassage() {
  if (passageId_.empty()) return;
  const Passage* p = document_->study().passage(passageId_);
  if (p == nullptr) {
    passageId_.clear();
    emit settingsChanged();
    return;
  }
  if (p->settings() == kept_) return;
  kept_ = p->settings();
  putOnDesk(kept_);
}

/// The guitar that a passage belongs to comes to hand, where the take still has it.
void Workbench::takePartInHand(const std::string& id) {
  const auto parts = document_->parts();
  const bool there = std::any_of(parts.begin(), parts.end(), [&](const GuitarPart& p) { return p.id == id; });
  if (there && document_->part().id != id) document_->takeInHand(id);
}

void Workbench::openPassage(const std::string& id) {
  const Passage* found = document_->study().passage(id);
  if (found == nullptr) return;
  const Passage p = *found;
  leavePassage();
  if (take() == nullptr || p.take != take()->id) activateTake(p.take);
  document_->endMerge();
  takePartInHand(p.part);
  kept_ = p.settings();
  const auto before = changed_.find(id);
  putOnDesk(before != changed_.end() ? before->second : kept_);
  passageId_ = id;
  if (!player_.playing() || !passage_->contains(player_.position())) seek(passage_->start);
  emit settingsChanged();
  emit passageOpened();
}

void Workbench::keepPassage() {
  if (!passage_ || take() == nullptr) return;
  if (!passageId_.empty()) {
    if (!passageChanged()) return;
    changed_.erase(passageId_);
    kept_ = onDesk();
    document_->edit("Keep the change of the passage", [&](Study& s) { s.passage(passageId_)->keep(kept_); });
    emit settingsChanged();
    return;
  }
  Passage p;
  p.id = freshId(document_->study(), "passage");
  p.take = take()->id;
  p.name = "Passage at " + clockTenths(passage_->start);
  p.part = document_->part().id;
  p.keep(onDesk());
  if (!document_->edit("Keep passage", [&](Study& s) { s.passages.push_back(p); })) return;
  passageId_ = p.id;
  kept_ = document_->study().passage(p.id)->settings();
  emit settingsChanged();
}

void Workbench::backToKept() {
  if (passageId_.empty()) return;
  if (passageChanged()) {
    changed_[passageId_] = onDesk();
    putOnDesk(kept_);
    emit said(tr("The passage is heard as it is kept. The same key brings your change back."));
  } else if (const auto before = changed_.find(passageId_); before != changed_.end()) {
    putOnDesk(before->second);
  }
}

void Workbench::removePassage(const std::string& id) {
  document_->edit("Remove passage",
                  [&](Study& s) { s.passages.removeIf([&](const Passage& p) { return p.id == id; }); });
  emit settingsChanged();
}

}  // namespace ear
