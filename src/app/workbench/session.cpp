// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/session.h"

#include <QFileInfo>

#include "app/workbench/notation_settings.h"
#include "app/workbench/paths.h"
#include "core/base/text.h"

namespace ear {
namespace {

Take takeOf(const Study& study, const QString& file) {
  Take take;
  take.id = freshId(study, "take");
  take.file = toPath(QFileInfo(file).absoluteFilePath());
  take.name = shownPath(take.file.stem());
  return take;
}

}  // namespace

Session::Session(QObject* parent)
    : QObject(parent), document_(std::make_unique<Document>()), schools_(loadNotation()) {}

const Findings* Session::findings() const {
  const Take* active = take();
  return active != nullptr ? document_->findings(active->id) : nullptr;
}

void Session::setStudy(Study study, Measurements measurements, const QString& file) {
  emit studyLeaving();
  document_ = std::make_unique<Document>(std::move(study), std::move(measurements));
  document_->file = toPath(file);
  document_->changed = [this](Changed what) { emit documentChanged(what); };
  document_->refused = [this](const std::string& why) { emit said(QString::fromStdString(why)); };
  emit studyReplaced();
  emit documentChanged(Changed::everything);
}

void Session::newFromRecording(const QString& file) {
  Study study;
  study.takes.push_back(takeOf(study, file));
  study.title = study.takes.front().name;
  setStudy(std::move(study), {}, {});
}

void Session::addTake(const QString& file) {
  const Take fresh = takeOf(document_->study(), file);
  document_->edit("Add take", [&](Study& s) { s.takes.push_back(fresh); });
  activateTake(fresh.id);
}

void Session::activateTake(const std::string& id) {
  if (take() != nullptr && take()->id == id) return;
  emit takeLeaving();
  document_->activate(id);
  emit takeEntered();
}

void Session::nextGuitar() {
  const auto all = document_->parts();
  const std::string now = document_->part().id;
  const auto found = std::find_if(all.begin(), all.end(), [&](const GuitarPart& p) { return p.id == now; });
  if (all.size() < 2 || found == all.end()) return;
  const GuitarPart next = found + 1 == all.end() ? all.front() : *(found + 1);
  document_->takeInHand(next.id);
  emit said(
      tr("In hand: %1, %2")
          .arg(QString::fromStdString(next.name),
               QString::fromStdString(isSettled(brief().guitar) ? sentenceOf(document_->setup()) : "not settled yet")));
}

void Session::markSaved(const QString& file) {
  document_->file = toPath(file);
  document_->markSaved();
  emit documentChanged(Changed::history);
}

void Session::setNotation(const NotationPreferences& schools) {
  schools_ = schools;
  saveNotation(schools_);
  emit documentChanged(Changed::everything);
}

Spelling Session::spelling() const {
  return spellingIn(schools_, settled(brief().key));
}

Session::ChordWords Session::chordWords(const Chord& chord) const {
  ChordWords words{chordName(chord, spelling()), {}};
  const int shift = shapeShift(document_->setup());
  if (shift == 0) return words;
  const Chord shape = transposed(chord, -shift);
  const Key own = ownKey(shape);
  words.shape = chordName(shape, spellingIn(schools_, own));
  return words;
}

}  // namespace ear
