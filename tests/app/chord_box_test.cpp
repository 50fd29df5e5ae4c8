// SPDX-License-Identifier: GPL-3.0-or-later
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSpinBox>

#include "app/chordbox/chord_box.h"
#include "app/neck/neck_view.h"
#include "desk_fixture.h"
#include "support/decisions.h"

namespace ear::test {
namespace {

class ChordBoxTest : public DeskTest {
 protected:
  void SetUp() override {
    DeskTest::SetUp();
    box_ = window_->openChordBox();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(box_));
  }
  void TearDown() override { bench().session().setNotation({}); }
  void chooseTuning(const QString& name) {
    auto* tuning = box_->findChild<QComboBox*>("chord-tuning");
    const int at = tuning->findText(name + "   ", Qt::MatchStartsWith);
    ASSERT_GE(at, 0) << name.toStdString();
    tuning->setCurrentIndex(at);
    emit tuning->activated(at);
  }
  NeckGrid* neck() { return box_->findChild<NeckGrid*>("neck-grid"); }
  QString name() { return box_->findChild<QLabel*>("chord-name")->text(); }
  void click(int string, int fret) { QTest::mouseClick(neck(), Qt::LeftButton, {}, neck()->pointOf({string, fret})); }
  void play(const char* frets) {
    const auto places = *parseFrets(frets);
    for (const FretPosition p : places) click(p.string, p.fret);
  }

