// SPDX-License-Identifier: GPL-3.0-or-later
// What the window does so that no work is lost: copies, claims, changed files, exceptions, kills.

#include <signal.h>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QProcess>
#include <QSpinBox>
#include <QToolTip>
#include <fstream>
#include <stdexcept>

#include "app/desk_fixture.h"
#include "app/form/jump_window.h"
#include "app/safety/guarded_application.h"
#include "app/workbench/paths.h"
#include "core/study/durable_file.h"
#include "core/study/study_file.h"

namespace ear::test {
namespace {

namespace fs = std::filesystem;

class SurvivalTest : public DeskTest {
 protected:
  /// A saved study in a folder of its own, on the desk.
  fs::path openSaved(const std::string& name) {
    const auto folder = freshFolder(name);
    auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
    const fs::path file = folder / "song.innerear";
    EXPECT_TRUE(saveStudy(file, demo->study, demo->measurements).ok());
    EXPECT_TRUE(window_->keeper().open(pathText(file)));
    waitUntilHeard();
    return file;
  }
  void retitle(const std::string& title) {
    bench().document().edit("Rename study", [&](Study& s) { s.title = title; });
  }
  QString notice() { return child<QLabel>("notice-text")->text(); }
};

TEST_F(SurvivalTest, AnEditHasItsCopySoonAfter) {
  const auto file = openSaved("copy-soon");
  const auto copy = autosaveFor(file);
  EXPECT_FALSE(fs::exists(copy));
  retitle("First");
  ASSERT_TRUE(QTest::qWaitFor([&] { return fs::exists(copy); }, 10000));
  ASSERT_TRUE(QTest::qWaitFor([&] { return loadStudy(copy)->study.title == "First"; }, 10000));
  // Somebody who never pauses is not kept waiting.
  for (int i = 0; i < 60; ++i) {
    retitle("Word " + std::to_string(i));
    QTest::qWait(50);
  }
  EXPECT_NE(loadStudy(copy)->study.title, "First");
  ASSERT_TRUE(window_->keeper().save());
  EXPECT_FALSE(fs::exists(copy));
}

TEST_F(SurvivalTest, WhatIsThrownEndsInACopyAndASentence) {
  const auto file = openSaved("thrown");
  auto& app = *static_cast<GuardedApplication*>(qApp);
  app.rescue = [&] { window_->keeper().copies().writeNow(); };
  const auto heard = QObject::connect(&app, &GuardedApplication::caught, &bench().session(), &Session::said);
  retitle("Not saved yet");
  QTimer::singleShot(0, window_.get(), [] { throw std::runtime_error("a bad day"); });
  QTest::qWait(50);
  EXPECT_TRUE(notice().contains("a bad day")) << notice().toStdString();
  EXPECT_EQ(loadStudy(autosaveFor(file))->study.title, "Not saved yet");
  BackgroundJob job;
  QObject::connect(&job, &BackgroundJob::failed, &bench().session(), &Session::said);
  job.run([](const Progress&, const BackgroundJob::Post&) { throw std::bad_alloc(); });
  ASSERT_TRUE(QTest::qWaitFor([&] { return !job.running(); }, 5000));
  EXPECT_TRUE(notice().contains("not enough memory"));
  QObject::disconnect(heard);
  app.rescue = nullptr;
}

TEST_F(SurvivalTest, TwoWindowsDoNotWriteOverEachOther) {
  const auto file = openSaved("two-windows");
  retitle("Mine");
  window_->keeper().copies().writeNow();
  const auto first = std::move(window_);
  SetUp();
  answerNext("Leave it");
  EXPECT_FALSE(window_->keeper().open(pathText(file)));
  EXPECT_TRUE(fs::exists(autosaveFor(file))) << "the first window's copy is none of the second one's business";
  answerNext("Open a copy of it");
  EXPECT_TRUE(window_->keeper().open(pathText(file)));
  EXPECT_TRUE(bench().document().file.empty());
  EXPECT_TRUE(bench().document().modified());
  EXPECT_TRUE(notice().contains("copy"));
  EXPECT_TRUE(fs::exists(autosaveFor(file)));
  EXPECT_TRUE(first->keeper().save()) << "which nobody else has touched";
  EXPECT_EQ(loadStudy(file)->study.title, "Mine");
}

TEST_F(SurvivalTest, AFileThatSomebodyElseChangedIsNotOverwritten) {
  const auto file = openSaved("changed-on-disk");
  auto theirs = loadStudy(file);
  theirs->study.title = "Theirs";
  ASSERT_TRUE(saveStudy(file, theirs->study, theirs->measurements).ok());
  retitle("Mine");
  answerNext("Don't save now");
  EXPECT_FALSE(window_->keeper().save());
  EXPECT_EQ(loadStudy(file)->study.title, "Theirs");
  answerNext("Save mine, keep theirs as “song (other version).innerear”");
  EXPECT_TRUE(window_->keeper().save());
  EXPECT_EQ(loadStudy(file)->study.title, "Mine");
  EXPECT_EQ(loadStudy(file.parent_path() / "song (other version).innerear")->study.title, "Theirs");

  ASSERT_TRUE(saveStudy(file, theirs->study, theirs->measurements).ok());
  retitle("Mine again");
  answerNext("Save mine as “song (other version 2).innerear”");
  EXPECT_TRUE(window_->keeper().save());
  EXPECT_EQ(loadStudy(file)->study.title, "Theirs");
  EXPECT_EQ(bench().document().file.filename(), "song (other version 2).innerear");
  EXPECT_EQ(loadStudy(bench().document().file)->study.title, "Mine again");
}

TEST_F(SurvivalTest, OldAndDamagedCopiesAreNotTakenForNews) {
  const auto file = openSaved("old-copies");
  const auto folder = file.parent_path();
  retitle("Old idea");
  window_->keeper().copies().writeNow();
  const auto copy = autosaveFor(file);
  const auto kept = *readWhole(copy, 1 << 20);
  window_->keeper().copies().drop();
  bench().document().undo();
  ASSERT_TRUE(window_->keeper().save());
  std::ofstream(copy) << kept;
  fs::last_write_time(copy, fs::last_write_time(file) - std::chrono::hours(1));
  ASSERT_TRUE(window_->keeper().open(pathText(file)));
  EXPECT_NE(bench().document().study().title, "Old idea");
  EXPECT_TRUE(notice().contains("older"));
  EXPECT_EQ(loadStudy(folder / "song (older copy).innerear")->study.title, "Old idea");

  std::ofstream(copy) << "{\"format\": \"inner-ear-study\", ";
  ASSERT_TRUE(window_->keeper().open(pathText(file)));
  EXPECT_TRUE(fs::exists(folder / "song (damaged copy).innerear"));
  retitle("New idea");
  EXPECT_TRUE(window_->keeper().copies().writeNow());
  EXPECT_EQ(loadStudy(copy)->study.title, "New idea") << "copying goes on";
}

TEST_F(SurvivalTest, OpeningTheStudyOnTheDeskAgainAsksOnce) {
  const auto file = openSaved("again");
  retitle("Not wanted");
  int questions = 0;
  QTimer counting;
  QObject::connect(&counting, &QTimer::timeout, window_.get(), [&] {
    for (auto* box : window_->findChildren<QMessageBox*>())
      for (auto* button : box->buttons())
        if (box->isVisible() && button->text() == (questions == 0 ? "Close without saving" : "Stay here")) {
          ++questions;
          button->click();
          return;
        }
  });
  counting.start(5);
  EXPECT_TRUE(window_->keeper().open(pathText(file)));
  EXPECT_EQ(questions, 1);
  EXPECT_EQ(bench().document().study().title, "Copper Weather");
  EXPECT_EQ(bench().document().file, file);
}

TEST_F(SurvivalTest, ADamagedFileOffersWhatItHeldBefore) {
  const auto file = openSaved("damaged-file");
  retitle("Second");
  ASSERT_TRUE(window_->keeper().save());
  ASSERT_TRUE(fs::exists(generationBefore(file)));
  window_.reset();
  fs::resize_file(file, fs::file_size(file) / 2);
  SetUp();
  answerNext("Open what it held before");
  ASSERT_TRUE(window_->keeper().open(pathText(file)));
  EXPECT_EQ(bench().document().study().title, "Copper Weather");
  EXPECT_TRUE(bench().document().file.empty()) << "the damaged file is left for whoever can mend it";
}

TEST_F(SurvivalTest, UnsavedStudiesOfTheDeadAreOffered) {
  openDemo();
  retitle("Never saved");
  ASSERT_TRUE(window_->keeper().copies().writeNow());
  const QString copy = window_->keeper().copies().path();
  EXPECT_FALSE(CopyKeeper::orphans().contains(copy)) << "its window lives";
  // Its window dies without a word.
  QFile(copy).copy(copy + ".kept");
  window_.reset();
  QFile::remove(copy);
  QFile(copy + ".kept").rename(copy);
  EXPECT_TRUE(CopyKeeper::orphans().contains(copy));
  SetUp();
  answerNext("Open it");
  window_->keeper().offerOrphans();
  EXPECT_EQ(bench().document().study().title, "Never saved");
  EXPECT_TRUE(bench().document().modified());
  EXPECT_FALSE(QFile::exists(copy)) << "it lives on under another name";
  EXPECT_TRUE(QFile::exists(window_->keeper().copies().path()));
  window_->keeper().copies().drop();
}

// --- stray keys --------------------------------------------------------------------------------------------------

TEST_F(SurvivalTest, EscapeLeavesTheFieldAndKeepsTheLoop) {
  openDemo();
  bench().selection().set(TimeSpan{Seconds(10), Seconds(12)});
  auto* title = child<QLineEdit>("title");
  title->setFocus();
  QTest::keyClick(title, Qt::Key_Escape);
  EXPECT_TRUE(bench().selection().passage().has_value());
  EXPECT_FALSE(title->hasFocus());
  auto* speed = child<QSpinBox>("deck-speed");
  speed->setFocus();
  QTest::keyClick(speed, Qt::Key_Escape);
  EXPECT_TRUE(bench().selection().passage().has_value());
  press(Qt::Key_Escape);
  EXPECT_FALSE(bench().selection().passage().has_value()) << "on the desk itself it lets go";
}

TEST_F(SurvivalTest, AKeptPassageIsOnlyChangedByKeepingIt) {
  openDemo();
  const Passage kept = bench().document().study().passages[0];
  bench().selection().open(kept.id);
  EXPECT_FALSE(child<QPushButton>("deck-back-to-kept")->isVisible());
  press(Qt::Key_S);
  press(Qt::Key_X);
  press(Qt::Key_1);
  EXPECT_EQ(bench().document().study().passages[0], kept) << "a stray key writes nothing";
  EXPECT_TRUE(bench().selection().differsFromKept());
  EXPECT_TRUE(child<QPushButton>("deck-back-to-kept")->isVisible());
  const auto changed = bench().selection().passage();

  press(Qt::Key_K, Qt::ShiftModifier);
  EXPECT_FALSE(bench().selection().differsFromKept());
  EXPECT_EQ(bench().selection().passage(), kept.span);
  press(Qt::Key_K, Qt::ShiftModifier);
  EXPECT_EQ(bench().selection().passage(), changed) << "back can be taken back";

  bench().selection().open(bench().document().study().passages[1].id);
  bench().selection().open(kept.id);
  EXPECT_EQ(bench().selection().passage(), changed) << "it waits while another one is worked on";

  press(Qt::Key_K);
  EXPECT_EQ(bench().document().study().passages[0].span, *changed);
  EXPECT_FALSE(bench().selection().differsFromKept());
  press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(bench().document().study().passages[0], kept);
  EXPECT_EQ(bench().selection().passage(), kept.span);
}

TEST_F(SurvivalTest, AnotherThemeChangesNothingButColours) {
  openDemo();
  bench().selection().open(bench().document().study().passages[0].id);
  bench().ear().followVoice();
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().ear().voice() != nullptr; }, 60000));
  window_->closeUp().zoomToPassage();
  bench().practice().startLadder();
  output_->advance(Seconds(0.5));
  const TimeSpan window = window_->closeUp().window();
  ASSERT_TRUE(bench().practice().running());
  bench().time().findChild<QTimer*>("tap-pause")->setInterval(600'000);  // it would end the tapping on a slow machine
  for (const char* theme : {"look-dark", "look-light"}) {
    QSignalSpy other(&bench().analysis(), &Analysis::soundChanged);
    const QImage before = window_->closeUp().grab().toImage();
    press(Qt::Key_T);
    ASSERT_EQ(bench().time().taps(), 1);
    child<QAction>(theme)->trigger();
    QApplication::processEvents();
    EXPECT_TRUE(bench().practice().running()) << theme;
    EXPECT_EQ(bench().time().taps(), 1) << theme;
    EXPECT_NE(bench().ear().voice(), nullptr) << theme;
    EXPECT_EQ(window_->closeUp().window(), window) << theme;
    EXPECT_EQ(other.count(), 0) << "it is the same recording";
    if (std::string(theme) == "look-dark") {
      EXPECT_NE(window_->closeUp().grab().toImage(), before);
    }
  }
  // The same for how things are named and how frets are counted.
  press(Qt::Key_T);
  ASSERT_EQ(bench().time().taps(), 1);
  auto schools = bench().session().notation();
  schools.letters = NotationPreferences::Letters::german;
  bench().session().setNotation(schools);
  bench().document().editPart("Count frets", bench().document().part().id,
                              [](GuitarPart& p) { p.fretsFromNut = !p.fretsFromNut; });
  EXPECT_TRUE(bench().practice().running());
  EXPECT_EQ(bench().time().taps(), 1);
}

