// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <cstdlib>
#include <fstream>

#include "app/exchange/export_window.h"
#include "app/exchange/import_window.h"
#include "core/exchange/musicxml.h"
#include "desk_fixture.h"
#include "support/phrases.h"
#include "support/programs.h"

namespace ear::test {
namespace {

using testing::HasSubstr;
using testing::Not;

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
  EXPECT_EQ(formats.count(), static_cast<int>(exportFormats().size()) + 2) << "and two kinds of pictures";
  formats.setCurrentRow(static_cast<int>(exportFormats().size()) - 1);
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

TEST_F(ExchangeTest, RepeatSignsAreAChoiceThatIsKept) {
  openDemo();
  // Four bars twice, in a section whose chords come twice as well.
  bench().document().edit("Four bars, twice", [](Study& s) {
    s.phrases.changeEach([](Phrase& p) {
      if (p.id != "phrase2") return;
      std::vector<Note> notes;
      for (int bar = 0; bar < 8; ++bar) notes.push_back(note(bar + 1, 3, 11 + bar % 4, Beats(4 * bar), 4));
      p.levels.change().front().notes = notes;
    });
  });
  const auto folder = freshFolder("exchange");
  ExportWindow& window = *window_->openExport();
  auto& formats = in<QListWidget>(window, "export-formats");
  auto& phrase = in<QComboBox>(window, "export-phrase");
  auto& repeats = in<QCheckBox>(window, "export-repeats");
  formats.setCurrentRow(2);
  EXPECT_FALSE(repeats.isEnabled()) << "MIDI knows no signs";
  formats.setCurrentRow(0);
  ASSERT_TRUE(repeats.isEnabled());
  phrase.setCurrentIndex(phrase.findData("phrase2"));
  const auto written = [&](const char* name) {
    EXPECT_TRUE(window.write(QString::fromStdString((folder / name).string())));
    return contentOf(folder / name);
  };
  EXPECT_THAT(written("as-played.musicxml"), Not(HasSubstr("<repeat")));
  QTest::mouseClick(&repeats, Qt::LeftButton, {}, QPoint(8, repeats.height() / 2));
  ASSERT_TRUE(repeats.isChecked());
  const std::string signs = written("with-signs.musicxml");
  EXPECT_THAT(signs, HasSubstr("<repeat direction=\"backward\""));
  const auto read = readMusicXml(signs);
  ASSERT_TRUE(read.ok());
  EXPECT_EQ(read->front().notes.size(), 8U) << "played as before";
  window.close();
  EXPECT_TRUE(in<QCheckBox>(*window_->openExport(), "export-repeats").isChecked());
}

int inkAt(const QImage& i, int x, int y) {
  return 255 - qGray(i.pixel(std::clamp(x, 0, i.width() - 1), std::clamp(y, 0, i.height() - 1)));
}

/// The share of what is drawn in one picture near which the other has nothing. How either sets the edge of a hairline
/// does not count: Qt draws thin lines a sixth of a pixel thinner than librsvg does.
double missing(const QImage& drawn, const QImage& other) {
  long all = 0, gone = 0;
  for (int y = 0; y < drawn.height(); ++y)
    for (int x = 0; x < drawn.width(); ++x) {
      if (inkAt(drawn, x, y) < 100) continue;
      ++all;
      bool near = false;
      for (int dy = -1; dy <= 1 && !near; ++dy)
        for (int dx = -1; dx <= 1 && !near; ++dx) near = inkAt(other, x + dx, y + dy) > 60;
      gone += near ? 0 : 1;
    }
  EXPECT_GT(all, 2000) << "there is something in it";
  return static_cast<double>(gone) / static_cast<double>(std::max(1L, all));
}

TEST_F(ExchangeTest, PicturesLookTheSameToAnIndependentReader) {
  openDemo();
  ExportWindow& window = *window_->openExport();
  const auto folder = freshFolder("pictures");
  auto& formats = in<QListWidget>(window, "export-formats");
  auto& picture = in<QComboBox>(window, "export-picture");
  EXPECT_FALSE(picture.isEnabled()) << "notation is no picture";
  for (int kind = 0; kind < picture.count(); ++kind) {
    const std::string name = (folder / std::to_string(kind)).string();
    formats.setCurrentRow(formats.count() - 2);
    picture.setCurrentIndex(kind);
    ASSERT_TRUE(window.write(QString::fromStdString(name + ".svg"))) << in<QLabel>(window, "soft").text().toStdString();
    formats.setCurrentRow(formats.count() - 1);
    ASSERT_TRUE(window.write(QString::fromStdString(name + ".png")));
    const QImage own(QString::fromStdString(name + ".png"));
    ASSERT_FALSE(own.isNull());
    // librsvg, which shares nothing with the program.
    const std::string command = "rsvg-convert -w " + std::to_string(own.width()) + " -h " +
                                std::to_string(own.height()) + " -o " + name + "-read.png " + name + ".svg";
    ASSERT_EQ(std::system(command.c_str()), 0);
    const QImage read(QString::fromStdString(name + "-read.png"));
    ASSERT_EQ(read.size(), own.size());
    EXPECT_LT(missing(own, read), 0.001) << kind;
    EXPECT_LT(missing(read, own), 0.001) << kind;
    EXPECT_LT(std::filesystem::file_size(name + ".svg"), 400'000U);
  }
}

TEST_F(ExchangeTest, WhatIsNotSettledIsNoPicture) {
  openDemo();
  auto loose = std::make_shared<Findings>(*bench().document().findings(bench().take()->id));
  for (FoundGuitar& guitar : loose->guitars)
    for (auto& reading : guitar.readings) reading.certainty = 0.1;
  bench().document().edit("", [](Study& s) { s.parts.changeEach([](GuitarPart& p) { p.setup.reset(); }); });
  bench().document().setMeasured(bench().take()->id, loose);
  ExportWindow& window = *window_->openExport();
  auto& formats = in<QListWidget>(window, "export-formats");
  formats.setCurrentRow(formats.count() - 2);
  const auto file = freshFolder("pictures") / "x.svg";
  for (int kind = 1; kind < in<QComboBox>(window, "export-picture").count(); ++kind) {
    in<QComboBox>(window, "export-picture").setCurrentIndex(kind);
    EXPECT_FALSE(window.write(QString::fromStdString(file.string()))) << kind;
    EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("settled")) << kind;
  }
  EXPECT_FALSE(std::filesystem::exists(file));
}

TEST_F(ExchangeTest, AJamsFileWithoutTabGivesWhatItSaysOfTheRecording) {
  openDemo();
  const auto file = freshFolder("exchange") / "annotations.jams";
  std::ofstream(file) << R"({"file_metadata": {"title": "Another name"}, "annotations": [
    {"namespace": "key_mode", "data": [{"time": 0, "duration": 9, "value": "D:minor"}]},
    {"namespace": "chord", "data": [{"time": 1, "duration": 2, "value": "D:min"}]}]})";
  ImportWindow& window = *window_->openImport(QString::fromStdString(file.string()));
  EXPECT_THAT(in<QLabel>(window, "soft").text().toStdString(), HasSubstr("1 chord, the key"));
  EXPECT_FALSE(in<QPushButton>(window, "primary").isEnabled()) << "there is no tab to take";
  in<QPushButton>(window, "import-facts").click();
  EXPECT_EQ(bench().brief().key->value, (Key{PitchClass(2), Mode::minor}));
  EXPECT_EQ(bench().brief().key->origin, Origin::set);
  bench().document().undo();
  EXPECT_NE(bench().brief().key->value, (Key{PitchClass(2), Mode::minor}));
}

}  // namespace
}  // namespace ear::test
