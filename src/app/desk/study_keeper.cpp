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
#include "core/base/text.h"
#include "core/study/durable_file.h"
#include "core/study/study_file.h"

namespace ear {
namespace {

const char* const kSounds = "*.mp3 *.m4a *.aac *.flac *.ogg *.oga *.opus *.wav *.aif *.aiff *.mp4 *.mkv *.webm *.mov";

QString musicFolder() {
  return QStandardPaths::writableLocation(QStandardPaths::MusicLocation);
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
  bench_.session().newFromRecording(file);
  return true;
}

void StudyKeeper::putOnDesk(StoredStudy stored, const QString& file) {
  copies_->drop();
  copies_->beginAnother();
  bench_.session().setStudy(std::move(stored.study), std::move(stored.measurements), file);
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
  mark_ = contentMark(file);
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
  if (!file.isEmpty()) bench_.session().addTake(file);
}

void StudyKeeper::relocateByDialog() {
  const QString file = pickRecording(tr("Point to the recording"));
  if (!file.isEmpty()) bench_.analysis().relocate(file);
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

}  // namespace ear