// --- text that is no markup --------------------------------------------------------------------------------------

TEST_F(SurvivalTest, TextOfStudiesIsNeverObeyed) {
  openDemo();
  const QString markup = "<h1><img src='/dev/zero'>loud</h1>";
  bench().document().edit("Say", [&](Study& s) {
    s.takes.change(0).pitch = Decision<PitchValue>{{Cents(3)}, Origin::set, 1.0, markup.toStdString()};
  });
  window_->drawer().open(0);
  bench().say(markup);
  QApplication::processEvents();
  int shown = 0;
  for (const auto* label : window_->findChildren<QLabel*>()) {
    if (!label->isVisible()) continue;
    EXPECT_EQ(label->textFormat(), Qt::PlainText) << label->objectName().toStdString();
    shown += label->text().contains("<img") ? 1 : 0;
  }
  EXPECT_GE(shown, 2) << "the evidence and the notice, letter by letter";
  QToolTip::showText(window_->mapToGlobal(QPoint(50, 50)), markup, window_.get());
  bool tip = false;
  for (auto* widget : QApplication::topLevelWidgets())
    if (auto* label = qobject_cast<QLabel*>(widget); label != nullptr && label->text() == markup)
      tip = label->textFormat() == Qt::PlainText;
  EXPECT_TRUE(tip);
  QToolTip::hideText();
}

