// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/phrase_bench.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QTableWidget>
#include <cmath>

#include "app/brief/brief_row.h"
#include "app/drawer/phrase_page.h"
#include "app/neck/neck_view.h"
#include "app/phrasebench/entry_echo.h"
#include "app/phrasebench/entry_line.h"
#include "app/phrasebench/midi_window.h"
#include "app/phrasebench/note_words.h"
#include "app/phrasebench/refinger_window.h"
#include "app/phrasebench/tab_view.h"
#include "app/theme/words.h"
#include "desk_fixture.h"
#include "devices/pedal.h"
#include "support/decisions.h"

namespace ear::test {
namespace {

using testing::ElementsAre;
using testing::IsEmpty;
using testing::Lt;
using testing::SizeIs;

// The solo's first phrase: nine notes with two bends (the demo's truth), on the guitar a semitone down.
constexpr TimeSpan kSolo{Seconds(83.427), Seconds(88.042)};

class PhraseBenchTest : public DeskTest {
 protected:
  void SetUp() override {
    DeskTest::SetUp();
    openDemo();
  }

  PhraseKeeper& phrases() { return bench().phrases(); }
  PhraseEar& ear() { return bench().phraseEar(); }
  QLineEdit& line() { return window_->phraseBench().entry().line(); }
  TabView& tab() { return window_->phraseBench().tab(); }
  const std::vector<ShownNote>& notes() { return phrases().view().shown.notes; }
  const Study& study() { return std::as_const(bench().document()).study(); }

