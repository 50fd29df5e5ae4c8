#include "app/desk/study_keeper.h"

#include <signal.h>

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>

#include "core/study/study_file.h"

namespace ear {
namespace {

constexpr int kAutosaveMs = 15000;
constexpr int kMostRecent = 10;

const char* const kSounds = "*.mp3 *.m4a *.aac *.flac *.ogg *.oga *.opus *.wav *.aif *.aiff *.mp4 *.mkv *.webm *.mov";

QString unsavedFolder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/unsaved";
}

QString musicFolder() {
  return QStandardPaths::writableLocation(QStandardPaths::MusicLocation);
}

}  // namespace

StudyKeeper::StudyKeeper(Workbench& bench, QWidget* window) : QObject(window), bench_(bench), window_(window) {
  timer_.setInterval(kAutosaveMs);
  connect(&timer_, &QTimer::timeout, this, &StudyKeeper::autosaveNow);
  timer_.start();
}

void StudyKeeper::complain(const QString& title, const std::string& sentence) {
  QMessageBox::warning(window_, title, QString::fromStdString(sentence));
}

// --- opening ---------------------------------------------------------------------------------------------------

bool StudyKeeper::open(const QString& file) {
  if (!mayClose()) return false;
  if (file.endsWith(kStudyFileExtension) || file.endsWith(".autosave")) return openStudy(file);
  dropAutosave();
  bench_.newFromRecording(file);
  return true;
}

bool StudyKeeper::openStudy(const QString& file) {
  QString source = file;
  const QString copy = QString::fromStdString(autosaveFor(file.toStdString()).string());
  if (QFileInfo::exists(copy) && loadStudy(copy.toStdString())) {
    QMessageBox box(
        QMessageBox::Question, tr("A newer copy"),
        tr("Inner Ear ended without saving “%1”. There is an automatic copy of %2 with later changes.")
            .arg(QFileInfo(file).fileName(), QLocale().toString(QFileInfo(copy).lastModified(), QLocale::ShortFormat)),
        QMessageBox::NoButton, window_);
    auto* newer = box.addButton(tr("Open the copy"), QMessageBox::AcceptRole);
    newer->setObjectName("open-copy");
    box.addButton(tr("Open the file as it was saved"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == newer) source = copy;
  }
  auto stored = loadStudy(source.toStdString());
  if (!stored) {
    complain(tr("Open study"), stored.problem());
    return false;
  }
  const bool copied = source != file;
  dropAutosave();
  bench_.setStudy(std::move(stored->study), std::move(stored->measurements), QFileInfo(file).absoluteFilePath());
  if (copied) bench_.document().markChanged();
  remember(file);
  return true;
}

void StudyKeeper::openByDialog() {
  const QString file = QFileDialog::getOpenFileName(
      window_, tr("Open a study or a recording"), QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation),
      tr("Studies and recordings (*%1 %2);;All files (*)").arg(kStudyFileExtension, kSounds));
  if (!file.isEmpty()) open(file);
}

void StudyKeeper::newByDialog() {
  const QString file = QFileDialog::getOpenFileName(window_, tr("New study from a recording"), musicFolder(),
                                                    tr("Recordings (%1);;All files (*)").arg(kSounds));
  if (!file.isEmpty()) open(file);
}

void StudyKeeper::addTakeByDialog() {
  const QString file = QFileDialog::getOpenFileName(window_, tr("Add another take of the song"), musicFolder(),
                                                    tr("Recordings (%1);;All files (*)").arg(kSounds));
  if (!file.isEmpty()) bench_.addTake(file);
}

void StudyKeeper::relocateByDialog() {
  const QString file = QFileDialog::getOpenFileName(window_, tr("Point to the recording"), musicFolder(),
                                                    tr("Recordings (%1);;All files (*)").arg(kSounds));
  if (!file.isEmpty()) bench_.relocate(file);
}

QString StudyKeeper::demoFile() {
  const QString beside = QCoreApplication::applicationDirPath() + "/../share/inner-ear/demo";
  const QString folder = QFileInfo::exists(beside) ? beside : QStringLiteral(INNER_EAR_DEMO_DIR);
  return folder + "/copper-weather" + kStudyFileExtension;
}

bool StudyKeeper::openDemo(const QString& file) {
  if (!mayClose()) return false;
  auto stored = loadStudy((file.isEmpty() ? demoFile() : file).toStdString());
  if (!stored) {
    complain(tr("Demo study"), stored.problem());
    return false;
  }
  dropAutosave();
  bench_.setStudy(std::move(stored->study), std::move(stored->measurements), {});
  return true;
}

// --- saving ----------------------------------------------------------------------------------------------------

bool StudyKeeper::writeTo(const QString& file) {
  const Document& document = bench_.document();
  const auto done = saveStudy(file.toStdString(), document.study(), document.measurements());
  if (!done) {
    complain(tr("Save study"), done.problem());
    return false;
  }
  dropAutosave();
  bench_.markSaved(QFileInfo(file).absoluteFilePath());
  remember(file);
  return true;
}

