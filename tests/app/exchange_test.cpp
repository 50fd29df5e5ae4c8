// SPDX-License-Identifier: GPL-3.0-or-later
#include <QComboBox>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <fstream>

#include "app/exchange/export_window.h"
#include "app/exchange/import_window.h"
#include "core/exchange/musicxml.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

using testing::HasSubstr;

class ExchangeTest : public DeskTest {
 protected:
  template <class Widget>
  static Widget& in(QWidget& window, const char* name) {
    auto* found = window.findChild<Widget*>(name);
    EXPECT_NE(found, nullptr) << name;
    return *found;
  }
  /// The demo's answer of the solo, as a file.
  QString answerFile() {
    ExportWindow& window = *window_->openExport();
    auto& phrase = in<QComboBox>(window, "export-phrase");
    phrase.setCurrentIndex(phrase.findText("Solo, the answer"));
    const auto file = QString::fromStdString((freshFolder("exchange") / "answer.musicxml").string());
    EXPECT_TRUE(window.write(file));
    window.close();
    return file;
  }
  std::size_t phrases() { return bench().document().study().phrases.size(); }
};

TEST_F(ExchangeTest, WritesAPhraseAndTakesItBackAsAnother) {
  openDemo();
  const QString file = answerFile();
  const std::size_t before = phrases();
  ImportWindow& window = *window_->openImport(file);
  EXPECT_EQ(in<QListWidget>(window, "import-pieces").count(), 1);
  EXPECT_EQ(in<QSpinBox>(window, "import-bar").value(), 39) << "a file of this song knows its bar";
  in<QSpinBox>(window, "import-bar").setValue(41);
  in<QPushButton>(window, "primary").click();
  ASSERT_EQ(phrases(), before + 1);
  const Phrase* taken = bench().phrases().phrase();
  ASSERT_NE(taken, nullptr);
  EXPECT_EQ(taken->name, "Solo, the answer");
  EXPECT_EQ(taken->levels->front().notes.size(), 10U);
  EXPECT_NEAR(taken->span.start.value, 92.66, 0.1) << "where bar 41 begins";
  press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(phrases(), before);
}

TEST_F(ExchangeTest, SaysWhatCannotBeReadAndWhere) {
  openDemo();
  const auto bad = freshFolder("exchange") / "bad.musicxml";
  std::ofstream(bad) << "<score-partwise>\n<part>";
  ImportWindow& window = *window_->openImport(QString::fromStdString(bad.string()));
  EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("line 2"));
  EXPECT_FALSE(in<QPushButton>(window, "primary").isEnabled());
  // A bar that the recording does not have.
  window.read(answerFile());
  in<QSpinBox>(window, "import-bar").setValue(9000);
  in<QPushButton>(window, "primary").click();
  EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("no bar 9000"));
  EXPECT_TRUE(window.isVisible());
}

TEST_F(ExchangeTest, OffersWhatTheStudyHolds) {
  openDemo();
  ExportWindow& window = *window_->openExport();
  auto& formats = in<QListWidget>(window, "export-formats");
  EXPECT_EQ(formats.count(), static_cast<int>(exportFormats().size()));
  formats.setCurrentRow(formats.count() - 1);
  EXPECT_FALSE(in<QComboBox>(window, "export-phrase").isEnabled()) << "labels hold no notes";
  const auto file = freshFolder("exchange") / "labels.txt";
  EXPECT_TRUE(window.write(QString::fromStdString(file.string())));
  EXPECT_TRUE(std::filesystem::exists(file));
  EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("labels.txt"));
  formats.setCurrentRow(0);
  auto& part = in<QComboBox>(window, "export-part");
  part.setCurrentIndex(part.findText("Left guitar"));
  EXPECT_EQ(in<QComboBox>(window, "export-phrase").count(), 2) << "all of them, and its arpeggio";
  EXPECT_FALSE(window.write("/no/such/folder/a.musicxml"));
  bench().document().edit("Away", [](Study& s) { s.phrases = {}; });
  EXPECT_FALSE(in<QPushButton>(window, "primary").isEnabled());
  EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("No phrase"));
}

}  // namespace
}  // namespace ear::test