// --- kills -------------------------------------------------------------------------------------------------------

/// Starts a window that edits without end (see main.cpp of the tests) and kills it after a while.
/// @return the count that the last line before `margin` told, and the one that its copy or file holds
std::pair<int, int> killed(const fs::path& file, int afterMs, int signal, int marginMs) {
  QProcess editor;
  QElapsedTimer clock;
  std::vector<std::pair<qint64, int>> told;
  editor.setProcessChannelMode(QProcess::ForwardedErrorChannel);
  editor.start(QCoreApplication::applicationFilePath(), {"--edit-until-killed", pathText(file)});
  const auto listen = [&] {
    while (editor.canReadLine()) {
      if (told.empty()) clock.start();
      told.emplace_back(told.empty() ? 0 : clock.elapsed(), editor.readLine().trimmed().toInt());
    }
  };
  while (editor.state() != QProcess::NotRunning && (told.empty() || clock.elapsed() < afterMs)) {
    editor.waitForReadyRead(20);
    listen();
  }
  const qint64 end = clock.elapsed();
  ::kill(static_cast<pid_t>(editor.processId()), signal);
  editor.waitForFinished(20000);
  listen();
  int due = 0, found = 0;
  for (const auto& [at, count] : told)
    if (at <= end - marginMs) due = count;
  for (const auto& place : {file, autosaveFor(file)}) {
    std::error_code error;
    if (!fs::exists(place, error)) continue;
    const auto stored = loadStudy(place);
    EXPECT_TRUE(stored.ok()) << (stored ? "" : stored.problem());
    if (stored) found = std::max(found, QString::fromStdString(stored->study.title).toInt());
  }
  return {due, found};
}

