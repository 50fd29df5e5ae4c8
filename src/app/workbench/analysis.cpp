// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/analysis.h"

#include <QFileInfo>
#include <chrono>

#include "app/workbench/paths.h"
#include "app/workbench/session.h"
#include "app/workbench/transport.h"
#include "core/audio/decode.h"
#include "core/audio/fingerprint.h"
#include "core/audio/resample.h"
#include "core/base/text.h"
#include "core/listening/listener.h"

namespace ear {
namespace {

constexpr Seconds kLong{600.0};  // from here on a preview shows the recording before it is decoded
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

/// What long recordings look like, before they are decoded; empty for one that is decoded about as soon.
Preview previewOfLong(const std::filesystem::path& file, const Progress& progress) {
  const auto started = std::chrono::steady_clock::now();
  const auto enough = [&](Seconds length) {
    return length < kLong || progress.cancelled() || std::chrono::steady_clock::now() - started > kGlanceTime;
  };
  return previewOf(file, kGlances, enough, progress);
}

}  // namespace

Analysis::Analysis(Session& session, Transport& transport, QObject* parent)
    : QObject(parent), session_(session), transport_(transport), job_(this), look_(this) {
  connect(&job_, &BackgroundJob::progressed, this, &Analysis::progressed);
  for (BackgroundJob* job : {&job_, &look_}) {
    connect(job, &BackgroundJob::failed, &session, &Session::said);
    connect(job, &BackgroundJob::finished, this, &Analysis::changed);
    connect(&session, &Session::studyLeaving, job, &BackgroundJob::cancel);
  }
  connect(&session, &Session::studyReplaced, this, &Analysis::open);
  connect(&session, &Session::documentChanged, this, [this] {
    // Undo may take away the take on the desk, or bring it back.
    if (const Take* take = session_.take(); take != nullptr && take->id != opened_) open();
  });
}

Analysis::~Analysis() {
  look_.cancel();
  job_.cancel();
}

Seconds Analysis::duration() const {
  if (transport_.hasSound()) return transport_.player().recording()->duration();
  const Take* take = session_.take();
  if (take == nullptr) return Seconds(0);
  return take->duration > Seconds(0) ? take->duration : preview_.duration;
}

void Analysis::drop() {
  envelope_ = {};
  preview_ = {};
  opened_.clear();
  transport_.unload();
  emit soundChanged();
}

void Analysis::open() {
  drop();
  problem_.clear();
  missing_ = false;
  const Take* take = session_.take();
  if (take == nullptr) return;
  opened_ = take->id;
  const auto file = take->file;
  const bool measured = session_.findings() != nullptr;
  std::error_code error;
  if (!std::filesystem::exists(file, error)) {
    missing_ = true;
    problem_ = tr("The recording “%1” is not where it was. Point to it to hear it again; everything else of the study "
                  "is here.")
                   .arg(QString::fromStdString(shownPath(file.filename())));
    emit changed();
    return;
  }
  doing_ = tr("Opening “%1”").arg(QString::fromStdString(take->name));
  job_.run([this, file, measured, id = take->id, known = take->hash, plays = transport_.output().rateCheck()](
               const Progress& progress, const BackgroundJob::Post& post) {
    if (const Preview preview = previewOfLong(file, progress); !preview.envelope.empty())
      post([this, preview] {
        preview_ = preview;
        emit soundChanged();
      });
    auto decoded = decode(file, progress);
    if (!decoded) {
      if (!progress.cancelled())
        post([this, sentence = decoded.problem()] {
          problem_ = QString::fromStdString(sentence);
          session_.say(problem_);
        });
      return;
    }
    const auto recording = std::make_shared<const Recording>(*std::move(decoded));
    const auto sound = playable(recording, plays);
    const auto track = std::make_shared<Track>(sound);
    const WaveformPyramid envelope(sound);
    const auto hash = contentHash(file, progress);
    if (progress.cancelled()) return;
    post([=, this] { receive(std::move(*track), envelope, known.empty() && hash ? *hash : known); });
    if (hash && !known.empty() && *hash != known)
      post([this] {
        session_.say(
            tr("The recording's file is not the one this study was made from: its contents differ, so times may not "
               "fit. Measure it again, or point to the right "
               "file in the Study menu."));
      });
    if (measured) return;
    const auto hear = [this, id, &post](const Findings& findings) {
      post(
          [this, id, copy = std::make_shared<const Findings>(findings)] { session_.document().setMeasured(id, copy); });
    };
    Listener listener;
    listener.onPart = [&](Aspect, const Findings& soFar) { hear(soFar); };
    if (const auto found = listener.listen(*recording, progress))
      hear(*found);
    else if (!progress.cancelled())
      post([this, sentence = found.problem()] { session_.say(QString::fromStdString(sentence)); });
  });
  emit changed();
}

void Analysis::receive(Track track, WaveformPyramid envelope, const std::string& hash) {
  const auto recording = track.recording();
  transport_.load(std::move(track));
  envelope_ = std::move(envelope);
  Document& document = session_.document();
  const bool wasModified = document.modified();
  const Take* take = session_.take();
  const std::string name = take->name;  // settling a fact replaces the study that it points into
  if (take->hash != hash || take->duration != recording->duration())
    document.settle([&](Study& s) {
      Take* t = s.take(opened_);
      if (t == nullptr) return;  // a step of undo from before the take was added
      t->hash = hash;
      t->duration = recording->duration();
    });
  if (!wasModified && !document.file.empty()) document.markSaved();
  doing_ = tr("Listening to “%1”").arg(QString::fromStdString(name));
  if (!recording->notice.empty()) session_.say(QString::fromStdString(recording->notice));
  emit soundChanged();
  emit soundReady();
  emit changed();
}

void Analysis::listenAgain() {
  const Take* take = session_.take();
  if (take == nullptr || !transport_.hasSound()) return;
  session_.document().setMeasured(take->id, nullptr);
  open();
}

void Analysis::cancel() {
  if (!running()) return;
  look_.cancel();
  job_.cancel();
  emit changed();
  session_.say(transport_.hasSound()
                   ? tr("Listening was stopped; what is known so far stays. “Measure the recording again” starts anew.")
                   : tr("Opening was stopped."));
}

void Analysis::relocate(const QString& file) {
  const Take* take = session_.take();
  if (take == nullptr) return;
  doing_ = tr("Looking at “%1”").arg(QFileInfo(file).fileName());
  look_.run([this, file, id = take->id](const Progress& progress, const BackgroundJob::Post& post) {
    const auto hash = contentHash(toPath(file), progress);
    if (progress.cancelled()) return;
    post([=, this] {
      if (hash)
        adopt(id, file, *hash);
      else
        session_.say(QString::fromStdString(hash.problem()));
    });
  });
  emit changed();
}

/// The take's recording is this file from now on.
void Analysis::adopt(const std::string& id, const QString& file, const std::string& hash) {
  Document& document = session_.document();
  const Take* take = document.study().take(id);
  if (take == nullptr) return;  // it was removed meanwhile
  const bool same = take->hash.empty() || hash == take->hash;
  document.edit("Point to recording", [&](Study& s) {
    Take* t = s.take(id);
    t->file = toPath(QFileInfo(file).absoluteFilePath());
    t->hash = hash;
  });
  if (!same) {
    document.setMeasured(id, nullptr);
    session_.say(
        tr("This is not the same file as before, so it is listened to anew. Check the times of your passages against "
           "it."));
  }
  if (session_.take()->id == id) open();
}

}  // namespace ear