  void run(const char* command) { child<QAction>(command)->trigger(); }
  /// Key by key, as fingers do.
  int keys(QWidget& widget, const QString& typed) {
    for (const QChar c : typed) QTest::keyClick(&widget, c.toLatin1());
    return static_cast<int>(typed.size());
  }
  void say(const QString& words) {
    line().setText(words);
    QTest::keyClick(&line(), Qt::Key_Return);
  }
  std::string id(int number) { return "phrase" + std::to_string(number); }
  void listen() {
    ASSERT_TRUE(QTest::qWaitFor([&] { return !ear().listening(); }, 30000));
    QApplication::processEvents();
  }
  /// The lead's guitar, and an empty passage over the solo.
  void takeSolo() {
    bench().document().edit("No phrases", [](Study& s) { s.phrases.clear(); });
    bench().document().takeInHand("take1-right");
    bench().selection().put(kSolo);
  }
  std::vector<std::string> heads() {
    std::vector<std::string> texts;
    for (const TabHead& h : phrases().view().score.heads) texts.push_back(h.text);
    return texts;
  }
};

TEST_F(PhraseBenchTest, ItOpensOverTheLowerHalfAndTheBriefFolds) {
  EXPECT_FALSE(window_->phraseBench().isVisible());
  auto* brief = window_->findChild<BriefRow*>();
  const int before = brief->height();
  press(Qt::Key_Return, Qt::ControlModifier);
  EXPECT_TRUE(window_->phraseBench().isVisible());
  EXPECT_TRUE(line().hasFocus());
  QApplication::processEvents();
  EXPECT_LT(brief->height(), before / 2);
  EXPECT_FALSE(window_->neck().isVisible());
  EXPECT_EQ(window_->drawer().page(), Drawer::phrase);
  run("bench");
  EXPECT_FALSE(window_->phraseBench().isVisible());
  EXPECT_TRUE(window_->neck().isVisible()) << "it comes back";
}

// Counted as a person would type it, each key pressed at 150 ms.
TEST_F(PhraseBenchTest, ALickOfTwelveNotesWithTwoBendsIsTypedInUnder25Seconds) {
  takeSolo();
  press(Qt::Key_Return, Qt::ControlModifier);
  int count = 1;
  count +=
      keys(line(), "14 bent whole step 3rd, 12 15p12 2nd, 14 12 14 3rd, 12 15 bent whole step 2nd, 12 1st, 15 13 2nd");
  QTest::keyClick(&line(), Qt::Key_Return);
  ++count;
  EXPECT_THAT(notes(), SizeIs(12));
  int bends = 0;
  for (const ShownNote& s : notes()) bends += s.note.bend && s.note.bend->size == Cents(200) ? 1 : 0;
  EXPECT_EQ(bends, 2);
  EXPECT_LT(count * 0.150, 25.0) << count << " keys";
  RecordProperty("keys", count);
}

TEST_F(PhraseBenchTest, WhatIsTypedIsEchoedBeforeItIsWritten) {
  takeSolo();
  window_->showBench(true);
  keys(line(), "15 on 2");
  const QString echo = window_->findChild<EntryEcho*>()->words();
  // String 2 of the guitar a semitone down is B flat: 15 frets up is D flat 5, the flat seventh of E flat minor.
  EXPECT_TRUE(echo.contains("D♭5")) << echo.toStdString();
  EXPECT_TRUE(echo.contains("♭7")) << echo.toStdString();
  EXPECT_THAT(notes(), IsEmpty()) << "nothing is written before Return";
}

TEST_F(PhraseBenchTest, WhatIsNotUnderstoodStaysInTheLineAndIsExplained) {
  takeSolo();
  window_->showBench(true);
  say("12 flurb");
  EXPECT_EQ(line().text(), "12 flurb");
  EXPECT_TRUE(child<QLabel>("entry-word")->text().contains("flurb"));
  EXPECT_EQ(phrases().phrase(), nullptr);
}

TEST_F(PhraseBenchTest, WhatNoHandDoesIsToldWhileItIsTyped) {
  takeSolo();
  window_->showBench(true);
  line().setText("12 hammer 9 on 3");
  EXPECT_TRUE(child<QLabel>("entry-word")->text().contains("goes up"))
      << child<QLabel>("entry-word")->text().toStdString();
  QTest::keyClick(&line(), Qt::Key_Return);
  ASSERT_THAT(notes(), SizeIs(2)) << "who means it may write it";
  EXPECT_EQ(checksOf(bench()).at(notes()[1].note.id), HeadCheck::impossible) << "and it stays marked";
  QTest::keyClick(&line(), Qt::Key_Escape);
  EXPECT_TRUE(tab().hasFocus());
  QTest::keyClick(&tab(), Qt::Key_Escape);
  EXPECT_TRUE(window_->closeUp().hasFocus());
}

TEST_F(PhraseBenchTest, AWrongNameIsToldBeforeItIsWritten) {
  takeSolo();
  window_->showBench(true);
  // Fret 5 of string 5 on the guitar a semitone down is D flat, whatever a teacher in standard tuning says.
  say("5 on 5 = D");
  EXPECT_EQ(phrases().phrase(), nullptr);
  EXPECT_TRUE(child<QLabel>("entry-word")->text().contains("D♭")) << child<QLabel>("entry-word")->text().toStdString();
  say("5 on 5 = Db");
  EXPECT_THAT(notes(), SizeIs(1));
}

TEST_F(PhraseBenchTest, AWordWithTwoMeaningsIsAskedBack) {
  takeSolo();
  window_->showBench(true);
  line().setText("12 E");
  QApplication::processEvents();
  const auto choices = window_->findChildren<QPushButton*>("entry-choice");
  ASSERT_EQ(choices.size(), 2);
  EXPECT_THAT(choices[0]->text().toStdString(), testing::HasSubstr("high"));
  QTest::keyClick(&line(), Qt::Key_Return);
  EXPECT_EQ(phrases().phrase(), nullptr) << "nothing is guessed";
  choices[1]->click();
  QTest::keyClick(&line(), Qt::Key_Return);
  ASSERT_THAT(notes(), SizeIs(1));
  EXPECT_EQ(notes()[0].note.place.fret, 12);
}

TEST_F(PhraseBenchTest, ANoteIsFoundAndChangedWithTheKeysAlone) {
  phrases().open(id(2));
  window_->showBench(true);
  tab().setFocus();
  QTest::keyClick(&tab(), Qt::Key_Home);
  QTest::keyClick(&tab(), Qt::Key_Right);
  QTest::keyClick(&tab(), Qt::Key_Right);
  ASSERT_THAT(phrases().chosen(), SizeIs(1));
  const int chosen = *phrases().chosen().begin();
  const auto fret = [&] {
    for (const ShownNote& s : notes())
      if (s.note.id == chosen) return s.note.place.fret;
    return -1;
  };
  EXPECT_EQ(fret(), 12);
  QTest::keyClick(&tab(), Qt::Key_1);
  QTest::keyClick(&tab(), Qt::Key_0);
  EXPECT_EQ(fret(), 10);
  QTest::keyClick(&tab(), Qt::Key_Up, Qt::ShiftModifier);
  EXPECT_EQ(fret(), 11);
  run("undo");
  run("undo");
  EXPECT_EQ(fret(), 12) << "two steps: the typed fret, and the fret moved";
  QTest::keyClick(&tab(), Qt::Key_Delete);
  EXPECT_EQ(fret(), -1);
  run("undo");
  EXPECT_EQ(fret(), 12);
}

TEST_F(PhraseBenchTest, ClickingANoteChoosesItAndSaysAllOfIt) {
  phrases().open(id(2));
  window_->showBench(true);
  QApplication::processEvents();
  const int bent = notes().front().note.id;
  QTest::mouseClick(&tab(), Qt::LeftButton, Qt::NoModifier, tab().rectOf(bent).center().toPoint());
  EXPECT_THAT(phrases().chosen(), ElementsAre(bent));
  const QString words = child<QLabel>("phrase-note")->text();
  EXPECT_TRUE(words.contains("200 cents")) << words.toStdString();
}

TEST_F(PhraseBenchTest, WordsAboutTheChosenNoteChangeWhatItDoes) {
  phrases().open(id(2));
  window_->showBench(true);
  const Note before = notes().front().note;
  phrases().choose({before.id});
  say("bent half step");
  ASSERT_TRUE(notes().front().note.bend.has_value());
  EXPECT_EQ(notes().front().note.bend->size, Cents(100));
  EXPECT_EQ(notes().front().note.place, before.place);
  EXPECT_EQ(notes().front().note.at, before.at);
  EXPECT_EQ(notes().front().note.length, before.length);
  say("finger 2");
  EXPECT_EQ(notes().front().note.finger, Finger::second);
}

TEST_F(PhraseBenchTest, NotesAreCopiedBehindThemselves) {
  phrases().open(id(3));
  window_->showBench(true);
  tab().setFocus();
  const std::size_t count = notes().size();
  QTest::keyClick(&tab(), Qt::Key_A, Qt::ControlModifier);
  QTest::keyClick(&tab(), Qt::Key_C, Qt::ControlModifier);
  QTest::keyClick(&tab(), Qt::Key_End);
  QTest::keyClick(&tab(), Qt::Key_V, Qt::ControlModifier);
  ASSERT_EQ(notes().size(), 2 * count);
  std::set<int> ids;
  for (const ShownNote& s : notes()) ids.insert(s.note.id);
  EXPECT_EQ(ids.size(), 2 * count) << "each note has an id of its own";
  EXPECT_EQ(notes()[count].note.bend, notes()[0].note.bend);
}

// --- with the recording ------------------------------------------------------------------------------------------

TEST_F(PhraseBenchTest, WhatIsWrittenAsPlayedIsConfirmedAndAWrongFretIsNot) {
  phrases().open(id(2));
  window_->showBench(true);
  press(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
  listen();
  int heard = 0;
  for (const auto& [note, check] : checksOf(bench())) heard += check == HeadCheck::heard ? 1 : 0;
  EXPECT_EQ(heard, static_cast<int>(notes().size()));
  const int wrong = notes()[2].note.id;
  phrases().choose({wrong});
  phrases().moveChosenByFrets(-2);
  EXPECT_EQ(ear().verdictOf(notes()[2].note), nullptr) << "what was said of the old fret is no longer said";
  press(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
  listen();
  EXPECT_EQ(checksOf(bench()).at(wrong), HeadCheck::other);
  const auto* table = child<QTableWidget>("phrase-doubts");
  ASSERT_GT(table->rowCount(), 0);
  EXPECT_TRUE(table->item(0, 1)->text().contains("is heard here")) << table->item(0, 1)->text().toStdString();
  emit const_cast<QTableWidget*>(table)->cellClicked(0, 1);
  EXPECT_THAT(phrases().chosen(), ElementsAre(wrong)) << "a click chooses the note";
  emit const_cast<QTableWidget*>(table)->cellActivated(0, 1);
  EXPECT_TRUE(bench().transport().playing()) << "the spot as it is recorded";
  EXPECT_LT(bench().selection().passage()->length(), Seconds(1));
  const TimeSpan spot = *bench().selection().passage();
  emit const_cast<QTableWidget*>(table)->cellActivated(0, 1);
  EXPECT_TRUE(bench().transport().playing()) << "and the written note over it";
  EXPECT_EQ(bench().selection().passage(), spot);
}

TEST_F(PhraseBenchTest, AGuitarThatIsNotSettledIsSaidOnceAndNotForEachNote) {
  bench().document().editPart("Standard", "take1-right", [](GuitarPart& p) {
    p.setup = Decision<GuitarSetup>{GuitarSetup{}, Origin::set, 1.0, Evidence::Kind::setByHand};
  });
  phrases().open(id(2));
  window_->showBench(true);
  ear().check();
  listen();
  EXPECT_EQ(ear().commonShift(), -1);
  EXPECT_TRUE(child<QLabel>("phrase-state")->text().contains("1 semitone lower"));
}

TEST_F(PhraseBenchTest, SuggestionsAreTakenAsAWholeOrOneByOne) {
  takeSolo();
  window_->showBench(true);
  run("suggest");
  listen();
  const std::size_t offered = ear().suggestions().size();
  ASSERT_GE(offered, 8U);
  EXPECT_EQ(phrases().phrase(), nullptr) << "nothing is written by itself";
  QTest::keyClick(window_.get(), Qt::Key_Return, Qt::ShiftModifier);
  ASSERT_THAT(notes(), SizeIs(1));
  EXPECT_EQ(notes()[0].note.origin, Origin::measured);
  EXPECT_EQ(ear().suggestions().size(), offered - 1) << "the others are still offered";
  QTest::keyClick(window_.get(), Qt::Key_Return, Qt::ShiftModifier | Qt::ControlModifier);
  EXPECT_EQ(notes().size(), offered);
  phrases().chooseAll();
  phrases().confirmChosen();
  EXPECT_EQ(notes()[0].note.origin, Origin::confirmed);
}

TEST_F(PhraseBenchTest, AWalkAsksForEachAttackAndTakesOneAnswerAtATime) {
  takeSolo();
  run("walk");
  listen();
  ASSERT_TRUE(ear().walking());
  const int steps = ear().walkState().steps;
  ASSERT_GE(steps, 8);
  EXPECT_TRUE(bench().transport().playing()) << "the attack loops";
  EXPECT_LT(bench().selection().passage()->length(), Seconds(1.6));
  // A wrong answer is told so; the place stays.
  say("5 on 6");
  EXPECT_EQ(ear().walkState().step, 1);
  EXPECT_TRUE(ear().walkState().word.contains("else")) << ear().walkState().word.toStdString();
  // The right one goes on, with the bend that was measured.
  say("14 on 3");
  EXPECT_EQ(ear().walkState().step, 2);
  EXPECT_EQ(ear().walkState().asHeard, 1);
  ASSERT_FALSE(notes().empty());
  EXPECT_EQ(notes()[0].note.origin, Origin::confirmed);
  ASSERT_TRUE(notes()[0].note.bend.has_value());
  EXPECT_NEAR(notes()[0].note.bend->size->value, 200, 30);
  // The name of a note alone finds the place nearest to the hand: B4 is fret 12 on string 2 here, as it was just there.
  QTest::keyClick(&line(), Qt::Key_Return);
  EXPECT_EQ(ear().walkState().step, 3) << "Return alone takes what was heard";
  int answers = 2;
  while (ear().walking()) QTest::keyClick(&line(), Qt::Key_Return), ++answers;
  EXPECT_EQ(answers, steps);
  EXPECT_EQ(bench().selection().passage(), phrases().phrase()->span) << "the whole phrase is looped again";
}

TEST_F(PhraseBenchTest, ALickIsWalkedInFewerAnswersThanItHasNotes) {
  takeSolo();
  run("walk");
  listen();
  const int steps = ear().walkState().steps;
  int answers = 0;
  const auto answer = [&](const QString& words) { say(words), ++answers; };
  answer("14 3rd");
  answer("12 15 12 2nd");
  answer("14 3rd");
  EXPECT_EQ(ear().walkState().step, 5) << "three notes answered three attacks";
  while (ear().walking()) answer("");
  EXPECT_THAT(answers, Lt(12));
  EXPECT_LT(answers, steps);
  RecordProperty("answers", answers);
}

TEST_F(PhraseBenchTest, AKeyboardTheNeckAndAGuitarAnswerAsWell) {
  auto pedal = std::make_unique<SimulatedPedal>();
  SimulatedPedal* keyboard = pedal.get();
  window_->usePedal(std::move(pedal));
  takeSolo();
  run("walk");
  listen();
  // What the recording has, as the guitar a semitone down sounds it: 14 on string 3.
  keyboard->strike(phrases().entryContext().guitar.pitch({3, 14}));
  QApplication::processEvents();
  EXPECT_EQ(ear().walkState().step, 2);
  EXPECT_EQ(phrases().view().guitar.pitch(notes()[0].note.place), phrases().view().guitar.pitch({3, 14}));
  window_->showNeck(true);
  emit window_->neck().struck({4, 12});
  EXPECT_EQ(ear().walkState().step, 3);
  EXPECT_EQ(ear().walkState().asHeard, 2);
  // The next one is fret 15 on string 2, played on a guitar of one's own.
  run("play-notes");
  ASSERT_TRUE(bench().ear().listeningToInput());
  guitar_->pluck(phrases().entryContext().guitar, 4, Cents(1500));
  for (int i = 0; i < 60 && ear().walkState().step == 3; ++i) {
    guitar_->advance(Seconds(0.1));
    QTest::qWait(70);
  }
  EXPECT_EQ(ear().walkState().step, 4) << ear().walkState().word.toStdString();
  EXPECT_EQ(ear().walkState().asHeard, 3);
  ear().endWalk();
  // Without a walk it is written at the caret.
  const std::size_t count = notes().size();
  run("play-notes");
  EXPECT_FALSE(bench().ear().listeningToInput());
  keyboard->strike(64);
  QApplication::processEvents();
  EXPECT_EQ(notes().size(), count + 1);
}

TEST_F(PhraseBenchTest, AWindowThatClosesWhileItListensEndsQuietly) {
  takeSolo();
  run("play-notes");
  ASSERT_TRUE(bench().ear().listeningToInput());
  run("suggest");
  window_.reset();  // the input is open and the passage is being heard
}

TEST_F(PhraseBenchTest, WhatIsWrittenSoundsInItsEar) {
  phrases().open(id(2));
  const auto levels = [&](WrittenVoice::Mode mode) {
    bench().written().setMode(mode);
    bench().transport().seek(kSolo.start);
    output_->forget();
    if (!bench().transport().playing()) bench().transport().togglePlay();
    output_->advance(Seconds(2));
    const Recording kept = output_->kept();
    std::array<double, 2> level{};
    for (std::size_t c = 0; c < 2; ++c)
      for (std::size_t i = 20000; i < kept.frames(); ++i)
        level[c] += std::pow(static_cast<double>(kept.channels[c][i]), 2) / static_cast<double>(kept.frames());
    return level;
  };
  const auto whole = levels(WrittenVoice::Mode::off);
  const auto alone = levels(WrittenVoice::Mode::alone);
  EXPECT_GT(alone[0], 1e-6) << "the strings sound";
  EXPECT_NEAR(alone[0] / alone[1], 1.0, 0.2) << "from the middle";
  const auto each = levels(WrittenVoice::Mode::oneEach);
  EXPECT_GT(each[0], 0.2 * whole[0]) << "the recording is in the left ear";
  EXPECT_GT(each[1], 1e-6);
  EXPECT_NE(each[0], each[1]);
}

// --- phrases among each other ------------------------------------------------------------------------------------

TEST_F(PhraseBenchTest, ARepeatIsALinkAndItsDifferenceIsStarred) {
  phrases().open(id(5));
  EXPECT_EQ(notes().size(), phrases().viewOf(*study().phrase(id(1))).shown.notes.size());
  EXPECT_TRUE(child<QLabel>("phrase-link")->text().contains("Opening hook"));
  phrases().choose({notes()[3].note.id});
  phrases().moveChosenByFrets(1);
  int starred = 0;
  for (const TabHead& h : phrases().view().score.heads) starred += h.differs ? 1 : 0;
  EXPECT_EQ(starred, 1);
  EXPECT_TRUE(study().phrase(id(5))->link.has_value()) << "still a link";
  // A correction of the original reaches it.
  phrases().open(id(1));
  phrases().choose({notes()[0].note.id});
  phrases().moveChosenByFrets(2);
  phrases().open(id(5));
  EXPECT_EQ(heads().front(), "11");
  child<QPushButton>("phrase-detach")->click();
  EXPECT_FALSE(study().phrase(id(5))->link.has_value());
}

TEST_F(PhraseBenchTest, TwoTimesThatAreWrittenNearlyAlikeAreSeenSideBySideAndLinked) {
  phrases().open(id(5));
  phrases().detach();
  phrases().choose({notes()[3].note.id});
  phrases().moveChosenByFrets(1);
  EXPECT_TRUE(child<QLabel>("phrase-link")->text().contains("1 note differs"))
      << child<QLabel>("phrase-link")->text().toStdString();
  window_->showBench(true);
  QApplication::processEvents();
  const int one = tab().minimumHeight();
  child<QPushButton>("phrase-beside")->click();
  EXPECT_GT(tab().minimumHeight(), 3 * one / 2);
  const auto before = heads();
  child<QPushButton>("phrase-detach")->click();
  ASSERT_TRUE(study().phrase(id(5))->link.has_value());
  EXPECT_EQ(study().phrase(id(5))->link->changed.size(), 1U) << "only the difference is kept";
  EXPECT_EQ(heads(), before) << "nothing is played otherwise";
}

TEST_F(PhraseBenchTest, LevelsStandOneBelowTheOther) {
  phrases().open(id(3));
  window_->showBench(true);
  QApplication::processEvents();
  const int one = tab().minimumHeight();
  auto* levels = child<QPushButton>("bench-all-levels");
  ASSERT_TRUE(levels->isVisible());
  levels->click();
  EXPECT_GT(tab().minimumHeight(), 3 * one / 2);
  phrases().setLevel(1);
  EXPECT_THAT(notes(), SizeIs(7));
  run("phrase-level");
  EXPECT_THAT(*study().phrase(id(3))->levels, SizeIs(3));
  EXPECT_EQ(phrases().level(), 2U);
}

TEST_F(PhraseBenchTest, ThePassageBringsItsPhraseToHand) {
  bench().document().takeInHand("take1-right");
  bench().selection().set(TimeSpan{Seconds(89), Seconds(91)});
  ASSERT_NE(phrases().phrase(), nullptr);
  EXPECT_EQ(phrases().phrase()->id, id(3));
  bench().selection().set(TimeSpan{Seconds(40), Seconds(44)});
  EXPECT_EQ(phrases().phrase(), nullptr) << "nothing is written there";
  run("phrase-on");
  EXPECT_NE(phrases().phrase(), nullptr);
}

TEST_F(PhraseBenchTest, TheTabLiesUnderTheSoundItBelongsTo) {
  phrases().open(id(2));
  window_->showBench(true);
  QApplication::processEvents();
  CloseUp& view = window_->closeUp();
  const QRectF lane = view.areaOf(view.tab());
  ASSERT_FALSE(lane.isEmpty());
  const double x = view.xOf(phrases().timeOf(*phrases().phrase(), notes()[4].note.at));
  // String 3 of six, in the lane.
  bool found = false;
  for (double y = lane.top(); y < lane.bottom() && !found; y += 3) {
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, QPoint(static_cast<int>(x), static_cast<int>(y)));
    found = phrases().chosen() == std::set<int>{notes()[4].note.id};
  }
  EXPECT_TRUE(found);
}

TEST_F(PhraseBenchTest, AnOpenQuestionIsAskedLoopedAndSettled) {
  bench().selection().put({Seconds(20), Seconds(22)});
  press(Qt::Key_O, Qt::ControlModifier | Qt::ShiftModifier);
  auto* text = child<QLineEdit>("question-text");
  EXPECT_TRUE(text->hasFocus());
  text->setText("One guitar or two? / ask the band");
  QTest::keyClick(text, Qt::Key_Return);
  ASSERT_EQ(study().questions.size(), 2U);
  EXPECT_EQ(study().questions[1].who, "ask the band");
  auto* list = child<QListWidget>("question-list");
  bench().selection().put({Seconds(50), Seconds(52)});
  list->setCurrentRow(1);
  emit list->itemClicked(list->item(1));
  EXPECT_EQ(bench().selection().passage()->start, Seconds(20));
  auto* answer = child<QLineEdit>("question-answer");
  answer->setText("two");
  QTest::keyClick(answer, Qt::Key_Return);
  EXPECT_EQ(study().questions[1].answer, "two");
}

TEST_F(PhraseBenchTest, FingersAndOtherPlacesAreProposed) {
  phrases().open(id(2));
  phrases().chooseAll();
  auto* ways = child<QListWidget>("phrase-ways");
  ASSERT_GE(ways->count(), 2);
  const auto pitches = [&] {
    std::vector<int> list;
    for (const ShownNote& s : notes()) list.push_back(phrases().view().guitar.pitch(s.note.place));
    return list;
  };
  const auto before = pitches();
  const auto places = heads();
  int other = 0;
  while (other < ways->count() && ways->item(other)->text().contains("as written")) ++other;
  emit ways->itemActivated(ways->item(other));
  EXPECT_EQ(pitches(), before) << "the same sound";
  EXPECT_NE(heads(), places) << "elsewhere";
  run("fingers");
  for (const ShownNote& s : notes()) EXPECT_NE(s.note.finger, Finger::unsaid);
}

TEST_F(PhraseBenchTest, ReadingsStandBesideANoteAndOneIsTaken) {
  phrases().open(id(2));
  const auto doubtful =
      std::find_if(notes().begin(), notes().end(), [](const auto& s) { return !s.note.readings.empty(); });
  ASSERT_NE(doubtful, notes().end());
  const int note = doubtful->note.id;
  EXPECT_TRUE(noteTip(bench(), note).contains("Or: ")) << noteTip(bench(), note).toStdString();
  EXPECT_TRUE(noteTip(bench(), note).contains("of E♭m")) << "the chord under it";
  phrases().takeReading(note, 0);
  for (const ShownNote& s : notes())
    if (s.note.id == note) {
      EXPECT_EQ(s.note.why, "picked");
      EXPECT_EQ(s.note.readings.at(0).why, "picked softly, or pulled off") << "the other one stays beside it";
    }
}

TEST_F(PhraseBenchTest, AStretchIsMarkedAsNotMadeOutAndAsTheHardest) {
  phrases().open(id(2));
  phrases().choose({notes()[1].note.id, notes()[2].note.id});
  run("unclear");
  run("hardest");
  const Arrangement& level = (*phrases().phrase()->levels)[0];
  ASSERT_THAT(level.open, SizeIs(1));
  EXPECT_EQ(level.open[0].from, notes()[1].note.at);
  ASSERT_TRUE(level.hardest.has_value());
  EXPECT_EQ(level.hardest->second, notes()[2].note.end());
  EXPECT_THAT(phrases().view().score.stretches, SizeIs(2));
  phrases().choose({notes()[1].note.id, notes()[2].note.id});
  run("unclear");
  EXPECT_THAT((*phrases().phrase()->levels)[0].open, IsEmpty()) << "once more takes it away";
}

TEST_F(PhraseBenchTest, APhraseWrittenForAnotherTuningIsPutWhereItSoundsTheSame) {
  phrases().open(id(2));
  const std::size_t count = notes().size();
  auto* window = window_->openRefinger();
  auto* from = window->findChild<QComboBox*>("refinger-from");
  from->setCurrentIndex(from->findText("standard"));
  ASSERT_GE(from->currentIndex(), 0);
  emit from->activated(from->currentIndex());
  auto* ways = window->findChild<QListWidget*>("refinger-ways");
  ASSERT_GT(ways->count(), 0);
  std::vector<int> wanted;
  for (const ShownNote& s : notes()) wanted.push_back(Guitar{}.pitch(s.note.place));
  window->findChild<QPushButton*>("refinger-here")->click();
  ASSERT_EQ(notes().size(), count);
  for (std::size_t i = 0; i < count; ++i)
    EXPECT_EQ(phrases().view().guitar.pitch(notes()[i].note.place), wanted[i])
        << "a fret higher on strings a semitone down";
}

TEST_F(PhraseBenchTest, APhraseGoesToOtherStringsWhereTheyHaveItsNotes) {
  phrases().open(id(2));
  auto* window = window_->openRefinger();
  auto* strings = window->findChild<QComboBox*>("refinger-strings");
  strings->setCurrentIndex(strings->findText("strings 4 3 2"));
  emit strings->activated(strings->currentIndex());
  ASSERT_GT(window->findChild<QListWidget*>("refinger-ways")->count(), 0);
  window->findChild<QPushButton*>("refinger-here")->click();
  ASSERT_FALSE(notes().empty());
  for (const ShownNote& s : notes()) {
    EXPECT_GE(s.note.place.string, 2);
    EXPECT_LE(s.note.place.string, 4);
  }
}

TEST_F(PhraseBenchTest, APhraseLiesUnderAShapeOfTheChordBeneathIt) {
  phrases().open(id(2));
  ASSERT_FALSE(phrases().chordsUnder().empty());
  auto* window = window_->openRefinger();
  auto* over = window->findChild<QComboBox*>("refinger-over");
  const auto inside = [&](const QString& shape) {
    const auto places = placesInShape(phrases().view().guitar, phrases().chordsUnder(), shape.toStdString());
    return std::count_if(notes().begin(), notes().end(), [&](const ShownNote& s) {
      return std::find(places.begin(), places.end(), s.note.place) != places.end();
    });
  };
  for (const QString shape : {"E shape", "A shape"}) {
    const auto before = inside(shape);
    over->setCurrentIndex(over->findText(shape));
    ASSERT_EQ(over->currentText(), shape);
    emit over->activated(over->currentIndex());
    EXPECT_EQ(over->currentText(), shape);
    window->findChild<QPushButton*>("refinger-here")->click();
    EXPECT_GE(inside(shape), std::max<std::ptrdiff_t>(before, 2)) << shape.toStdString();
    window = window_->openRefinger();
    over = window->findChild<QComboBox*>("refinger-over");
  }
}

TEST_F(PhraseBenchTest, APhraseSoundsThickerOnLowStringsAndLiesInTheStatedBox) {
  phrases().open(id(2));
  auto* window = window_->openRefinger();
  auto* tone = window->findChild<QComboBox*>("refinger-tone");
  const auto middle = [&](int row) {
    tone->setCurrentIndex(row);
    emit tone->activated(row);
    window->findChild<QPushButton*>("refinger-here")->click();
    window = window_->openRefinger();
    tone = window->findChild<QComboBox*>("refinger-tone");
    double sum = 0;
    for (const ShownNote& s : notes()) sum += s.note.place.string;
    return sum / static_cast<double>(notes().size());
  };
  const double thick = middle(1), thin = middle(2);
  EXPECT_LT(thick + 1, thin);
  // The box that is stated decides among the places of one note.
  phrases().chooseAll();
  const auto ways = phrases().waysOfChosen(1);
  const auto box = placesInBoxes(phrases().view().guitar, phrases().phrase()->scales);
  ASSERT_FALSE(box.empty());
  for (const FretPosition p : ways.front().places) EXPECT_NE(std::find(box.begin(), box.end(), p), box.end());
}

TEST_F(PhraseBenchTest, HowANoteIsPlayedIsCheckedByEarAsWell) {
  phrases().open(id(1));  // notes that ring
  phrases().chooseAll();
  phrases().changeChosen("Mute", [](Note& n) { n.palmMuted = true; });
  ear().check();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !ear().listening(); }, 30000));
  const auto rings = [&] {
    int count = 0;
    for (const Doubt& d : doubtsOf(bench())) count += d.sentence.contains("no palm mute by its sound");
    return count;
  };
  EXPECT_GT(rings(), static_cast<int>(notes().size()) / 2);
  phrases().changeChosen("Ring", [](Note& n) { n.palmMuted = false; });
  EXPECT_EQ(rings(), 0) << "what was said of a mute is no longer asked";
}

