// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/study_keeper.h"

#include <QCoreApplication>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QStandardPaths>

#include "app/desk/recent_studies.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "core/audio/fingerprint.h"
#include "core/base/text.h"
#include "core/study/durable_file.h"
#include "core/study/study_file.h"

namespace ear {
namespace {

const char* const kSounds = "*.mp3 *.m4a *.aac *.flac *.ogg *.oga *.opus *.wav *.aif *.aiff *.mp4 *.mkv *.webm *.mov";

QString musicFolder() {
  return QStandardPaths::writableLocation(QStandardPaths::MusicLocation);
}

/// What a file holds, as a hash; empty where it can't be read.
QString markOf(const QString& file) {
  const auto hash = contentHash(toPath(file));
  return hash ? text(*hash) : QString();
}

}  // namespace

StudyKeeper::StudyKeeper(Workbench& bench, QWidget* window)
    : QObject(window), bench_(bench), window_(window), asking_(window), copies_(new CopyKeeper(bench, this)) {}

// --- opening ---------------------------------------------------------------------------------------------------

bool StudyKeeper::open(const QString& file) {
  if (file.endsWith(kStudyFileExtension) || file.endsWith(".autosave") || file.endsWith(".before"))
    return openStudy(file);
  if (!mayClose()) return false;
  copies_->drop();
  copies_->beginAnother();
  claim_.letGo();
  mark_.clear();
  bench_.newFromRecording(file);
  return true;
}

void StudyKeeper::putOnDesk(StoredStudy stored, const QString& file) {
  copies_->drop();
  copies_->beginAnother();
  bench_.setStudy(std::move(stored.study), std::move(stored.measurements), file);
}

/// A copy or a generation before comes onto the desk as a study that was never saved: no file is written over with it
/// but by the user's word.
bool StudyKeeper::openAsCopy(const QString& source, const QString& notice) {
  auto stored = loadStudy(toPath(source));
  if (!stored) {
    asking_.complain(tr("Open study"), stored.problem());
    return false;
  }
  if (!mayClose()) return false;
  putOnDesk(*std::move(stored), {});
  claim_.letGo();
  mark_.clear();
  bench_.document().markChanged();
  copies_->writeNow();
  bench_.say(notice);
  return true;
}

/// An automatic copy that holds what the file does not; empty where there is none. What is no use is put out of the
/// way: a copy that says the same goes, one that is older or damaged is kept under another name.
QString StudyKeeper::newerCopy(const QString& file) {
  namespace fs = std::filesystem;
  const fs::path path = toPath(file), copy = autosaveFor(path);
  std::error_code error;
  if (!fs::exists(copy, error)) return {};
  const auto inCopy = loadStudy(copy), inFile = loadStudy(path);
  if (inCopy && inFile && inCopy->study == inFile->study) {
    fs::remove(copy, error);
    return {};
  }
  if (inCopy && (!inFile || fs::last_write_time(copy, error) >= fs::last_write_time(path, error)))
    return pathText(copy);
  const fs::path aside = freeName(path, inCopy ? tr("older copy") : tr("damaged copy"));
  fs::rename(copy, aside, error);
  if (!error)
    bench_.say((inCopy ? tr("An automatic copy that is older than the file was kept as “%1”.")
                       : tr("An automatic copy that can't be read was put aside as “%1”."))
                   .arg(text(shownPath(aside.filename()))));
  return {};
}

bool StudyKeeper::openStudy(const QString& file) {
  const QString name = text(shownPath(toPath(file).filename()));
  // It may be on this desk already: then it is read again, as somebody may have changed it.
  const bool again = claim_.holds(file) && !bench_.document().file.empty();
  if (again) {
    if (!mayClose()) return false;
    claim_.letGo();
  }
  FileClaim claim;
  if (QFileInfo::exists(file) && !claim.take(file)) {
    const QString owner = FileClaim::ownerOf(file);
    if (asking_.ask(
            tr("Open in another window"),
            tr("“%1” is open in another window of Inner Ear (%2). Two windows that save one file write over each "
               "other's work.")
                .arg(name, owner),
            {tr("Open a copy of it"), tr("Leave it")}) != 0)
      return false;
    return openAsCopy(file,
                      tr("This is a copy of “%1”, as it was last saved. Save it under a name of its own.").arg(name));
  }
  sweepLeftovers(toPath(file));
  QString source = file;
  if (const QString copy = newerCopy(file); !copy.isEmpty()) {
    const QString when = QLocale().toString(QFileInfo(copy).lastModified(), QLocale::ShortFormat);
    if (asking_.ask(tr("A newer copy"),
                    tr("Inner Ear ended without saving “%1”. There is an automatic copy of %2 with later changes.")
                        .arg(name, when),
                    {tr("Open the copy"), tr("Open the file as it was saved")}) == 0)
      source = copy;
  }
  auto stored = loadStudy(toPath(source));
  if (!stored) {
    const QString before = pathText(generationBefore(toPath(file)));
    if (!loadStudy(toPath(before))) {
      asking_.complain(tr("Open study"), stored.problem());
      return false;
    }
    const QString when = QLocale().toString(QFileInfo(before).lastModified(), QLocale::ShortFormat);
    if (asking_.ask(tr("A damaged study"),
                    text(stored.problem()) + "\n\n" +
                        tr("What it held before its last save (%1) is there and can be opened.").arg(when),
                    {tr("Open what it held before"), tr("Leave it")}) != 0)
      return false;
    return openAsCopy(before, tr("This is what “%1” held before its last save. Save it under another name.").arg(name));
  }
  if (!again && !mayClose()) return false;
  const bool copied = source != file;
  putOnDesk(*std::move(stored), QFileInfo(file).absoluteFilePath());
  claim_ = std::move(claim);
  mark_ = markOf(file);
  if (copied) {
    bench_.document().markChanged();
    copies_->writeNow();
  } else {
    QFile::remove(pathText(autosaveFor(toPath(file))));  // turned down
  }
  remember(file);
  return true;
}

void StudyKeeper::openByDialog() {
  const QString file = QFileDialog::getOpenFileName(
      window_, tr("Open a study or a recording"), QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation),
      tr("Studies and recordings (*%1 %2);;All files (*)").arg(kStudyFileExtension, kSounds));
  if (!file.isEmpty()) open(file);
}

