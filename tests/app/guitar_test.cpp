// SPDX-License-Identifier: GPL-3.0-or-later
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QRadioButton>
#include <QSpinBox>
#include <cmath>

#include "app/brief/fact_tile.h"
#include "app/chordbox/chord_box.h"
#include "app/neck/neck_view.h"
#include "app/settings/naming_window.h"
#include "app/tuneup/tune_up_window.h"
#include "core/listening/tuning/tuner.h"
#include "desk_fixture.h"
#include "support/decisions.h"

namespace ear::test {
namespace {

using testing::HasSubstr;

/// The guitar in hand is set to a tuning and capo of the test's own.
class GuitarTest : public DeskTest {
 protected:
  void SetUp() override {
    DeskTest::SetUp();
    openDemo();
    bench().session().setNotation({});
  }
  void setGuitar(const GuitarSetup& setup) {
    bench().document().editPart("Set", bench().document().part().id,
                                [&](GuitarPart& p) { p.setup = decided(setup, Origin::set); });
  }
  std::string tile(const char* name) { return child<FactTile>(name)->face().sentence.toStdString(); }
  std::string label(const char* name) { return child<QLabel>(name)->text().toStdString(); }
  /// What the output plays next, left and right mixed.
  Samples played(double seconds) {
    output_->forget();
    output_->advance(Seconds(seconds));
    return mixToMono(output_->kept());
  }
};

TEST_F(GuitarTest, WhatAGuitarIsIsSaidAndUndone) {
  press(Qt::Key_2, Qt::ControlModifier);
  auto* sound = child<QLineEdit>("guitar-sound");
  sound->setFocus();
  QTest::keyClicks(sound, "neck pickup");
  QTest::keyClick(sound, Qt::Key_Return);
  EXPECT_EQ(bench().document().part().sound, "neck pickup");
  auto* range = child<QLineEdit>("guitar-range");
  range->setFocus();
  QTest::keyClicks(range, "b4 e2");
  QTest::keyClick(range, Qt::Key_Return);
  EXPECT_EQ(range->text(), "E2 to B4") << "said as it is kept";
  EXPECT_EQ(bench().document().part().range, (NoteRange{40, 71}));
  QSignalSpy said(&bench().session(), &Session::said);
  range->selectAll();
  QTest::keyClicks(range, "high");
  QTest::keyClick(range, Qt::Key_Return);
  ASSERT_FALSE(said.isEmpty());
  EXPECT_THAT(said.last().front().toString().toStdString(), HasSubstr("lowest and its highest note"));
  EXPECT_EQ(range->text(), "E2 to B4") << "nothing is lost";
  auto* instrument = child<QComboBox>("guitar-instrument");
  instrument->setCurrentIndex(static_cast<int>(Instrument::electric));
  emit instrument->activated(instrument->currentIndex());
  EXPECT_EQ(bench().document().part().instrument, Instrument::electric);
  press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(instrument->currentText(), "not said");
  EXPECT_EQ(bench().document().part().sound, "neck pickup");
}

TEST_F(GuitarTest, WhatIsTypedOfOneGuitarIsNotWrittenDownForAnother) {
  const auto guitars = bench().document().parts();
  ASSERT_GE(guitars.size(), 2U);
  press(Qt::Key_2, Qt::ControlModifier);
  auto* sound = child<QLineEdit>("guitar-sound");
  sound->setFocus();
  ASSERT_TRUE(sound->hasFocus());
  QTest::keyClicks(sound, "neck pickup");
  QTest::keyClick(sound, Qt::Key_Return);
  bench().session().nextGuitar();
  EXPECT_EQ(sound->text(), "") << "the other guitar's, which nobody has described";
  QTest::keyClick(sound, Qt::Key_Return);
  EXPECT_EQ(bench().document().part().sound, "");
  bench().session().nextGuitar();
  EXPECT_EQ(sound->text(), "neck pickup");
}

TEST_F(GuitarTest, APassageBringsItsGuitarToHand) {
  const auto guitars = bench().document().parts();
  ASSERT_GE(guitars.size(), 2U);
  bench().document().takeInHand(guitars[1].id);
  bench().selection().set(TimeSpan{Seconds(30), Seconds(33)});
  press(Qt::Key_K);
  const std::string kept = bench().selection().keptId();
  EXPECT_EQ(bench().document().study().passage(kept)->part, guitars[1].id) << "the one in hand";
  auto* whose = child<QComboBox>("passage-part");
  EXPECT_EQ(whose->currentData().toString().toStdString(), guitars[1].id);

  bench().document().takeInHand(guitars[0].id);
  bench().selection().set(std::nullopt);
  bench().selection().open(kept);
  EXPECT_EQ(bench().document().part().id, guitars[1].id);

  whose->setCurrentIndex(whose->findData(QString::fromStdString(guitars[0].id)));
  emit whose->activated(whose->currentIndex());
  EXPECT_EQ(bench().document().study().passage(kept)->part, guitars[0].id);
  EXPECT_EQ(bench().document().part().id, guitars[0].id) << "it is in hand now";
}

TEST_F(GuitarTest, ReadingIsTakenConfirmedAndDropped) {
  press(Qt::Key_2, Qt::ControlModifier);
  auto* readings = child<QListWidget>("guitar-readings");
  const auto& heard = *heardFor(bench().document().part(), bench().session().findings());
  ASSERT_EQ(readings->count(), static_cast<int>(heard.readings.size()));
  EXPECT_TRUE(
      std::any_of(heard.readings.begin(), heard.readings.end(), [](const auto& r) { return r.capo.fret == 0; }));
  EXPECT_TRUE(std::any_of(heard.readings.begin(), heard.readings.end(), [](const auto& r) { return r.capo.fret > 0; }));
  readings->setCurrentRow(1);
  EXPECT_GT(child<QListWidget>("guitar-reasons")->count(), 0);
  QTest::mouseClick(child<QPushButton>("guitar-take"), Qt::LeftButton);
  EXPECT_EQ(bench().document().setup(), (GuitarSetup{heard.readings[1].tuning, heard.readings[1].capo}));
  QTest::mouseClick(child<QPushButton>("guitar-confirm"), Qt::LeftButton);
  EXPECT_EQ(bench().brief().guitar->origin, Origin::confirmed);
  QTest::mouseClick(child<QPushButton>("guitar-revert"), Qt::LeftButton);
  EXPECT_EQ(bench().brief().guitar->origin, Origin::measured);
  bench().document().undo();
  EXPECT_EQ(bench().brief().guitar->origin, Origin::confirmed);
}

TEST_F(GuitarTest, ReasonPlaysItsSpot) {
  press(Qt::Key_2, Qt::ControlModifier);
  auto* reasons = child<QListWidget>("guitar-reasons");
  const Seconds at(reasons->item(0)->data(Qt::UserRole).toDouble());
  emit reasons->itemActivated(reasons->item(0));
  EXPECT_TRUE(bench().transport().playing());
  ASSERT_TRUE(bench().selection().passage().has_value());
  EXPECT_TRUE(bench().selection().passage()->contains(at));
  EXPECT_TRUE(bench().selection().keptId().empty()) << "no kept passage was touched";
}

TEST_F(GuitarTest, OwnTuningIsTypedAndWrongOnesAreExplained) {
  press(Qt::Key_2, Qt::ControlModifier);
  auto* tuning = child<QComboBox>("guitar-tuning");
  const auto type = [&](const QString& words) {
    tuning->lineEdit()->setText(words);
    emit tuning->lineEdit()->returnPressed();
  };
  type("D A E A C# D");
  EXPECT_EQ(bench().document().setup().tuning, (Tuning{{38, 45, 52, 57, 61, 62}}));
  child<QSpinBox>("guitar-capo")->setValue(3);
  // Six names for six strings: D A E A C# D with capo 3 sounds F C G C E F; common practice, no source.
  EXPECT_EQ(tuningLetters({{bench().document().guitar().open(0), bench().document().guitar().open(1),
                            bench().document().guitar().open(2), bench().document().guitar().open(3),
                            bench().document().guitar().open(4), bench().document().guitar().open(5)}},
                          Spelling::sharps),
            "F C G C E F");
  EXPECT_EQ(tile("tile-guitar"), "D A E A C♯ D, capo 3");
  type("D A E A D");
  EXPECT_EQ(bench().document().setup().tuning.count(), 5U) << "five names make five strings";
  type("D A X");
  bool explained = false;
  for (auto* l : window_->findChildren<QLabel*>("warning"))
    explained = explained || (l->isVisible() && l->text().contains("low to high"));
  EXPECT_TRUE(explained);
}

TEST_F(GuitarTest, SecondGuitarHasItsOwnSetup) {
  press(Qt::Key_2, Qt::ControlModifier);
  const auto before = bench().document().parts().size();
  const GuitarSetup first = bench().document().setup();
  QTest::mouseClick(child<QPushButton>("guitar-add"), Qt::LeftButton);
  ASSERT_EQ(bench().document().parts().size(), before + 1);
  setGuitar({{{38, 45, 50, 54, 57, 62}}, {2, 0}});
  EXPECT_EQ(tile("tile-guitar"), "Open D, capo 2");
  auto* parts = child<QComboBox>("guitar-parts");
  parts->lineEdit()->setText("Slide");
  emit parts->lineEdit()->editingFinished();
  EXPECT_EQ(bench().document().part().name, "Slide");
  parts->setCurrentIndex(0);
  emit parts->activated(0);
  EXPECT_EQ(bench().document().setup(), first);
  parts->setCurrentIndex(static_cast<int>(before));
  emit parts->activated(static_cast<int>(before));
  auto* kind = child<QComboBox>("guitar-kind");
  emit kind->activated(1);
  EXPECT_TRUE(bench().document().part().arranged);
  QTest::mouseClick(child<QPushButton>("guitar-remove"), Qt::LeftButton);
  EXPECT_EQ(bench().document().parts().size(), before);
}

TEST_F(GuitarTest, KeyIsNamedBySoundAndByShapes) {
  setGuitar({standardTuning(), {4, 0}});
  bench().document().edit("Key", [](Study& s) {
    s.takes.change(0).key = decided(Key{PitchClass(1), Mode::minor}, Origin::set);
  });
  const auto face = child<FactTile>("tile-key")->face();
  EXPECT_EQ(face.sentence.toStdString(), "C♯ minor");
  EXPECT_THAT(face.figure.toStdString(), HasSubstr("A minor shapes"));
  auto* naming = window_->openNaming();
  auto* lead = naming->findChild<QComboBox*>("naming-key");
  lead->setCurrentIndex(1);
  emit lead->activated(1);
  EXPECT_EQ(tile("tile-key"), "A minor shapes");
  EXPECT_THAT(naming->findChild<QLabel*>("naming-example")->text().toStdString(),
              HasSubstr("A minor shapes, sounding C♯ minor"));
}

TEST_F(GuitarTest, GermanNamesReachEveryView) {
  bench().document().edit("Key", [](Study& s) {
    s.takes.change(0).key = decided(Key{PitchClass(11), Mode::minor}, Origin::set);
  });
  EXPECT_EQ(tile("tile-key"), "B minor");
  auto* letters = window_->openNaming()->findChild<QComboBox*>("naming-letters");
  emit letters->activated(1);
  EXPECT_EQ(tile("tile-key"), "H minor");
  const auto& marks = window_->neck().neck().marks();
  EXPECT_TRUE(std::any_of(marks.begin(), marks.end(), [](const NeckMark& m) { return m.label == "H"; }));
  EXPECT_FALSE(std::any_of(marks.begin(), marks.end(), [](const NeckMark& m) { return m.label == "B"; }));
}

TEST_F(GuitarTest, PitchSplitSetsStringsAndRecordingInOneStep) {
  press(Qt::Key_1, Qt::ControlModifier);
  setGuitar({});
  auto* splits = child<QListWidget>("pitch-splits");
  int row = -1;
  for (int i = 0; i < splits->count(); ++i)
    if (splits->item(i)->text().contains("a semitone down")) row = i;
  ASSERT_GE(row, 0);
  emit splits->itemActivated(splits->item(row));
  EXPECT_EQ(bench().document().setup().tuning, (Tuning{{39, 44, 49, 54, 58, 63}}));
  EXPECT_EQ(bench().brief().pitch->origin, Origin::set);
  bench().document().undo();
  EXPECT_EQ(bench().document().setup().tuning, standardTuning());
}

TEST_F(GuitarTest, NeckShowsBoxesAndSoundsWhatIsClicked) {
  setGuitar({standardTuning(), {2, 0}});
  bench().document().edit("Key", [](Study& s) {
    s.takes.change(0).key = decided(Key{PitchClass(11), Mode::minor}, Origin::set);
    s.takes.change(0).pitch = decided(PitchValue{Cents(20)}, Origin::set);
  });
  auto* scale = child<QComboBox>("neck-scale");
  scale->setCurrentIndex(scale->findText("minor pentatonic"));
  emit scale->activated(scale->currentIndex());
  // B minor over a capo at 2 is A minor by its shapes: its first box lies at fret 5 from the capo, 7 from the nut.
  QTest::mouseClick(child<QPushButton>("neck-after"), Qt::LeftButton);
  for (int i = 0; i < 5 && !child<QLabel>("neck-region")->text().startsWith("box 1"); ++i)
    QTest::mouseClick(child<QPushButton>("neck-after"), Qt::LeftButton);
  EXPECT_EQ(label("neck-region"), "box 1, fret 5");
  emit child<QComboBox>("neck-counted")->activated(1);
  EXPECT_EQ(label("neck-region"), "box 1, fret 7");
  EXPECT_TRUE(bench().document().fretsFromNut());
  auto* neck = child<NeckMap>("neck-map");
  QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOf({1, 3}));  // A string, capo 2, fret 3: D
  const auto sound = played(0.6);
  const auto pitch = pitchOfString(std::span(sound).last(8192), output_->kept().sampleRate);
  ASSERT_TRUE(pitch.has_value());
  EXPECT_NEAR(1200 * std::log2(pitch->value / 146.832), 20, 2) << "D3 (146.83 Hz) at the recording's own pitch";
  press(Qt::Key_N);
  EXPECT_FALSE(neck->isVisible());
  press(Qt::Key_N);
  EXPECT_TRUE(neck->isVisible());
}

TEST_F(GuitarTest, TunerMeasuresAgainstTheRecording) {
  setGuitar({{{39, 44, 49, 54, 58, 63}}, {2, 0}});
  bench().document().edit("Pitch",
                          [](Study& s) { s.takes.change(0).pitch = decided(PitchValue{Cents(10)}, Origin::set); });
  press(Qt::Key_T, Qt::ControlModifier);
  auto* window = window_->findChild<TuneUpWindow*>("tune-up");
  ASSERT_NE(window, nullptr);
  ASSERT_NE(guitar_, nullptr);
  EXPECT_EQ(window->findChild<QLabel*>("tune-note-1")->text().toStdString(), "A♭2");
  window->findChild<QComboBox*>("simulated-string")->setCurrentIndex(1);
  window->findChild<QDoubleSpinBox*>("simulated-cents")->setValue(-14);
  QTest::mouseClick(window->findChild<QPushButton*>("simulated-pluck"), Qt::LeftButton);
  guitar_->advance(Seconds(0.7));
  window->tuner().look();
  const auto says = window->findChild<QLabel*>("tuner-says")->text().toStdString();
  EXPECT_THAT(says, HasSubstr("String 5, A♭2"));
  EXPECT_THAT(says, testing::ContainsRegex("1[34]\\.[0-9] cents too low, tighten it"));
  window->findChild<QDoubleSpinBox*>("simulated-cents")->setValue(0);
  QTest::mouseClick(window->findChild<QPushButton*>("simulated-pluck"), Qt::LeftButton);
  guitar_->advance(Seconds(0.7));
  window->tuner().look();
  EXPECT_THAT(window->findChild<QLabel*>("tuner-says")->text().toStdString(), HasSubstr("in tune with the recording"));
}

TEST_F(GuitarTest, PlaybackMeetsTheGuitarInstead) {
  setGuitar({{{39, 44, 49, 54, 58, 63}}, {2, 0}});
  bench().document().edit("Pitch",
                          [](Study& s) { s.takes.change(0).pitch = decided(PitchValue{Cents(10)}, Origin::set); });
  auto* window = window_->openTuneUp();
  const auto choose = [&](const QString& words) {
    for (auto* b : window->findChildren<QRadioButton*>())
      if (b->text().startsWith(words)) {
        b->click();
        break;
      }
    QApplication::processEvents();
  };
  choose("Meet a guitar in standard tuning");
  EXPECT_NEAR(bench().transport().sounding().shift.value, 90, 1e-6);
  EXPECT_EQ(window->findChild<QLabel*>("tune-note-1")->text().toStdString(), "A2");
  QTest::mouseClick(window->findChild<QPushButton*>("tune-pluck-1"), Qt::LeftButton);
  const auto sound = played(0.6);
  const auto pitch = pitchOfString(std::span(sound).last(8192), output_->kept().sampleRate);
  ASSERT_TRUE(pitch.has_value());
  EXPECT_NEAR(pitch->value, 110, 0.2) << "the tone of reference follows the playback";
  choose("As if the capo were off");
  EXPECT_NEAR(bench().transport().sounding().shift.value, -110, 1e-6);
  EXPECT_THAT(window->findChild<QLabel*>("tune-title")->text().toStdString(), HasSubstr("standard tuning, no capo"));
}

TEST_F(GuitarTest, ChordIsHeardConfirmedAndChangedInTheLane) {
  const auto measured = chordsOf(*bench().take(), bench().session().findings());
  const auto chord = std::find_if(measured.begin(), measured.end(),
                                  [](const ShownChord& c) { return c.chord && c.span.start > Seconds(2); });
  ASSERT_NE(chord, measured.end());
  const Seconds at = chord->span.start + chord->span.length() * 0.5;
  const auto choose = [&](const QString& words) {
    auto* closeUp = child<CloseUp>("close-up");
    closeUp->chords().menuFor(at, closeUp->mapToGlobal(QPoint(100, 60)));
    for (auto* menu : window_->findChildren<QMenu*>("chord-menu")) {
      for (auto* action : menu->actions())
        if (action->text().startsWith(words)) action->trigger();
      delete menu;
    }
  };
  choose("Hear");
  const auto sound = played(0.4);
  EXPECT_GT(*std::max_element(sound.begin(), sound.end()), 0.01F);
  choose("Confirm by ear");
  ASSERT_EQ(bench().take()->chords->size(), 1U);
  EXPECT_EQ(bench().take()->chords->front().origin, Origin::confirmed);
  EXPECT_EQ(bench().take()->chords->front().chord, chord->chord);
  choose("Back to measured");
  EXPECT_TRUE(bench().take()->chords->empty());
  bench().document().undo();
  EXPECT_EQ(bench().take()->chords->size(), 1U);
}

TEST_F(GuitarTest, ChordBoxStartsWithTheGuitarInHand) {
  setGuitar({{{38, 45, 52, 57, 61, 62}}, {3, 0}});
  auto* box = window_->openChordBox();
  EXPECT_EQ(box->findChild<QSpinBox*>("chord-capo")->value(), 3);
  EXPECT_THAT(box->findChild<QComboBox*>("chord-tuning")->currentText().toStdString(), HasSubstr("D A E A C♯ D"));
  box->typeName("D");
  QTest::mouseClick(box->findChild<QPushButton*>("chord-hear"), Qt::LeftButton);
  const auto sound = played(0.3);
  EXPECT_GT(*std::max_element(sound.begin(), sound.end()), 0.01F);
}

TEST_F(GuitarTest, AGuessDrivesNothingUntilItIsSettled) {
  Findings unsure = *bench().session().findings();
  for (FoundGuitar& guitar : unsure.guitars)
    for (SetupReading& reading : guitar.readings) reading.certainty *= 0.3;
  bench().document().setMeasured(bench().take()->id, std::make_shared<const Findings>(unsure));
  const FoundGuitar heard = *heardFor(bench().document().part(), bench().session().findings());
  ASSERT_LT(heard.readings.front().certainty, kLikely);
  EXPECT_EQ(bench().document().setup(), GuitarSetup{});
  EXPECT_EQ(tile("tile-guitar"), "Not settled");
  EXPECT_THAT(child<FactTile>("tile-guitar")->face().figure.toStdString(), HasSubstr("perhaps "));
  EXPECT_THAT(child<FactTile>("tile-key")->face().figure.toStdString(), HasSubstr("guitar not settled"));
  EXPECT_EQ(bench().session().chordWords(*parseChord("E♭m")).shape, "") << "no shapes of a guess";
  auto* settle = child<QPushButton>("neck-settle");
  EXPECT_TRUE(settle->isVisible());
  press(Qt::Key_G, Qt::ShiftModifier);
  auto* readings = child<QListWidget>("guitar-readings");
  EXPECT_TRUE(readings->hasFocus());
  QTest::keyClick(readings, Qt::Key_Return);
  const GuitarSetup taken{heard.readings.front().tuning, heard.readings.front().capo};
  EXPECT_EQ(bench().document().setup(), taken);
  EXPECT_FALSE(settle->isVisible());
}

TEST_F(GuitarTest, EachHalfOfTheKeyHasItsOwnCertainty) {
  Findings found = *bench().session().findings();
  found.guitars.front().readings = {{standardTuning(), {3, 0}, 0.5, {}}};
  bench().document().setMeasured(bench().take()->id, std::make_shared<const Findings>(found));
  const auto face = child<FactTile>("tile-key")->face();
  EXPECT_THAT(face.standing.toStdString(), HasSubstr("sure"));
  EXPECT_THAT(face.figure.toStdString(), HasSubstr("C minor shapes (likely)"));
}

TEST_F(GuitarTest, WhatIsNoMusicIsSaidToHaveNoBeatAndNoKey) {
  Findings none{.duration = Seconds(60)};
  none.rhythm.emplace();
  none.key.emplace();
  bench().document().setMeasured(bench().take()->id, std::make_shared<const Findings>(none));
  EXPECT_EQ(child<FactTile>("tile-time")->face().whyUnknown, "No steady beat");
  EXPECT_EQ(child<FactTile>("tile-key")->face().whyUnknown, "No key heard");
}

TEST_F(GuitarTest, StringsAreTypedAsShiftsAndCalledByAnOwnName) {
  QSettings().remove("tunings");
  press(Qt::Key_2, Qt::ControlModifier);
  auto* tuning = child<QComboBox>("guitar-tuning");
  tuning->setEditText("-2 0 0 0 0 -2");
  QTest::keyClick(tuning->lineEdit(), Qt::Key_Return);
  EXPECT_EQ(bench().document().setup().tuning, (Tuning{{38, 45, 50, 55, 59, 62}}));
  EXPECT_EQ(label("guitar-shifts"), "-2  0  0  0  0  -2 from standard");
  auto* called = child<QLineEdit>("guitar-nickname");
  called->setText("two doors");
  emit called->editingFinished();
  EXPECT_TRUE(child<FactTile>("tile-guitar")->face().sentence.contains(QString::fromUtf8("“two doors”")))
      << child<FactTile>("tile-guitar")->face().sentence.toStdString();
  // Another tuning has another name; this one is found again by its own.
  tuning->setEditText("D A D G B E");
  QTest::keyClick(tuning->lineEdit(), Qt::Key_Return);
  EXPECT_EQ(bench().document().setup().nickname, "");
  ASSERT_GE(tuning->findText("two doors"), 0);
  tuning->setCurrentIndex(tuning->findText("two doors"));
  emit tuning->activated(tuning->currentIndex());
  EXPECT_EQ(bench().document().setup().tuning.strings.back(), 62);
  EXPECT_EQ(bench().document().setup().nickname, "two doors");
  QSettings().remove("tunings");
}

TEST_F(GuitarTest, OnlyTheChosenStringsAreLit) {
  setGuitar({});
  auto* neck = child<NeckMap>("neck-map");
  auto* strings = child<QComboBox>("neck-strings");
  EXPECT_EQ(strings->currentText(), "all strings");
  const auto darkest = [&](int string) {  // of the marks on a string
    const QImage shot = neck->grab().toImage();
    int least = 255;
    for (int x = 60; x < shot.width() - 8; ++x)
      for (int dy = -9; dy < -4; ++dy)
        least = std::min(least, qGray(shot.pixel(x, neck->pointOf({string, 3}).y() + dy)));
    return least;
  };
  const int before = darkest(0);
  QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOfName(4));
  EXPECT_EQ(strings->currentText(), "string 2");
  QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOfName(3));
  EXPECT_EQ(strings->currentText(), "strings 3 2");
  EXPECT_GT(darkest(0), before + 40) << "the others stand back";
  EXPECT_LT(darkest(3), darkest(0));
  QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOfName(0));
  EXPECT_EQ(strings->currentText(), "strings 6 3 2") << "any that are picked one by one";
  for (const int s : {0, 3, 4}) QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOfName(s));
  EXPECT_EQ(strings->currentText(), "all strings");
  strings->setFocus();
  QTest::keyClick(strings, Qt::Key_S);
  EXPECT_EQ(strings->currentText(), "strings 2 1") << "by keys as well";
}

TEST_F(GuitarTest, TheNeckReachesTheLastFretOfTheGuitar) {
  setGuitar({});
  auto* neck = child<NeckMap>("neck-map");
  const auto last = [&] {
    int fret = 0;
    for (const auto& mark : neck->marks()) fret = std::max(fret, mark.place.fret);
    return fret;
  };
  EXPECT_GE(last(), 21);
  press(Qt::Key_2, Qt::ControlModifier);
  child<QSpinBox>("guitar-frets")->setValue(24);
  EXPECT_EQ(bench().document().guitar().frets, 24);
  EXPECT_GE(last(), 23);
  EXPECT_LE(last(), 24);
}

}  // namespace
}  // namespace ear::test
