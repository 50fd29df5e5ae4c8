// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QSpinBox>
#include <QWheelEvent>
#include <cmath>

#include "app/ears/ears_window.h"
#include "app/isolate/isolate_page.h"
#include "app/isolate/place_view.h"
#include "app/practise/practise_page.h"
#include "desk_fixture.h"
#include "support/decisions.h"

namespace ear::test {
namespace {

class ListeningDeskTest : public DeskTest {
 protected:
  void SetUp() override {
    QSettings().remove("practice");
    QSettings().remove("ears");
    DeskTest::SetUp();
    openDemo();
  }
  Isolation heard() { return bench().transport().sounding().isolation; }
  void click(const char* name) { QTest::mouseClick(child<QPushButton>(name), Qt::LeftButton); }
  /// Lets the output play and the desk notice.
  void run(double seconds) {
    for (double t = 0; t < seconds; t += 0.1) {
      output_->advance(Seconds(0.1));
      emit bench().transport().positionChanged();
    }
  }
};

TEST_F(ListeningDeskTest, IsolatesBySidePartAndBandAndBack) {
  window_->drawer().open(Drawer::isolate);
  click("isolate-channel-1");
  EXPECT_EQ(heard().channel, Isolation::Channel::left);
  click("isolate-part-1");
  child<QSpinBox>("isolate-low")->setValue(20);  // the first step up
  EXPECT_EQ(heard().lowCut, Hertz(200));
  child<QSpinBox>("isolate-high")->setValue(4000);
  EXPECT_EQ(child<QLabel>("isolate-sentence")->text(), "Left, what rings, 200 to 4000 Hz");
  press(Qt::Key_Slash);
  EXPECT_TRUE(heard().plain()) << "the whole for comparison";
  EXPECT_EQ(child<QLabel>("isolate-sentence")->text(), "The whole sound for now");
  press(Qt::Key_Slash);
  EXPECT_EQ(heard().part, Isolation::Component::harmonic);
  click("isolate-clear");
  EXPECT_TRUE(heard().plain());
  EXPECT_FALSE(child<QPushButton>("isolate-whole")->isEnabled());
  press(Qt::Key_3);
  EXPECT_EQ(heard().channel, Isolation::Channel::right);
  press(Qt::Key_3);
  EXPECT_TRUE(heard().plain());
}

TEST_F(ListeningDeskTest, APlaceIsDraggedOverTheStereoPicture) {
  window_->drawer().open(Drawer::isolate);
  auto* view = child<PlaceView>("isolate-place");
  const auto at = [&](double place) { return QPoint(static_cast<int>(std::lround(view->xOf(place))), 40); };
  drag(view, at(0.5), at(-0.6));
  EXPECT_EQ(heard().place, Isolation::Panned::keep);
  EXPECT_NEAR(heard().centre, -0.6, 0.03);
  drag(view, at(heard().centre + heard().width), at(-0.2));
  EXPECT_NEAR(heard().width, 0.4, 0.03);
  EXPECT_NEAR(heard().centre, -0.6, 0.03);
  click("isolate-place-mode-2");
  EXPECT_EQ(heard().place, Isolation::Panned::remove);
  view->setFocus();
  QTest::keyClick(view, Qt::Key_Right);
  EXPECT_NEAR(heard().centre, -0.55, 0.03);
}

TEST_F(ListeningDeskTest, APassageRemembersWhatWasIsolated) {
  bench().selection().set(TimeSpan{Seconds(20), Seconds(22)});
  press(Qt::Key_1);
  press(Qt::Key_K);
  const std::string id = bench().selection().keptId();
  press(Qt::Key_Escape);
  press(Qt::Key_1);
  EXPECT_TRUE(heard().plain());
  bench().selection().open(id);
  EXPECT_EQ(heard().channel, Isolation::Channel::left);
  bench().document().undo();  // keeping
  EXPECT_EQ(bench().document().study().passage(id), nullptr);
}

TEST_F(ListeningDeskTest, ALadderClimbsByCountAndIsLogged) {
  window_->drawer().open(Drawer::practise);
  bench().selection().set(TimeSpan{Seconds(10), Seconds(10.5)});
  child<QSpinBox>("ladder-from")->setValue(50);
  child<QSpinBox>("ladder-to")->setValue(100);
  child<QSpinBox>("ladder-step")->setValue(50);
  child<QSpinBox>("ladder-clean")->setValue(2);
  child<QDoubleSpinBox>("practise-breath")->setValue(0);
  child<QCheckBox>("practise-bar")->setChecked(false);
  click("practise-ladder");
  EXPECT_TRUE(bench().transport().playing());
  run(1.2);
  EXPECT_EQ(child<QLabel>("practise-sentence")->text(), "Step 1 of 2, 50 %: 1 of 2 clean");
  EXPECT_EQ(child<QSpinBox>("deck-speed")->value(), 50);
  run(1.2);
  EXPECT_EQ(child<QSpinBox>("deck-speed")->value(), 100);
  EXPECT_TRUE(child<QLabel>("practise-sentence")->text().startsWith("The top, 100 %"));
  click("practise-stop");
  ASSERT_EQ(bench().document().study().log->size(), 1U);
  const PracticeEntry& entry = bench().document().study().log->front();
  EXPECT_EQ(entry.kind, PracticeEntry::Kind::ladder);
  EXPECT_EQ(entry.speed, 1.0);
  EXPECT_GE(entry.times, 2);
  EXPECT_EQ(entry.span, (TimeSpan{Seconds(10), Seconds(10.5)}));
  EXPECT_TRUE(child<QListWidget>("practise-log")->item(0)->text().contains("up to 100 %"));
  press(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(bench().document().study().log->size(), 1U) << "the log is no edit";
}

TEST_F(ListeningDeskTest, ALadderByKeyWaitsForTheKey) {
  bench().selection().set(TimeSpan{Seconds(10), Seconds(10.4)});
  bench().practice().setSettings({.ladder = {.from = 0.8, .to = 1.0, .step = 0.1, .clean = 2, .byKey = true},
                                  .breathBeats = 0,
                                  .countBar = false});
  press(Qt::Key_L, Qt::ShiftModifier);
  run(3.0);
  EXPECT_EQ(bench().practice().state().step, 1);
  press(Qt::Key_L);
  run(0.6);
  EXPECT_EQ(bench().practice().state().done, 1);
  press(Qt::Key_L);
  run(1.2);
  EXPECT_EQ(bench().practice().state().step, 2);
  EXPECT_EQ(bench().practice().state().done, 0);
  // Whoever takes the speed in hand has left the ladder.
  press(Qt::Key_X);
  EXPECT_FALSE(bench().practice().running());
  EXPECT_EQ(bench().document().study().log->back().times, 2);
}

TEST_F(ListeningDeskTest, AChainLinksTheMarkedPhrases) {
  window_->drawer().open(Drawer::practise);
  bench().document().edit("Passages", [&](Study& s) {
    s.passages.clear();
    s.phrases.clear();
    for (int i = 0; i < 3; ++i)
      s.passages.push_back({"p" + std::to_string(i),
                            bench().take()->id,
                            "Phrase",
                            {Seconds(10 + 0.5 * i), Seconds(10.5 + 0.5 * i)},
                            1.0,
                            Cents(0),
                            ""});
  });
  auto* list = child<QListWidget>("chain-phrases");
  ASSERT_EQ(list->count(), 3);
  list->item(2)->setCheckState(Qt::Unchecked);
  child<QSpinBox>("chain-times")->setValue(1);
  child<QDoubleSpinBox>("practise-breath")->setValue(0);
  child<QCheckBox>("practise-bar")->setChecked(false);
  click("practise-chain");
  run(0.3);
  EXPECT_EQ(child<QLabel>("practise-sentence")->text(), "Phrase 1: time 1 of 1");
  run(0.5);
  EXPECT_EQ(child<QLabel>("practise-sentence")->text(), "Phrase 2: time 1 of 1");
  run(0.5);
  EXPECT_EQ(child<QLabel>("practise-sentence")->text(), "Phrase 1+2: time 1 of 1");
  bench().practice().stop();
  EXPECT_EQ(bench().document().study().log->back().reached, "1+2");
}

TEST_F(ListeningDeskTest, AChainHoldsPassagesAndPhrasesInAnyOrder) {
  bench().document().edit("Passages", [&](Study& s) {
    s.passages.clear();
    s.passages.push_back({"p1", bench().take()->id, "First", {Seconds(10), Seconds(10.5)}, 1.0, Cents(0), ""});
    s.phrases.clear();
    Phrase tab;
    tab.id = "t1", tab.take = bench().take()->id, tab.name = "Written", tab.span = {Seconds(20), Seconds(20.5)};
    s.phrases.push_back(tab);
  });
  auto* list = child<QListWidget>("chain-phrases");
  ASSERT_EQ(list->count(), 2);
  EXPECT_EQ(list->item(1)->text(), "0:20.0   Written, tab");
  EXPECT_EQ(list->item(1)->checkState(), Qt::Unchecked) << "passages are kept to be practised";
  list->item(1)->setCheckState(Qt::Checked);
  window_->drawer().open(Drawer::practise);
  list->setCurrentRow(1);
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
  EXPECT_EQ(list->item(0)->text(), "0:20.0   Written, tab");
  bench().document().edit("Another name", [](Study& s) { s.passage("p1")->name = "Second"; });
  EXPECT_EQ(list->item(1)->text(), "0:10.0   Second") << "the order stays when something else changes";
  EXPECT_EQ(list->item(0)->checkState(), Qt::Checked);
  child<QSpinBox>("chain-times")->setValue(1);
  child<QDoubleSpinBox>("practise-breath")->setValue(0);
  child<QCheckBox>("practise-bar")->setChecked(false);
  click("practise-chain");
  run(0.3);
  EXPECT_NEAR(bench().transport().position().value, 20.3, 0.15) << "the written phrase comes first";
  run(0.5);
  EXPECT_NEAR(bench().transport().position().value, 10.3, 0.15);
  bench().practice().stop();
}

TEST_F(ListeningDeskTest, CallAndAnswerLeavesTheLengthSilent) {
  bench().selection().set(TimeSpan{Seconds(10), Seconds(11)});
  bench().practice().setSettings({.breathBeats = 0, .countBar = false});
  press(Qt::Key_Y, Qt::ShiftModifier);
  run(0.5);
  output_->forget();
  run(0.2);
  const auto level = [&] {
    const Recording kept = output_->kept();
    double sum = 0;
    for (const float s : kept.left()) sum += std::abs(static_cast<double>(s));
    return sum / static_cast<double>(kept.frames());
  };
  EXPECT_GT(level(), 1e-3);
  run(0.5);
  output_->forget();
  run(0.5);
  EXPECT_LT(level(), 1e-5);
  EXPECT_EQ(practiceWords(bench().practice()), "Your turn");
}

TEST_F(ListeningDeskTest, TheDroneHoldsTheKeyNote) {
  press(Qt::Key_B, Qt::ShiftModifier);
  output_->advance(Seconds(0.5));
  output_->forget();
  output_->advance(Seconds(1.0));
  const Recording kept = output_->kept();
  // E flat at the recording's own pitch: 11 cents above MIDI 51 (or an octave off it).
  const double wanted =
      440 * std::exp2((51 - 69) / 12.0) * std::exp2(bench().transport().soundingOffset().value / 1200);
  EXPECT_NEAR(cents(frequencyOf(kept.left(), kept.sampleRate, wanted), wanted), 0, 2);
  press(Qt::Key_B, Qt::ShiftModifier);
  output_->advance(Seconds(0.5));
  output_->forget();
  output_->advance(Seconds(0.3));
  const Recording after = output_->kept();
  for (const float s : after.left()) ASSERT_EQ(s, 0.0F);
}

TEST_F(ListeningDeskTest, EarsAreKeptAnAccountOf) {
  auto* ears = window_->openEars();
  EXPECT_EQ(ears->findChild<QLabel*>("ears-now")->text(), "Nothing sounds now");
  EXPECT_FALSE(ears->findChild<QPushButton*>("ears-talk")->isEnabled());
  bench().transport().seek(Seconds(40));
  press(Qt::Key_Space);
  output_->advance(Seconds(2.5));
  bench().guard().tick();
  EXPECT_EQ(ears->findChild<QLabel*>("ears-now")->text(), "Something sounds; how loud is not known yet");
  ears->findChild<QPushButton*>("ears-talk")->click();
  EXPECT_EQ(ears->findChild<QLabel*>("ears-now")->text(), "About 60 dB(A) now");
  const double before = bench().guard().week().dose;
  output_->advance(Seconds(1.5));
  bench().guard().tick();
  EXPECT_GT(bench().guard().week().dose, before);
  // A second at about 60 dB(A) is a hundredth of a second at 80.
  EXPECT_NEAR(bench().guard().week().dose - before, doseOf(Decibels(60), Seconds(1)), doseOf(Decibels(60), Seconds(3)));
  bench().guard().setReminderMinutes(1);
  QString said;
  QObject::connect(&bench().session(), &Session::said, ears, [&](const QString& s) { said = s; });
  for (int i = 0; i < 70 && said.isEmpty(); ++i) output_->advance(Seconds(1.02)), bench().guard().tick();
  EXPECT_TRUE(said.startsWith("You have listened for 1 minutes") || said.startsWith("You have listened"))
      << said.toStdString();
}

TEST_F(ListeningDeskTest, ThePitchMapShowsPlaysAndFocuses) {
  auto* closeUp = child<CloseUp>("close-up");
  closeUp->grab();
  EXPECT_TRUE(closeUp->pitchMap().busy());
  ASSERT_TRUE(QTest::qWaitFor([&] { return closeUp->grab(), !closeUp->pitchMap().busy(); }, 20000));
  const QRectF area = closeUp->areaOf(closeUp->pitchMap());
  // The row of E flat 4 is darker where the chord sounds than the row of a note outside of everything.
  const QImage picture = closeUp->grab(area.toRect()).toImage();
  const auto shade = [&](double midi) {
    double sum = 0;
    const int y = static_cast<int>(closeUp->pitchMap().axis().yOf(midi, QRectF(QPointF(0, 0), area.size())));
    for (int x = 300; x < picture.width() - 10; ++x) sum += qGray(picture.pixel(x, y));
    return sum / (picture.width() - 310);
  };
  EXPECT_LT(shade(58), shade(57) - 8) << "B flat 3 sounds, A 3 does not";
  bench().document().editPart("Set", bench().document().part().id, [](GuitarPart& p) {
    p.setup = decided(GuitarSetup{{{39, 44, 49, 54, 58, 63}}, {}}, Origin::set);
  });
  EXPECT_EQ(
      closeUp->pitchMap().placesOf(63.0),
      QStringLiteral(
          "E♭4: fret 19 on string 5; fret 14 on string 4; fret 9 on string 3; fret 5 on string 2; open string 1"));
  // Alt and a drag isolates the octave around.
  const int x = 500, y = static_cast<int>(closeUp->pitchMap().axis().yOf(63, area));
  QTest::mouseClick(closeUp, Qt::LeftButton, Qt::AltModifier, QPoint(x, y));
  EXPECT_NEAR(cents(heard().focus.value, 440 * std::exp2(-0.5)), bench().brief().pitch->value.offset.value, 1);
  // Ctrl and the wheel stretches it, and names appear.
  QWheelEvent wheel(QPointF(x, y), closeUp->mapToGlobal(QPointF(x, y)), {}, QPoint(0, 1200), Qt::NoButton,
                    Qt::ControlModifier, Qt::NoScrollPhase, false);
  QApplication::sendEvent(closeUp, &wheel);
  EXPECT_NEAR(closeUp->pitchMap().axis().pitchAt(y, area), 63, 0.2);
  EXPECT_LT(
      closeUp->pitchMap().axis().pitchAt(area.top(), area) - closeUp->pitchMap().axis().pitchAt(area.bottom(), area),
      12);
  press(Qt::Key_H, Qt::ShiftModifier);
  EXPECT_TRUE(closeUp->areaOf(closeUp->pitchMap()).isEmpty());
}

TEST_F(ListeningDeskTest, EdgesMoveByABeat) {
  const Grid& grid = bench().time().grid();
  bench().selection().set(TimeSpan{grid[20].time, grid[28].time});
  press(Qt::Key_A, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_NEAR(bench().selection().passage()->start.value, grid[19].time.value, 1e-6);
  press(Qt::Key_F, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_NEAR(bench().selection().passage()->end.value, grid[29].time.value, 1e-6);
  press(Qt::Key_S, Qt::ControlModifier | Qt::AltModifier);
  press(Qt::Key_D, Qt::ControlModifier | Qt::AltModifier);
  EXPECT_NEAR(bench().selection().passage()->start.value, grid[20].time.value, 1e-6);
  EXPECT_NEAR(bench().selection().passage()->end.value, grid[28].time.value, 1e-6);
}

TEST_F(ListeningDeskTest, AnOutputThatGoesAwayPausesAndComesBack) {
  QString said;
  QObject::connect(&bench().session(), &Session::said, window_.get(), [&](const QString& s) { said = s; });
  bench().transport().seek(Seconds(30));
  press(Qt::Key_Space);
  output_->advance(Seconds(0.5));
  const Seconds before = bench().transport().position();
  output_->unplug();
  QCoreApplication::processEvents();
  EXPECT_FALSE(bench().transport().playing());
  EXPECT_TRUE(said.contains("is gone") && said.contains("press Space")) << said.toStdString();
  press(Qt::Key_Space);
  EXPECT_TRUE(bench().transport().playing());
  output_->advance(Seconds(0.5));
  EXPECT_GT(bench().transport().position(), before);
}

TEST_F(ListeningDeskTest, AnotherDefaultOutputIsSaidAndPlayingGoesOn) {
  QString said;
  QObject::connect(&bench().session(), &Session::said, window_.get(), [&](const QString& s) { said = s; });
  press(Qt::Key_Space);
  output_->move();
  QCoreApplication::processEvents();
  EXPECT_TRUE(said.contains("another simulated output")) << said.toStdString();
  EXPECT_TRUE(bench().transport().playing());
}

TEST_F(ListeningDeskTest, AttacksAreMarkedUnderTheSound) {
  auto* closeUp = child<CloseUp>("close-up");
  closeUp->setWindow({Seconds(28), Seconds(44)});
  ASSERT_TRUE(QTest::qWaitFor([&] { return closeUp->grab(), !closeUp->sound().attacks().busy(); }, 20000));
  const auto marks = closeUp->sound().attacks().in(closeUp->window());
  // Most beats of the demo's score have something struck on them, and most of what is struck lies on a sixteenth.
  const Grid& grid = bench().time().grid();
  int beats = 0, struck = 0, placed = 0;
  for (std::size_t i = 0; i + 1 < grid.size(); ++i) {
    if (!closeUp->window().contains(grid[i].time) || !closeUp->window().contains(grid[i + 1].time)) continue;
    ++beats;
    struck +=
        std::any_of(marks.begin(), marks.end(), [&](Seconds t) { return std::abs((t - grid[i].time).value) < 0.04; });
    for (const Seconds t : marks)
      if (grid[i].time <= t && t < grid[i + 1].time) {
        const double quarter = (t - grid[i].time) / (grid[i + 1].time - grid[i].time) * 4;
        placed += std::abs(quarter - std::round(quarter)) < 0.25;
      }
  }
  ASSERT_GT(beats, 20);
  EXPECT_GT(struck, beats * 8 / 10) << "of " << beats;
  EXPECT_GT(placed, static_cast<int>(marks.size()) * 8 / 10) << "of " << marks.size();
  // A window too wide for single marks has none.
  closeUp->setWindow({Seconds(0), Seconds(100)});
  closeUp->grab();
  EXPECT_FALSE(closeUp->sound().attacks().busy());
}

TEST_F(ListeningDeskTest, StartsSoftlyWhateverWasSetBefore) {
  bench().transport().setVolume(1.0);
  window_->close();
  window_.reset();
  DeskTest::SetUp();
  EXPECT_LE(bench().transport().volume(), 0.35);
}

}  // namespace
}  // namespace ear::test
