// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/copy_keeper.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>
#include <QUuid>

#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "core/study/study_file.h"

namespace ear {
namespace {

constexpr int kDelayMs = 1000;  // from the first edit that no copy holds: with the writing, under two seconds

QString unsavedFolder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/unsaved";
}

}  // namespace

CopyKeeper::CopyKeeper(Workbench& bench, QObject* parent)
    : QObject(parent), bench_(bench), job_(this, BackgroundJob::Haste::urgent) {
  beginAnother();
  timer_.setSingleShot(true);
  timer_.setInterval(kDelayMs);
  connect(&timer_, &QTimer::timeout, this, &CopyKeeper::write);
  // Not started anew by each edit: somebody who never pauses is to have a copy too.
  connect(&bench.session(), &Session::documentChanged, this, [this] {
    if (bench_.document().worthSaving() && !timer_.isActive()) timer_.start();
  });
  connect(&job_, &BackgroundJob::failed, &bench.session(), &Session::said);
  connect(&job_, &BackgroundJob::finished, this, [this] {
    if (due_) write();
  });
}

CopyKeeper::~CopyKeeper() {
  job_.wait();
}

QString CopyKeeper::path() const {
  const auto& file = bench_.document().file;
  return file.empty() ? unsavedFolder() + "/" + name_ : pathText(autosaveFor(file));
}

void CopyKeeper::prepare() {
  if (!bench_.document().file.empty()) return;
  QDir().mkpath(unsavedFolder());
  claim_.take(path());
}

void CopyKeeper::write() {
  // On a slow disk the copy before may still be on its way: this one follows at once, not after another delay.
  due_ = job_.running() && bench_.document().worthSaving();
  if (due_ || !bench_.document().worthSaving()) return;
  prepare();
  const Document& document = bench_.document();
  job_.run([this, file = toPath(path()), study = document.study(), measurements = document.measurements()](
               const Progress&, const BackgroundJob::Post& post) {
    if (const auto done = saveCopy(file, study, measurements); !done)
      post([this, sentence = text(done.problem())] { bench_.say(sentence); });
  });
}

bool CopyKeeper::writeNow() noexcept {
  try {
    if (!bench_.document().worthSaving()) return false;
    job_.wait();
    prepare();
    const Document& document = bench_.document();
    const auto done = saveCopy(toPath(path()), document.study(), document.measurements());
    if (!done) bench_.say(text(done.problem()));
    return done.ok();
  } catch (...) {
    return false;
  }
}

void CopyKeeper::drop() {
  timer_.stop();
  due_ = false;
  job_.wait();
  QFile::remove(path());
}

void CopyKeeper::beginAnother() {
  timer_.stop();
  due_ = false;
  job_.wait();
  claim_.letGo();
  name_ = QUuid::createUuid().toString(QUuid::WithoutBraces) + kStudyFileExtension + ".autosave";
}

QStringList CopyKeeper::orphans() {
  QStringList free;
  for (const QFileInfo& info :
       QDir(unsavedFolder()).entryInfoList({QStringLiteral("*.autosave")}, QDir::Files, QDir::Time)) {
    FileClaim claim;
    if (claim.take(info.absoluteFilePath())) free.append(info.absoluteFilePath());
  }
  return free;
}

void CopyKeeper::removeOrphan(const QString& copy) {
  FileClaim claim;
  if (claim.take(copy)) QFile::remove(copy);
}

}  // namespace ear