QString StudyKeeper::pickRecording(const QString& title) {
  return QFileDialog::getOpenFileName(window_, title, musicFolder(), tr("Recordings (%1);;All files (*)").arg(kSounds));
}

void StudyKeeper::newByDialog() {
  const QString file = pickRecording(tr("New study from a recording"));
  if (!file.isEmpty()) open(file);
}

void StudyKeeper::addTakeByDialog() {
  const QString file = pickRecording(tr("Add another take of the song"));
  if (!file.isEmpty()) bench_.addTake(file);
}

void StudyKeeper::relocateByDialog() {
  const QString file = pickRecording(tr("Point to the recording"));
  if (!file.isEmpty()) bench_.relocate(file);
}

QString StudyKeeper::demoFile() {
  const QString beside = QCoreApplication::applicationDirPath() + "/../share/inner-ear/demo";
  const QString folder = QFileInfo::exists(beside) ? beside : QStringLiteral(INNER_EAR_DEMO_DIR);
  return folder + "/copper-weather" + kStudyFileExtension;
}

bool StudyKeeper::openDemo(const QString& file) {
  if (!mayClose()) return false;
  auto stored = loadStudy(toPath(file.isEmpty() ? demoFile() : file));
  if (!stored) {
    asking_.complain(tr("Demo study"), stored.problem());
    return false;
  }
  putOnDesk(*std::move(stored), {});
  claim_.letGo();
  mark_.clear();
  return true;
}

// --- saving ----------------------------------------------------------------------------------------------------

/// Where somebody else changed the file since it was read: asks which of the two versions takes its name.
/// @param file  in and out: where to write
/// @return false when nothing is to be written
bool StudyKeeper::bothKept(QString& file) {
  namespace fs = std::filesystem;
  if (!claim_.holds(file) || mark_.isEmpty() || !QFileInfo::exists(file) || markOf(file) == mark_) return true;
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
  mark_ = markOf(file);
  copies_->drop();
  bench_.markSaved(QFileInfo(file).absoluteFilePath());
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
