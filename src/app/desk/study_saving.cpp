// SPDX-License-Identifier: GPL-3.0-or-later
// How a study is saved, and what happens to changes when it is closed.
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QStandardPaths>

#include "app/desk/recent_studies.h"
#include "app/desk/study_keeper.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "core/audio/fingerprint.h"
#include "core/base/text.h"
#include "core/study/durable_file.h"
#include "core/study/study_file.h"

namespace ear {

/// What a file holds, as a hash; empty where it can't be read.
QString StudyKeeper::contentMark(const QString& file) {
  const auto hash = contentHash(toPath(file));
  return hash ? text(*hash) : QString();
}

/// Where somebody else changed the file since it was read: asks which of the two versions takes its name.
/// @param file  in and out: where to write
/// @return false when nothing is to be written
bool StudyKeeper::bothKept(QString& file) {
  namespace fs = std::filesystem;
  if (!claim_.holds(file) || mark_.isEmpty() || !QFileInfo::exists(file) || contentMark(file) == mark_) return true;
  const fs::path path = toPath(file), beside = freeName(path, tr("other version"));
  const QString name = text(shownPath(path.filename())), other = text(shownPath(beside.filename()));
  const int answer = asking_.ask(
      tr("Changed on disk"),
      tr("“%1” was changed on disk since you opened it, by another program or another machine. Both "
         "versions can be kept.")
          .arg(name),
      {tr("Save mine as “%1”").arg(other), tr("Save mine, keep theirs as “%1”").arg(other), tr("Don't save now")});
  if (answer == 0) file = pathText(beside);
  if (answer != 1) return answer == 0;
  std::error_code error;
  fs::copy_file(path, beside, error);  // the file itself stands until the save has succeeded
  if (error)
    asking_.complain(tr("Save study"), "“" + shownPath(path.filename()) +
                                           "” could not be put aside: " + error.message() + ". Nothing was saved.");
  return !error;
}

bool StudyKeeper::writeTo(const QString& to) {
  QString file = to;
  if (!bothKept(file)) return false;
  if (!claim_.holds(file)) {
    FileClaim claim;
    if (!claim.take(file)) {
      asking_.complain(tr("Save study"), "“" + shownPath(toPath(file).filename()) +
                                             "” is open in another window of Inner Ear (" +
                                             FileClaim::ownerOf(file).toStdString() + "). Save under another name.");
      return false;
    }
    claim_ = std::move(claim);
  }
  sweepLeftovers(toPath(file));
  const Document& document = bench_.document();
  const auto done = saveStudy(toPath(file), document.study(), document.measurements());
  if (!done) {
    asking_.complain(tr("Save study"), done.problem());
    return false;
  }
  mark_ = contentMark(file);
  copies_->drop();
  bench_.session().markSaved(QFileInfo(file).absoluteFilePath());
  copies_->drop();  // one that was left beside a file of this name says less than it does now
  remember(file);
  return true;
}

bool StudyKeeper::save() {
  if (bench_.take() == nullptr) return true;
  const auto& file = bench_.document().file;
  return file.empty() ? saveAs() : writeTo(pathText(file));
}

bool StudyKeeper::saveAs() {
  if (bench_.take() == nullptr) return true;
  QString name = QString::fromStdString(bench_.document().study().title);
  name.replace('/', '-');
  const auto& old = bench_.document().file;
  const QString start = old.empty() ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) + "/" +
                                          (name.isEmpty() ? tr("study") : name) + kStudyFileExtension
                                    : pathText(old);
  QString file =
      QFileDialog::getSaveFileName(window_, tr("Save study"), start, tr("Studies (*%1)").arg(kStudyFileExtension));
  if (file.isEmpty()) return false;
  if (!file.endsWith(kStudyFileExtension)) file += kStudyFileExtension;
  return writeTo(file);
}

bool StudyKeeper::mayClose() {
  bench_.practice().stop();  // what was practised is written down before anybody asks whether to save
  if (!bench_.document().worthSaving()) return true;
  const int answer = asking_.ask(tr("Save the study?"),
                                 tr("“%1” has changes that are not saved.").arg(text(bench_.document().study().title)),
                                 {tr("Save"), tr("Close without saving"), tr("Stay here")});
  if (answer == 0) return save();
  if (answer != 1) return false;
  copies_->drop();
  return true;
}

void StudyKeeper::remember(const QString& file) {
  rememberStudy(file);
  emit recentChanged();
}

void StudyKeeper::offerOrphans() {
  for (const QString& copy : CopyKeeper::orphans()) {
    const auto stored = loadStudy(toPath(copy));
    if (!stored) continue;
    const QString when = QLocale().toString(QFileInfo(copy).lastModified(), QLocale::ShortFormat);
    const int answer = asking_.ask(
        tr("An unsaved study"),
        tr("Inner Ear ended before “%1” was saved. Its automatic copy is of %2.").arg(text(stored->study.title), when),
        {tr("Open it"), tr("Throw it away"), tr("Later")});
    if (answer == 1) CopyKeeper::removeOrphan(copy);
    if (answer != 0) continue;
    // Under its new name first.
    if (openAsCopy(copy, tr("This study was never saved: give it a file with Ctrl+S."))) CopyKeeper::removeOrphan(copy);
    return;
  }
}

}  // namespace ear
