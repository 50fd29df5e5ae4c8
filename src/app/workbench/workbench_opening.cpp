// SPDX-License-Identifier: GPL-3.0-or-later
// How the sound of the active take comes in: the part of class Workbench that opens files and has them listened to.

#include <QFileInfo>
#include <chrono>

#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"
#include "core/audio/decode.h"
#include "core/audio/fingerprint.h"
#include "core/audio/resample.h"
#include "core/base/text.h"
#include "core/listening/listener.h"

namespace ear {
namespace {

constexpr Seconds kLong{600.0};  // from here on a glance shows the recording before it is decoded
constexpr std::size_t kGlances = 512;
constexpr auto kGlanceTime = std::chrono::milliseconds(1500);

/// The recording at a rate the output plays.
std::shared_ptr<const Recording> playable(std::shared_ptr<const Recording> recording,
                                          const std::function<bool(int)>& plays) {
  if (plays(recording->sampleRate)) return recording;
  for (const int rate : {48000, 44100})
    if (plays(rate)) return std::make_shared<const Recording>(resample(*recording, rate));
  return recording;
}

}  // namespace

void Workbench::dropSound() {
  output_->stop();
  outputRuns_ = false;
  player_.load(nullptr);
  envelope_ = {};
  glance_ = {};
  loadedTake_.clear();
  emit soundChanged();
  emit positionChanged();
}

void Workbench::loadTake() {
  dropSound();
  problem_.clear();
  missing_ = false;
  const Take* active = take();
  if (active == nullptr) return;
  loadedTake_ = active->id;
  const auto file = active->file;
  const bool measured = document_->findings(active->id) != nullptr;
  std::error_code error;
  if (!std::filesystem::exists(file, error)) {
    missing_ = true;
    problem_ = tr("The recording “%1” is not where it was. Point to it to hear it again; everything else of the study "
                  "is here.")
                   .arg(QString::fromStdString(shownPath(file.filename())));
    emit listeningChanged();
    return;
  }
  doing_ = tr("Opening “%1”").arg(QString::fromStdString(active->name));
  job_.run([this, file, measured, id = active->id, known = active->hash, plays = output_->rateCheck()](
               const Progress& progress, const BackgroundJob::Post& post) {
    const auto started = std::chrono::steady_clock::now();
    const Glance glance = glanceAt(
        file, kGlances,
        [&](Seconds length) {
          return length < kLong || progress.cancelled() || std::chrono::steady_clock::now() - started > kGlanceTime;
        },
        progress);
    if (!glance.envelope.empty())
      post([this, glance] {
        glance_ = glance;
        emit soundChanged();
      });
    auto decoded = decode(file, progress);
    if (!decoded) {
      if (!progress.cancelled())
        post([this, sentence = decoded.problem()] {
          problem_ = QString::fromStdString(sentence);
          emit said(problem_);
        });
      return;
    }
    const auto recording = std::make_shared<const Recording>(*std::move(decoded));
    const auto sound = playable(recording, plays);
    const Envelope envelope(sound);
    const auto hash = contentHash(file, progress);
    if (progress.cancelled()) return;
    post([=, this] { receiveSound(sound, envelope, known.empty() && hash ? *hash : known); });
    if (hash && !known.empty() && *hash != known)
      post([this] {
        emit said(
            tr("The recording's file is not the one this study was made from: its contents differ, so times may not "
               "fit. Measure it again, or point to the right "
               "file in the Study menu."));
      });
    if (measured) return;
    Listener listener;
    listener.onPart = [&](Part, const Findings& soFar) {
      post([this, id, copy = std::make_shared<const Findings>(soFar)] { document_->setMeasured(id, copy); });
    };
    const auto found = listener.listen(*recording, progress);
    if (found)
      post([this, id, copy = std::make_shared<const Findings>(*found)] { document_->setMeasured(id, copy); });
    else if (!progress.cancelled())
      post([this, sentence = found.problem()] { emit said(QString::fromStdString(sentence)); });
  });
  emit listeningChanged();
}

void Workbench::receiveSound(std::shared_ptr<const Recording> recording, Envelope envelope, const std::string& hash) {
  output_->stop();
  player_.load(recording);
  if (!startOutput(recording->sampleRate))
    emit said(tr("The sound output does not play this recording (%1 Hz). Choose another output in the system's "
                 "settings and open the study again.")
                  .arg(recording->sampleRate));
  envelope_ = std::move(envelope);
  const bool wasModified = document_->modified();
  const Take* active = take();
  const std::string name = active->name;  // settling a fact replaces the study that it points into
  if (active->hash != hash || active->duration != recording->duration())
    document_->settle([&](Study& s) {
      Take* t = s.take(loadedTake_);
      if (t == nullptr) return;  // a step of undo from before the take was added
      t->hash = hash;
      t->duration = recording->duration();
    });
  if (!wasModified && !document_->file.empty()) document_->markSaved();
  doing_ = tr("Listening to “%1”").arg(QString::fromStdString(name));
  if (!recording->notice.empty()) emit said(QString::fromStdString(recording->notice));
  applyLoop();
  emit soundChanged();
  if (resumeAt_)
    player_.seek(*resumeAt_);
  else if (passage_)
    player_.seek(passage_->start);
  resumeAt_.reset();
  if (passage_) emit passageOpened();
  emit positionChanged();
  emit listeningChanged();
}

void Workbench::listenAgain() {
  const Take* active = take();
  if (active == nullptr || player_.recording() == nullptr) return;
  document_->setMeasured(active->id, nullptr);
  loadTake();
}

void Workbench::cancelListening() {
  if (!job_.running()) return;
  job_.cancel();
  emit listeningChanged();
  emit said(hasSound()
                ? tr("Listening was stopped; what is known so far stays. “Measure the recording again” starts anew.")
                : tr("Opening was stopped."));
}

void Workbench::relocate(const QString& file) {
  const Take* active = take();
  if (active == nullptr) return;
  const auto hash = contentHash(toPath(file));
  if (!hash) {
    emit said(QString::fromStdString(hash.problem()));
    return;
  }
  const std::string id = active->id;  // an edit replaces the study that it points into
  const bool same = active->hash.empty() || *hash == active->hash;
  document_->edit("Point to recording", [&](Study& s) {
    Take* t = s.take(id);
    t->file = toPath(QFileInfo(file).absoluteFilePath());
    t->hash = *hash;
  });
  if (!same) {
    document_->setMeasured(id, nullptr);
    emit said(
        tr("This is not the same file as before, so it is listened to anew. Check the times of your passages against "
           "it."));
  }
  loadTake();
  emit documentChanged(kOfTake);
}

}  // namespace ear
