// SPDX-License-Identifier: GPL-3.0-or-later
// How the recording is heard: the part of class Workbench that sets speed, pitch, isolation, and the guitar in hand.

#include <algorithm>

#include "app/workbench/workbench.h"

namespace ear {

/// Gives the player what is set.
void Workbench::sound() {
  Sounding sounding = player_.sounding();
  sounding.isolation = isolating_ ? isolation_ : Isolation{};
  player_.setSounding(sounding);
}

void Workbench::setSounding(double speed, Cents shift, const Isolation& isolation) {
  if (!isolation.plain()) isolation_ = isolation;
  isolating_ = !isolation.plain();
  player_.setSounding({speed, shift, isolation});
}

void Workbench::setSpeed(double speed) {
  setSounding(speed, player_.sounding().shift, player_.sounding().isolation);
  emit settingsChanged();
}

void Workbench::setShift(Cents shift) {
  concertAwaited_ = false;
  setSounding(player_.sounding().speed, shift, player_.sounding().isolation);
  emit settingsChanged();
}

void Workbench::setIsolation(const Isolation& isolation) {
  isolation_ = withinLimits(isolation);
  isolating_ = !isolation_.plain();
  sound();
  emit settingsChanged();
}

void Workbench::setIsolating(bool on) {
  isolating_ = on && !isolation_.plain();
  if (on && !isolating_) emit said(tr("Nothing is isolated yet: choose a side, a place, a part or a band first."));
  sound();
  emit settingsChanged();
}

void Workbench::setVolume(double volume) {
  player_.setVolume(std::clamp(volume, 0.0, 1.0));
  emit settingsChanged();
}

Cents Workbench::recordingPitch() const {
  return document_->offset();
}

Cents Workbench::shiftToConcert() const {
  return -recordingPitch();
}

std::vector<PlaybackShift> Workbench::meetings() const {
  return playbackShifts(document_->setup(), recordingPitch());
}

void Workbench::meetGuitar() {
  auto ways = meetings();
  // Concert pitch has a key of its own; here it would stand in the way of what is wanted more.
  if (ways.size() > 2 && ways[1].shift == shiftToConcert()) ways.erase(ways.begin() + 1);
  const auto now = std::find_if(ways.begin(), ways.end(),
                                [&](const PlaybackShift& way) { return way.shift == player_.sounding().shift; });
  const auto next = now == ways.end() || now + 1 == ways.end() ? ways.begin() : now + 1;
  setShift(next->shift);
  emit said(QStringLiteral("%1: %2").arg(QString::fromStdString(next->name), QString::fromStdString(next->effect)));
}

void Workbench::nextGuitar() {
  const auto all = document_->parts();
  const std::string now = document_->part().id;
  const auto found = std::find_if(all.begin(), all.end(), [&](const GuitarPart& p) { return p.id == now; });
  if (all.size() < 2 || found == all.end()) return;
  const GuitarPart& next = found + 1 == all.end() ? all.front() : *(found + 1);
  document_->takeInHand(next.id);
  emit said(
      tr("In hand: %1, %2")
          .arg(QString::fromStdString(next.name),
               QString::fromStdString(isSettled(brief().guitar) ? sentenceOf(document_->setup()) : "not settled yet")));
}

Cents Workbench::soundingOffset() const {
  return recordingPitch() + player_.sounding().shift;
}

}  // namespace ear
