// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/selection.h"

#include <algorithm>

#include "app/workbench/analysis.h"
#include "app/workbench/session.h"
#include "app/workbench/transport.h"
#include "core/base/text.h"

namespace ear {

Selection::Selection(Session& session, Transport& transport, Analysis& analysis, QObject* parent)
    : QObject(parent), session_(session), transport_(transport), analysis_(analysis) {
  connect(&session, &Session::studyLeaving, this, &Selection::forgetAll);
  connect(&session, &Session::documentChanged, this, &Selection::followStudy);
  connect(&session, &Session::takeLeaving, this, &Selection::leaveTake);
  connect(&session, &Session::takeEntered, this, &Selection::enterTake);
  connect(&analysis, &Analysis::soundReady, this, &Selection::startWithSound);
}

void Selection::applyLoop() {
  transport_.mixer().setLoop(looping_ ? passage_ : std::nullopt);
}

void Selection::set(std::optional<TimeSpan> span) {
  if (span) {
    if (span->end < span->start) std::swap(span->start, span->end);
    const Seconds shortest(Player::kShortestLoop), all = analysis_.duration();
    span->start = std::clamp(span->start, Seconds(0), std::max(Seconds(0), all - shortest));
    span->end = std::clamp(span->end, span->start + shortest, std::max(span->start + shortest, all));
  } else {
    letGo();
  }
  passage_ = span;
  applyLoop();
  emit changed();
}

void Selection::put(TimeSpan span) {
  set(std::nullopt);
  set(span);
  if (!passage_->contains(transport_.position())) transport_.seek(passage_->start);
  emit opened();
}

void Selection::goTo(Seconds to) {
  if (passage_ && !passage_->contains(to)) set(std::nullopt);
  transport_.seek(to);
}

void Selection::playSpot(TimeSpan span, bool shown) {
  if (!transport_.hasSound()) return;
  setLooping(true);
  set(std::nullopt);
  set(TimeSpan{std::max(Seconds(0), span.start), std::min(analysis_.duration(), span.end)});
  if (shown) emit opened();
  transport_.seek(passage_->start);
  if (!transport_.playing()) transport_.togglePlay();
}

void Selection::nudgeStart(Seconds by) {
  if (passage_)
    set(TimeSpan{std::min(passage_->start + by, passage_->end - Seconds(Player::kShortestLoop)), passage_->end});
}

void Selection::nudgeEnd(Seconds by) {
  if (passage_)
    set(TimeSpan{passage_->start, std::max(passage_->end + by, passage_->start + Seconds(Player::kShortestLoop))});
}

void Selection::setLooping(bool on) {
  looping_ = on;
  applyLoop();
  emit changed();
}

// --- kept passages ---------------------------------------------------------------------------------------------

Passage::Settings Selection::onDesk() const {
  const PlaybackSettings& sounding = transport_.sounding();
  return {passage_.value_or(TimeSpan{}), sounding.speed, sounding.shift, sounding.isolation};
}

void Selection::putOnDesk(const Passage::Settings& settings) {
  passage_ = settings.span;
  applyLoop();
  transport_.setPlayback(settings.speed, settings.shift, settings.isolation);
  emit changed();
}

bool Selection::differsFromKept() const {
  return !keptId_.empty() && passage_ && onDesk() != kept_;
}

/// The kept passage on the desk is let go of. A change of it is not lost: it is there when it is opened again.
void Selection::letGo() {
  if (keptId_.empty()) return;
  if (differsFromKept())
    changed_[keptId_] = onDesk();
  else
    changed_.erase(keptId_);
  keptId_.clear();
}

/// Undo may move or take away the kept passage on the desk. What was only changed on the desk stays as it is.
void Selection::followStudy() {
  if (keptId_.empty()) return;
  const Passage* p = session_.document().study().passage(keptId_);
  if (p == nullptr) {
    keptId_.clear();
    emit changed();
    return;
  }
  if (p->settings() == kept_) return;
  kept_ = p->settings();
  putOnDesk(kept_);
}

/// The guitar that a passage belongs to comes to hand, where the take still has it.
void Selection::takePartInHand(const std::string& id) {
  Document& document = session_.document();
  const bool there = std::ranges::any_of(document.parts(), [&](const GuitarPart& p) { return p.id == id; });
  if (there && document.part().id != id) document.takeInHand(id);
}

void Selection::open(const std::string& id) {
  const Passage* found = session_.document().study().passage(id);
  if (found == nullptr) return;
  const Passage p = *found;
  letGo();
  session_.activateTake(p.take);
  session_.document().endMerge();
  takePartInHand(p.part);
  kept_ = p.settings();
  const auto before = changed_.find(id);
  putOnDesk(before != changed_.end() ? before->second : kept_);
  keptId_ = id;
  if (!transport_.playing() || !passage_->contains(transport_.position())) transport_.seek(passage_->start);
  emit changed();
  emit opened();
}

void Selection::keep() {
  if (!passage_ || session_.take() == nullptr) return;
  Document& document = session_.document();
  if (!keptId_.empty()) {
    if (!differsFromKept()) return;
    changed_.erase(keptId_);
    kept_ = onDesk();
    document.edit("Keep the change of the passage", [&](Study& s) { s.passage(keptId_)->keep(kept_); });
    emit changed();
    return;
  }
  Passage p;
  p.id = freshId(document.study(), "passage");
  p.take = session_.take()->id;
  p.name = "Passage at " + clockTenths(passage_->start);
  p.part = document.part().id;
  p.keep(onDesk());
  if (!document.edit("Keep passage", [&](Study& s) { s.passages.push_back(p); })) return;
  keptId_ = p.id;
  kept_ = document.study().passage(p.id)->settings();
  emit changed();
}

void Selection::backToKept() {
  if (keptId_.empty()) return;
  if (differsFromKept()) {
    changed_[keptId_] = onDesk();
    putOnDesk(kept_);
    session_.say(tr("The passage is heard as it is kept. The same key brings your change back."));
  } else if (const auto before = changed_.find(keptId_); before != changed_.end()) {
    putOnDesk(before->second);
  }
}

void Selection::remove(const std::string& id) {
  session_.document().edit("Remove passage",
                           [&](Study& s) { s.passages.removeIf([&](const Passage& p) { return p.id == id; }); });
  emit changed();
}

// --- from take to take -----------------------------------------------------------------------------------------

void Selection::forgetAll() {
  passage_.reset();
  keptId_.clear();
  changed_.clear();
  left_.clear();
  resumeAt_.reset();
  emit changed();
}

void Selection::leaveTake() {
  if (const Take* take = session_.take()) left_[take->id] = {transport_.position(), passage_, keptId_};
  letGo();
  passage_.reset();
}

void Selection::enterTake() {
  resumeAt_.reset();
  const auto left = session_.take() != nullptr ? left_.find(session_.take()->id) : left_.end();
  if (left != left_.end()) {
    passage_ = left->second.passage;
    resumeAt_ = left->second.position;
    if (const Passage* kept = session_.document().study().passage(left->second.keptId))
      keptId_ = kept->id, kept_ = kept->settings();
  }
  emit changed();
}

void Selection::startWithSound() {
  applyLoop();
  if (resumeAt_ || passage_) transport_.seek(resumeAt_ ? *resumeAt_ : passage_->start);
  resumeAt_.reset();
  if (passage_) emit opened();
}

}  // namespace ear