bool StudyKeeper::save() {
  if (bench_.take() == nullptr) return true;
  const auto& file = bench_.document().file;
  return file.empty() ? saveAs() : writeTo(QString::fromStdString(file.string()));
}

bool StudyKeeper::saveAs() {
  if (bench_.take() == nullptr) return true;
  QString name = QString::fromStdString(bench_.document().study().title);
  name.replace('/', '-');
  const auto& old = bench_.document().file;
  const QString start = old.empty() ? QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) + "/" +
                                          (name.isEmpty() ? tr("study") : name) + kStudyFileExtension
                                    : QString::fromStdString(old.string());
  QString file =
      QFileDialog::getSaveFileName(window_, tr("Save study"), start, tr("Studies (*%1)").arg(kStudyFileExtension));
  if (file.isEmpty()) return false;
  if (!file.endsWith(kStudyFileExtension)) file += kStudyFileExtension;
  return writeTo(file);
}

bool StudyKeeper::mayClose() {
  if (!bench_.document().modified() || bench_.take() == nullptr) return true;
  // A study that only holds a fresh measurement of a recording loses nothing that cannot be had again.
  if (bench_.document().file.empty() && !bench_.document().canUndo()) return true;
  QMessageBox box(
      QMessageBox::Question, tr("Save the study?"),
      tr("“%1” has changes that are not saved.").arg(QString::fromStdString(bench_.document().study().title)),
      QMessageBox::NoButton, window_);
  auto* keep = box.addButton(tr("Save"), QMessageBox::AcceptRole);
  auto* drop = box.addButton(tr("Let them go"), QMessageBox::DestructiveRole);
  box.addButton(tr("Stay here"), QMessageBox::RejectRole);
  box.setDefaultButton(keep);
  box.exec();
  if (box.clickedButton() == keep) return save();
  if (box.clickedButton() != drop) return false;
  dropAutosave();
  return true;
}

// --- automatic copies ------------------------------------------------------------------------------------------

QString StudyKeeper::autosavePath() const {
  const auto& file = bench_.document().file;
  if (!file.empty()) return QString::fromStdString(autosaveFor(file).string());
  return unsavedFolder() +
         QStringLiteral("/%1%2.autosave").arg(QCoreApplication::applicationPid()).arg(kStudyFileExtension);
}

void StudyKeeper::autosaveNow() {
  const Document& document = bench_.document();
  if (!document.modified() || bench_.take() == nullptr) return;
  const QString file = autosavePath();
  QDir().mkpath(QFileInfo(file).absolutePath());
  if (const auto done = saveStudy(file.toStdString(), document.study(), document.measurements()); !done)
    emit bench_.said(QString::fromStdString(done.problem()));
}

void StudyKeeper::dropAutosave() {
  QFile::remove(autosavePath());
}

void StudyKeeper::offerOrphans() {
  const QDir folder(unsavedFolder());
  for (const QFileInfo& info : folder.entryInfoList({QStringLiteral("*.autosave")}, QDir::Files, QDir::Time)) {
    const auto owner = info.fileName().section('.', 0, 0).toLongLong();
    if (owner == QCoreApplication::applicationPid() || (owner > 0 && kill(static_cast<pid_t>(owner), 0) == 0)) continue;
    auto stored = loadStudy(info.absoluteFilePath().toStdString());
    if (!stored) continue;
    QMessageBox box(QMessageBox::Question, tr("An unsaved study"),
                    tr("Inner Ear ended before “%1” was saved. Its automatic copy is of %2.")
                        .arg(QString::fromStdString(stored->study.title),
                             QLocale().toString(info.lastModified(), QLocale::ShortFormat)),
                    QMessageBox::NoButton, window_);
    auto* open = box.addButton(tr("Open it"), QMessageBox::AcceptRole);
    open->setObjectName("open-orphan");
    auto* drop = box.addButton(tr("Throw it away"), QMessageBox::DestructiveRole);
    box.addButton(tr("Later"), QMessageBox::RejectRole);
    box.exec();
    if (box.clickedButton() == drop) QFile::remove(info.absoluteFilePath());
    if (box.clickedButton() != open) continue;
    bench_.setStudy(std::move(stored->study), std::move(stored->measurements), {});
    bench_.document().markChanged();
    autosaveNow();
    QFile::remove(info.absoluteFilePath());
    return;
  }
}

// --- recent ones -----------------------------------------------------------------------------------------------

QStringList StudyKeeper::recent() const {
  QStringList files;
  for (const QString& file : QSettings().value("recent").toStringList())
    if (QFileInfo::exists(file)) files.append(file);
  return files;
}

void StudyKeeper::remember(const QString& file) {
  QStringList files = recent();
  const QString path = QFileInfo(file).absoluteFilePath();
  files.removeAll(path);
  files.prepend(path);
  QSettings().setValue("recent", files.mid(0, kMostRecent));
  emit recentChanged();
}

}  // namespace ear
