// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>
#include <QPushButton>

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
  EXPECT_EQ(in<QListWidget>("practice-items").count(), 5 + 3) << "phrases and passages of the take";
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

}  // namespace
}  // namespace ear::test