TEST(Kills, LoseNothingOlderThanTwoSeconds) {
  const auto folder = freshFolder("kills");
  auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  demo->study.title = "0";
  const fs::path file = folder / "song.innerear";
  ASSERT_TRUE(saveStudy(file, demo->study, demo->measurements).ok());
  for (const int ms : {2600, 3100, 3700}) {
    const auto [due, found] = killed(file, ms, SIGKILL, 2000);
    EXPECT_GT(due, 0);
    EXPECT_GE(found, due) << ms;
  }
  const auto [due, found] = killed(file, 400, SIGTERM, 0);
  EXPECT_GE(found, due) << "who is asked to go takes everything along";
}

// --- starting without anybody there ------------------------------------------------------------------------------

std::pair<int, QString> start(const QStringList& arguments) {
  QProcess program;
  auto environment = QProcessEnvironment::systemEnvironment();
  for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) environment.remove(name);
  program.setProcessEnvironment(environment);
  program.setProcessChannelMode(QProcess::MergedChannels);
  program.start(APP_PATH, arguments);
  EXPECT_TRUE(program.waitForFinished(60000)) << "it waits for somebody";
  return {program.exitCode(), program.readAll()};
}

TEST(Starting, HelpNeedsNoDisplayAndPicturesWaitForNobody) {
  const auto [code, help] = start({"--help"});
  EXPECT_EQ(code, 0);
  EXPECT_TRUE(help.contains("--screenshot"));
  const auto folder = freshFolder("unattended");
  std::ofstream(folder / "broken.innerear") << "{\"format\": \"inner-ear-study\"";
  const auto [failed, why] = start({pathText(folder / "broken.innerear"), "--screenshot", pathText(folder / "x.png")});
  EXPECT_EQ(failed, 1);
  EXPECT_TRUE(why.contains("damaged")) << why.toStdString();
}

}  // namespace
}  // namespace ear::test