TEST_F(PhraseBenchTest, WhetherTheTwelfthFretIsTouchedOrStoppedIsLeftToTheEar) {
  phrases().open(id(2));
  const int twelfth = notes()[1].note.id;
  ASSERT_EQ(notes()[1].note.place.fret, 12);
  phrases().choose({twelfth});
  phrases().changeChosen("Harmonic", [](Note& n) { n.harmonic = PlayedHarmonic{}; });
  EXPECT_FALSE(noteTip(bench(), twelfth).contains("A stopped string sounds the same")) << "nobody has listened yet";
  ear().check();
  listen();
  EXPECT_TRUE(noteTip(bench(), twelfth).contains("A stopped string sounds the same"))
      << noteTip(bench(), twelfth).toStdString();
}

TEST_F(PhraseBenchTest, ThePageNamesAnIntervalAHarmonicAndATimeOfAnotherRecording) {
  phrases().open(id(2));
  phrases().choose({notes()[1].note.id, notes()[2].note.id});  // 12 and 15 on one string
  EXPECT_TRUE(child<QLabel>("phrase-note")->text().contains("minor third (3 frets)"));
  // The pitch of fret 12 is that of the octave harmonic over it: an open string touched there.
  phrases().choose({notes()[1].note.id});
  auto* ways = child<QListWidget>("phrase-ways");
  const auto harmonics = ways->findItems("Harmonic", Qt::MatchStartsWith);
  ASSERT_FALSE(harmonics.isEmpty());
  const int midi = phrases().view().guitar.pitch(notes()[1].note.place);
  emit ways->itemActivated(harmonics.front());
  ASSERT_TRUE(notes()[1].note.harmonic.has_value());
  EXPECT_EQ(pitchAtStart(phrases().view().guitar, notes()[1].note)->value, midi);
  phrases().describe("Elsewhere", [](Phrase& p) { p.span.end = Seconds(500); });
  EXPECT_TRUE(child<QLabel>("phrase-state")->text().contains("another recording"));
}