  ChordBox* box_ = nullptr;
};

TEST_F(ChordBoxTest, ClickedFretsAreNamed) {
  play("x02020");
  EXPECT_EQ(name(), "A7");
  click(2, 0);  // the fourth string open: x00020 has no third on the second string's neighbours
  EXPECT_NE(name(), "A7");
  for (const int string : {1, 2, 3, 5}) click(string, 0);  // a second click silences
  click(4, 2);
  EXPECT_EQ(name(), "Nothing sounds");
}

TEST_F(ChordBoxTest, TypedNamesGiveShapesThatSoundLikeIt) {
  auto* typed = box_->findChild<QLineEdit*>("chord-typed");
  auto* shapes = box_->findChild<QListWidget*>("chord-shapes");
  QTest::keyClicks(typed, "F#m");
  ASSERT_GT(shapes->count(), 3);
  for (int i = 0; i < shapes->count(); ++i) {
    shapes->setCurrentRow(i);
    EXPECT_TRUE(name().startsWith(QString::fromUtf8("F♯m"))) << shapes->item(i)->text().toStdString();
  }
  typed->clear();
  QTest::keyClicks(typed, "Gq");
  EXPECT_EQ(shapes->count(), 0);
  EXPECT_EQ(typed->text(), "Gq") << "what was typed stays";
}

TEST_F(ChordBoxTest, CapoAndTuningCount) {
  box_->findChild<QSpinBox*>("chord-capo")->setValue(4);
  play("x02210");
  EXPECT_EQ(name(), "Am");
  bool sounding = false;
  for (const auto* label : box_->findChildren<QLabel*>())
    sounding = sounding || label->text() == QString::fromUtf8("sounds C♯m");
  EXPECT_TRUE(sounding);
  box_->findChild<QSpinBox*>("chord-capo")->setValue(0);
  chooseTuning("open D");
  neck()->setPlaces(*parseFrets("555555"));
  EXPECT_EQ(name(), "G");
}

TEST_F(ChordBoxTest, ShapesKeepTheirNamesOnRetunedStrings) {
  // Tuned to E flat, the open E minor shape sounds E flat minor; common practice, no source.
  chooseTuning("all a semitone down");
  box_->typeName("Em");
  EXPECT_EQ(name(), "Em");
  const auto* list = box_->findChild<QListWidget*>("chord-shapes");
  bool open = false;
  for (int i = 0; i < list->count(); ++i) open = open || list->item(i)->text().startsWith("022000");
  EXPECT_TRUE(open);
  box_->typeName("Bm7");
  EXPECT_EQ(name(), "Bm7") << "as it is held, in sharps";
  const auto all = box_->findChildren<QLabel*>();
  EXPECT_TRUE(std::any_of(all.begin(), all.end(), [](const QLabel* label) {
    return label->text() == QString::fromUtf8("sounds B♭m7");
  })) << "as it sounds, in the flats of its own key";
  const auto* tuning = box_->findChild<QComboBox*>("chord-tuning");
  EXPECT_TRUE(tuning->currentText().endsWith(QString::fromUtf8("E♭ A♭ D♭ G♭ B♭ E♭")));
}

TEST_F(ChordBoxTest, KeyboardReachesEveryFret) {
  neck()->setFocus();
  QTest::keyClick(neck(), Qt::Key_Up);  // fifth string
  for (int i = 0; i < 3; ++i) QTest::keyClick(neck(), Qt::Key_Right);
  QTest::keyClick(neck(), Qt::Key_Return);
  EXPECT_EQ(name(), "C3");
  EXPECT_EQ(neck()->places(), (std::vector<FretPosition>{{1, 3}}));
}

TEST_F(ChordBoxTest, TypedFretsAreNamed) {
  auto* typed = box_->findChild<QLineEdit*>("chord-typed");
  QTest::keyClicks(typed, "x02220");
  EXPECT_EQ(name(), "A");
  EXPECT_EQ(neck()->places(), *parseFrets("x02220"));
  typed->clear();
  QTest::keyClicks(typed, "10 x 9 9 x x");
  EXPECT_EQ(neck()->places(), *parseFrets("10 x 9 9 x x"));
}

TEST_F(ChordBoxTest, NamesAndFretsAreTheStudios) {
  openDemo();
  bench().session().setNotation({.letters = NotationPreferences::Letters::german});
  play("x24442");
  EXPECT_EQ(name(), "H") << "a B major chord";
  bench().document().editPart("Set", bench().document().part().id, [](GuitarPart& p) {
    p.setup = decided(GuitarSetup{standardTuning(), {2, 0}}, Origin::set);
    p.fretsFromNut = true;
  });
  EXPECT_EQ(box_->findChild<QSpinBox*>("chord-capo")->value(), 2) << "it follows the guitar in hand";
  auto* typed = box_->findChild<QLineEdit*>("chord-typed");
  QTest::keyClicks(typed, "x04440");
  EXPECT_EQ(neck()->places(), *parseFrets("x02220")) << "typed as counted from the nut";
  EXPECT_EQ(name(), "A");
  typed->clear();
  QTest::keyClicks(typed, "A");
  const auto* list = box_->findChild<QListWidget*>("chord-shapes");
  bool written = false;
  for (int i = 0; i < list->count(); ++i) written = written || list->item(i)->text().startsWith("x04440");
  EXPECT_TRUE(written);
}

TEST_F(ChordBoxTest, APartialCapoStaysOne) {
  openDemo();
  bench().document().editPart("Set", bench().document().part().id, [](GuitarPart& p) {
    p.setup = decided(GuitarSetup{standardTuning(), {2, 0b111110}}, Origin::set);
  });
  EXPECT_EQ(box_->findChild<QComboBox*>("chord-capo-strings")->currentText(), "not on the lowest string");
  // Dropped D's shape two frets up: the low string runs free under the capo, so that open strings are E B E A C# F#.
  play("000000");
  const auto midi = pitchesOf(Guitar{.capo = {2, 0b111110}}, neck()->places());
  EXPECT_EQ(midi, (std::vector<int>{40, 47, 52, 57, 61, 66}));
  click(0, 3);
  EXPECT_EQ(neck()->places().front(), (FretPosition{0, 3})) << "a string without the capo is counted from the nut";
}

TEST_F(ChordBoxTest, WhatIsFoundGoesToNeckChordLaneAndPassage) {
  openDemo();
  bench().document().editPart("Set", bench().document().part().id,
                              [](GuitarPart& p) { p.setup = decided(GuitarSetup{}, Origin::set); });
  auto* onNeck = box_->findChild<QPushButton*>("chord-on-neck");
  auto* here = box_->findChild<QPushButton*>("chord-put-here");
  auto* toPassage = box_->findChild<QPushButton*>("chord-to-passage");
  QTest::keyClicks(box_->findChild<QLineEdit*>("chord-typed"), "x02210");
  ASSERT_EQ(name(), "Am");
  EXPECT_FALSE(toPassage->isEnabled()) << "there is no passage";
  QTest::mouseClick(onNeck, Qt::LeftButton);
  EXPECT_EQ(window_->neck().neck().marks().size(), 5U);
  bench().transport().seek(Seconds(12));
  QTest::mouseClick(here, Qt::LeftButton);
  const auto chord = bench().chords().at(Seconds(12));
  ASSERT_TRUE(chord && chord->chord);
  EXPECT_EQ(chordName(*chord->chord, Spelling::sharps), "Am");
  EXPECT_EQ(chord->origin, Origin::set);
  bench().selection().set(TimeSpan{Seconds(11), Seconds(13)});
  QTest::mouseClick(toPassage, Qt::LeftButton);
  EXPECT_EQ(bench().document().study().passage(bench().selection().keptId())->text, "Am  x02210\n");
  bench().document().undo();
  EXPECT_EQ(bench().document().study().passage(bench().selection().keptId())->text, "");
  chooseTuning("open D");
  EXPECT_FALSE(onNeck->isEnabled()) << "the guitar in hand is tuned otherwise";
}

TEST_F(ChordBoxTest, AskedWhichCapoItSays) {
  auto* sounding = box_->findChild<QComboBox*>("ways-sounding");
  auto* ways = box_->findChild<QComboBox*>("ways-list");
  EXPECT_EQ(ways->itemText(0), "capo 3") << "E shapes that sound G";
  sounding->setCurrentIndex(2);
  emit sounding->activated(2);
  EXPECT_EQ(ways->currentText(), "strings a whole tone down, no capo") << "E shapes that sound D";
  QTest::mouseClick(box_->findChild<QPushButton*>("ways-try"), Qt::LeftButton);
  play("022100");
  EXPECT_EQ(name(), "E");
  bool sounds = false;
  for (const auto* label : box_->findChildren<QLabel*>()) sounds = sounds || label->text() == "sounds D";
  EXPECT_TRUE(sounds);
}

TEST_F(DeskTest, ChordBoxOpensByKeyAndLeavesTheDeskPlaying) {
  openDemo();
  press(Qt::Key_Space);
  press(Qt::Key_B, Qt::ControlModifier);
  EXPECT_NE(window_->findChild<ChordBox*>("chord-box"), nullptr);
  EXPECT_TRUE(bench().transport().playing());
}

}  // namespace
}  // namespace ear::test
