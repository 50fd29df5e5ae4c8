// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

#include "app/practicefiles/practice_files_window.h"
#include "core/audio/decode.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

using testing::HasSubstr;

class PracticeFilesTest : public DeskTest {
 protected:
  void open() {
    openDemo();
    files_ = window_->openPracticeFiles();
  }
  template <class Widget>
  Widget& in(const char* name) {
    auto* found = files_->findChild<Widget*>(name);
    EXPECT_NE(found, nullptr) << name;
    return *found;
  }
  void tickOnly(const QString& part) {
    auto& items = in<QListWidget>("practice-items");
    for (int i = 0; i < items.count(); ++i)
      items.item(i)->setCheckState(items.item(i)->text().contains(part) ? Qt::Checked : Qt::Unchecked);
  }
  std::string state() { return in<QLabel>("soft").text().toStdString(); }
  PracticeFilesWindow* files_ = nullptr;
};

TEST_F(PracticeFilesTest, AreMadeOnceSomebodySaysThatTheyMayBe) {
  open();
  const auto& items = in<QListWidget>("practice-items");
  int ticked = 0;
  for (int i = 0; i < items.count(); ++i) ticked += items.item(i)->checkState() == Qt::Checked;
  EXPECT_EQ(ticked, 5 + 3) << "phrases and passages of the take";
  EXPECT_FALSE(in<QPushButton>("primary").isEnabled());
  EXPECT_THAT(state(), HasSubstr("Say first"));
  in<QCheckBox>("practice-allowed").click();
  EXPECT_TRUE(bench().document().study().audioForStudents);
  EXPECT_TRUE(in<QPushButton>("primary").isEnabled());
  tickOnly("Solo, the call");
  in<QCheckBox>("practice-written").setChecked(true);
  in<QComboBox>("practice-format").setCurrentIndex(1);
  const auto folder = freshFolder("practice-files");
  files_->make(QString::fromStdString(folder.string()));
  EXPECT_TRUE(files_->working());
  ASSERT_TRUE(QTest::qWaitFor([&] { return !files_->working(); }, 60000));
  EXPECT_TRUE(QTest::qWaitFor([&] { return state().find("Made: 1 file") != std::string::npos; }, 2000)) << state();
  const auto made = decode(folder / "01 Solo, the call.ogg");
  ASSERT_TRUE(made.ok()) << made.problem();
  // 4.6 s twice at 60 % and twice as it is, each counted in by a bar.
  EXPECT_NEAR(made->duration().value, 2 * (4.6 + 2.3) / 0.6 + 2 * (4.6 + 2.3), 2.0);
  EXPECT_EQ(bench().document().undoLabel(), "Recording for students");
  bench().document().undo();
  EXPECT_FALSE(bench().document().study().audioForStudents);
}

TEST_F(PracticeFilesTest, SaysWhatIsWrongWithSpeedsAndFolders) {
  open();
  in<QCheckBox>("practice-allowed").click();
  auto& speeds = in<QLineEdit>("practice-speeds");
  speeds.setText("5, 100");
  EXPECT_FALSE(in<QPushButton>("primary").isEnabled());
  EXPECT_THAT(state(), HasSubstr("between 20 and 150 %"));
  speeds.setText("100");
  tickOnly("Solo, the answer");
  files_->make("/no/such/folder");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !files_->working(); }, 60000));
  EXPECT_TRUE(QTest::qWaitFor([&] { return state().find("cannot be written") != std::string::npos; }, 2000)) << state();
}

TEST_F(PracticeFilesTest, CanBeStopped) {
  open();
  in<QCheckBox>("practice-allowed").click();
  const auto folder = freshFolder("practice-files");
  files_->make(QString::fromStdString(folder.string()));
  in<QPushButton>("practice-cancel").click();
  EXPECT_FALSE(files_->working());
  EXPECT_THAT(state(), HasSubstr("Stopped"));
  for (const auto& entry : std::filesystem::directory_iterator(folder)) EXPECT_NE(entry.path().extension(), ".part");
}

TEST_F(PracticeFilesTest, ChordsToPlayOverHoldNothingOfTheRecordingAndNeedNobodysWord) {
  open();
  in<QComboBox>("practice-format").setCurrentIndex(0);
  ASSERT_FALSE(bench().document().study().audioForStudents);
  tickOnly("Chords of B");
  in<QLineEdit>("practice-speeds").setText("100");
  EXPECT_TRUE(in<QPushButton>("primary").isEnabled()) << state();
  const auto folder = freshFolder("practice-files");
  files_->make(QString::fromStdString(folder.string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !files_->working(); }, 60000));
  const auto made = decode(folder / "01 Chords of B.flac");
  ASSERT_TRUE(made.ok()) << made.problem();
  const auto& form = bench().brief().form->value;
  const auto section = std::find_if(form.begin(), form.end(), [](const Section& s) { return s.letter == "B"; });
  EXPECT_NEAR(made->duration().value, 2 * (section->span.length().value + 2.3), 1.5);
  double energy = 0;
  for (const float x : made->channels[0]) energy += x * x;
  EXPECT_GT(energy / static_cast<double>(made->channels[0].size()), 1e-4) << "something is strummed";
}

TEST_F(PracticeFilesTest, ThePassageOnTheDeskGoesAsItIsHeard) {
  open();
  in<QComboBox>("practice-format").setCurrentIndex(0);
  bench().document().edit("", [](Study& s) { s.audioForStudents = true; });
  bench().selection().put({Seconds(20), Seconds(23)});
  bench().transport().setPlayback(0.5, Cents(-100), {});
  tickOnly("on the desk");
  in<QSpinBox>("practice-times").setValue(2);
  in<QCheckBox>("practice-count").setChecked(false);
  const auto folder = freshFolder("practice-files");
  files_->make(QString::fromStdString(folder.string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return !files_->working(); }, 60000));
  const auto made = decode(folder / "01 Passage at 0.20.0.flac");
  ASSERT_TRUE(made.ok()) << made.problem();
  EXPECT_NEAR(made->duration().value, 2 * (3.0 + 0.5) / 0.5, 1.0) << "at half the speed, as on the desk";
}

/// Energy on a side of a recording.
double energyOn(const Recording& r, std::size_t side) {
  double sum = 0;
  for (const float x : r.channels[side]) sum += x * x;
  return sum / static_cast<double>(r.channels[side].size());
}

TEST_F(PracticeFilesTest, APhraseIsPlayedOverWithoutTheGuitarThatPlaysIt) {
  open();
  in<QComboBox>("practice-format").setCurrentIndex(0);
  bench().document().edit("", [](Study& s) { s.audioForStudents = true; });
  tickOnly("Solo, the call");
  in<QLineEdit>("practice-speeds").setText("100");
  in<QCheckBox>("practice-count").setChecked(false);
  double share[2];
  for (const int heard : {0, 2}) {
    in<QComboBox>("practice-heard").setCurrentIndex(heard);
    const auto folder = freshFolder("practice-files");
    files_->make(QString::fromStdString(folder.string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !files_->working(); }, 60000));
    const auto made = decode(folder / "01 Solo, the call.flac");
    ASSERT_TRUE(made.ok()) << made.problem();
    share[heard / 2] = energyOn(*made, 1) / (energyOn(*made, 0) + energyOn(*made, 1));
  }
  EXPECT_LT(share[1], 0.75 * share[0]) << "the solo sits on the right";
}

}  // namespace
}  // namespace ear::test