TEST_F(PhraseBenchTest, ANoteOutsideOfTheStatedScaleIsAskedAboutUntilItIsMeant) {
  phrases().open(id(3));
  auto* scale = child<QComboBox>("phrase-scale");
  const int kind = scale->findText("E♭ minor pentatonic");
  ASSERT_GE(kind, 0);
  scale->setCurrentIndex(kind);
  emit scale->activated(kind);
  std::vector<int> outside;
  for (const Slip& slip : phrases().view().slips)
    if (slip.kind == Slip::Kind::outsideScale) outside.push_back(slip.notes.front());
  ASSERT_FALSE(outside.empty()) << "the 13 on string 2 is a C flat";
  phrases().choose({outside.front()});
  child<QPushButton>("phrase-meant")->click();
  std::size_t left = 0;
  for (const Slip& slip : phrases().view().slips) left += slip.kind == Slip::Kind::outsideScale ? 1 : 0;
  EXPECT_EQ(left, outside.size() - 1);
}

TEST_F(PhraseBenchTest, AMidiFileThatIsDroppedOffersItsNotes) {
  // Two tracks of type 1, 96 ticks to the quarter: C4 alone, and E4 G4 with a bar of rest before.
  const unsigned char raw[] = {'M',  'T', 'h', 'd', 0,  0, 0,    6,  0,    1,  0,  2,   0,   96,   'M',  'T',  'r',
                               'k',  0,   0,   0,   11, 0, 0x90, 60, 90,   96, 60, 0,   0,   0xFF, 0x2F, 0,    'M',
                               'T',  'r', 'k', 0,   0,  0, 26,   0,  0xFF, 3,  4,  'L', 'e', 'a',  'd',  0x83, 0,
                               0x90, 64,  90,  96,  64, 0, 0,    67, 90,   96, 67, 0,   0,   0xFF, 0x2F, 0};
  const QString file = QString::fromStdString((freshFolder("midi-drop") / "lead.mid").string());
  QFile out(file);
  ASSERT_TRUE(out.open(QIODevice::WriteOnly));
  out.write(reinterpret_cast<const char*>(raw), sizeof raw);
  out.close();
  bench().selection().put({Seconds(92.658), Seconds(97.273)});  // nothing is written there
  QMimeData mime;
  mime.setUrls({QUrl::fromLocalFile(file)});
  QDragEnterEvent enter(QPoint(400, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(window_.get(), &enter);
  QDropEvent drop(QPointF(400, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(window_.get(), &drop);
  auto* window = window_->findChild<QDialog*>("midi-window");
  ASSERT_NE(window, nullptr);
  auto* voices = window->findChild<QListWidget*>("midi-voices");
  ASSERT_EQ(voices->count(), 2);
  EXPECT_EQ(voices->item(1)->text(), "Lead: 2 notes, E4 to G4");
  voices->setCurrentRow(1);
  window->findChild<QPushButton*>("midi-offer")->click();
  ASSERT_THAT(bench().phraseEar().suggestions(), SizeIs(2));
  EXPECT_THAT(notes(), IsEmpty()) << "offered, not written";
  run("take-all");
  ASSERT_THAT(notes(), SizeIs(2));
  EXPECT_EQ(notes()[1].note.at, Beats(1));
  EXPECT_EQ(phrases().view().guitar.pitch(notes()[1].note.place), 67);
  EXPECT_EQ(notes()[0].note.origin, Origin::measured);
  EXPECT_TRUE(phrases().view().score.heads[0].doubtful) << "until it is confirmed";
  EXPECT_TRUE(
      window_->openMidi("/no/such.mid")->findChild<QLabel*>("midi-sentence")->text().contains("cannot be read"));
}

TEST_F(PhraseBenchTest, EveryVoiceOfPickedChordsIsSuggested) {
  phrases().open(id(4));  // an arpeggio over four bars
  bench().document().editPart("", bench().document().part().id, [](GuitarPart& p) {
    p.setup = decided(GuitarSetup{{{39, 44, 49, 54, 58, 63}}, {}}, Origin::set);  // a semitone down, as it is
  });
  const std::vector<ShownNote> written = notes();
  const Guitar guitar = phrases().view().guitar;
  phrases().chooseAll();
  phrases().removeChosen();
  run("suggest-voices");
  ASSERT_TRUE(QTest::qWaitFor([&] { return !ear().listening(); }, 30000));
  const auto& found = ear().suggestions();
  int hit = 0, ringing = 0;
  for (const ShownNote& s : written)
    hit += std::any_of(found.begin(), found.end(), [&](const Suggestion& f) {
      return f.note.at == s.note.at && guitar.pitch(f.note.place) == guitar.pitch(s.note.place);
    });
  for (const Suggestion& f : found) ringing += f.note.letRing;
  EXPECT_GT(2 * hit, static_cast<int>(written.size())) << "more than half of it";
  EXPECT_GT(10 * hit, 6 * static_cast<int>(found.size())) << "and not much besides";
  EXPECT_GT(ringing, 4);
  run("take-all");
  EXPECT_EQ(notes().front().note.origin, Origin::measured);
}

TEST_F(PhraseBenchTest, WhatIsRecordedAlikeAndWrittenOtherwiseIsTold) {
  phrases().open(id(5));
  phrases().detach();
  EXPECT_TRUE(phrases().nearest().has_value()) << "written alike";
  // The same sounds on other strings: no longer alike on paper.
  phrases().chooseAll();
  phrases().moveChosenToString(-1);
  ASSERT_FALSE(phrases().nearest().has_value());
  auto* link = child<QLabel>("phrase-link");
  EXPECT_TRUE(link->isHidden());
  bench().phraseEar().check();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !bench().phraseEar().listening(); }, 30000));
  ASSERT_TRUE(bench().phraseEar().alike().has_value());
  EXPECT_EQ(bench().phraseEar().alike()->other, id(1));
  EXPECT_FALSE(link->isHidden());
  EXPECT_TRUE(link->text().contains("Recorded alike?")) << link->text().toStdString();
  child<QPushButton>("phrase-beside")->click();
  const int high = window_->phraseBench().tab().minimumHeight();
  child<QPushButton>("phrase-beside")->click();
  EXPECT_GT(high, window_->phraseBench().tab().minimumHeight()) << "both are seen";
  child<QPushButton>("phrase-detach")->click();
  EXPECT_EQ(phrases().phrase()->link->to, id(1));
  // A phrase that sounds elsewhere only is not taken for it.
  phrases().open(id(3));
  bench().phraseEar().check();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !bench().phraseEar().listening(); }, 30000));
  EXPECT_TRUE(bench().phraseEar().checked());
  EXPECT_FALSE(bench().phraseEar().alike().has_value());
}

