// The passage in hand, kept or not: the part of class Workbench that moves its edges and remembers how it is heard.

#include <algorithm>

#include "app/workbench/workbench.h"
#include "core/text.h"

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
    passageId_.clear();
  }
  passage_ = span;
  applyLoop();
  rememberSettings();
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

/// Undo may move or take away the kept passage on the desk.
void Workbench::followPassage() {
  if (passageId_.empty()) return;
  const Passage* p = document_->study().passage(passageId_);
  if (p == nullptr) {
    passageId_.clear();
    emit settingsChanged();
    return;
  }
  const Sounding sounding{p->speed, p->shift, p->isolation};
  if (passage_ == p->span && player_.sounding() == sounding) return;
  passage_ = p->span;
  setSounding(p->speed, p->shift, p->isolation);
  applyLoop();
  emit settingsChanged();
}

/// A kept passage keeps its edges, speed and shift as they are changed on the desk.
void Workbench::rememberSettings() {
  if (passageId_.empty() || !passage_) return;
  document_->edit(
      "Change passage",
      [&](Study& s) {
        Passage* p = s.passage(passageId_);
        p->span = *passage_;
        p->speed = player_.sounding().speed;
        p->shift = player_.sounding().shift;
        p->isolation = player_.sounding().isolation;
      },
      "passage " + passageId_);
}

void Workbench::openPassage(const std::string& id) {
  const Passage* found = document_->study().passage(id);
  if (found == nullptr) return;
  const Passage p = *found;
  passageId_.clear();
  if (take() == nullptr || p.take != take()->id) activateTake(p.take);
  document_->endMerge();
  setSounding(p.speed, p.shift, p.isolation);
  setPassage(p.span);
  passageId_ = id;
  if (!player_.playing() || !p.span.contains(player_.position())) seek(p.span.start);
  emit settingsChanged();
  emit passageOpened();
}

void Workbench::keepPassage() {
  if (!passage_ || take() == nullptr || !passageId_.empty()) return;
  Passage p;
  p.id = freshId(document_->study(), "passage");
  p.take = take()->id;
  p.name = "Passage at " + clockTenths(passage_->start);
  p.span = *passage_;
  p.speed = player_.sounding().speed;
  p.shift = player_.sounding().shift;
  p.isolation = player_.sounding().isolation;
  document_->edit("Keep passage", [&](Study& s) { s.passages.push_back(p); });
  passageId_ = p.id;
  emit settingsChanged();
}

void Workbench::removePassage(const std::string& id) {
  document_->edit("Remove passage",
                  [&](Study& s) { std::erase_if(s.passages, [&](const Passage& p) { return p.id == id; }); });
  emit settingsChanged();
}

}  // namespace ear