TEST_F(PhraseBenchTest, TheScaleAndItsBoxAreSuggestedStatedAndSwitched) {
  phrases().open(id(2));
  phrases().describe("Nothing stated", [](Phrase& p) { p.scales.clear(); });
  auto* used = child<QLabel>("phrase-used");
  ASSERT_FALSE(used->isHidden());
  EXPECT_TRUE(used->text().startsWith("By its notes: E♭ minor pentatonic, box 1 (")) << used->text().toStdString();
  EXPECT_THAT(phrases().phrase()->scales, IsEmpty()) << "a suggestion states nothing";
  child<QPushButton>("phrase-take-used")->click();
  ASSERT_THAT(phrases().phrase()->scales, SizeIs(1));
  EXPECT_EQ(phrases().phrase()->scales[0].box, 1);
  EXPECT_TRUE(used->isHidden());
  EXPECT_THAT(phrases().view().scales, SizeIs(1)) << "it stands over the tab";
  // From the sixth note on it is another one.
  phrases().choose({notes()[5].note.id});
  auto* change = child<QComboBox>("phrase-switch");
  change->setCurrentIndex(change->findText("E♭ major pentatonic"));
  emit change->activated(change->currentIndex());
  ASSERT_THAT(phrases().phrase()->scales, SizeIs(2));
  EXPECT_EQ(phrases().phrase()->scales[1].from, notes()[5].note.at);
  auto* box = child<QComboBox>("phrase-box");
  emit box->activated(3);
  EXPECT_EQ(phrases().phrase()->scales[1].box, 3);
  // The neck shows what is stated where the caret stands, and nothing else of it.
  auto* scale = child<QComboBox>("neck-scale");
  if (!scale->isVisible()) run("neck");
  scale->setCurrentIndex(scale->findText("scale of the phrase"));
  emit scale->activated(scale->currentIndex());
  EXPECT_TRUE(child<QLabel>("neck-region")->text().startsWith("box 3"));
  phrases().choose({notes()[0].note.id});
  EXPECT_TRUE(child<QLabel>("neck-region")->text().startsWith("box 1"));
  bench().document().undo();
  bench().document().undo();
  EXPECT_THAT(phrases().phrase()->scales, SizeIs(1));
}

TEST_F(PhraseBenchTest, WithoutBeatsNotesAreWrittenAndItIsSaidThatNothingTimesThem) {
  bench().document().edit("No phrases", [](Study& s) { s.phrases.clear(); });
  bench().selection().put(kSolo);
  phrases().begin();
  EXPECT_TRUE(phrases().view().timed);
  run("phrase-away");
  EXPECT_EQ(phrases().phrase(), nullptr);
  EXPECT_THAT(phrases().ofTake(), IsEmpty());
}

}  // namespace
}  // namespace ear::test
