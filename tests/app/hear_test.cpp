// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QTableWidget>
#include <cmath>

#include "app/hear/compare_window.h"
#include "app/hear/freeze_window.h"
#include "app/hear/hear_page.h"
#include "app/neck/neck_map.h"
#include "app/neck/neck_view.h"
#include "app/theme/words.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

class HearTest : public DeskTest {
 protected:
  void SetUp() override {
    DeskTest::SetUp();
    openDemo();
    bench().transport().seek(Seconds(20));
    window_->drawer().open(Drawer::hear);
  }
  QString words(const char* name) { return child<QLabel>(name)->text(); }
  std::vector<int> sounding() {
    std::vector<int> midi;
    for (const auto& h : noteHintsAt(*bench().transport().player().recording(), bench().transport().position(),
                                     bench().brief().pitch->value.offset))
      midi.push_back(h.midi);
    return midi;
  }
};

TEST_F(HearTest, HintsShowOnlyWhileTheKeyIsHeld) {
  EXPECT_EQ(words("hear-sentence"), "Ear first");
  QTest::keyPress(window_.get(), Qt::Key_0);
  EXPECT_TRUE(bench().ear().peeking());
  EXPECT_FALSE(bench().ear().hints().empty());
  EXPECT_TRUE(words("hear-sentence").contains(QStringLiteral("♭")));
  QTest::keyRelease(window_.get(), Qt::Key_0);
  EXPECT_TRUE(bench().ear().hints().empty());
  EXPECT_EQ(words("hear-sentence"), "Ear first");
}

TEST_F(HearTest, FirstGuessesAreTallied) {
  const auto now = sounding();
  ASSERT_FALSE(now.empty());
  press(Qt::Key_9);
  EXPECT_EQ(words("hear-sentence"), "Which note sounds here?");
  EXPECT_TRUE(bench().ear().hints().empty()) << "nothing is given away";
  auto* typed = child<QLineEdit>("hear-typed");
  // A note that does not sound, then the right one: the first guess counts.
  int wrong = 40;
  while (std::any_of(now.begin(), now.end(), [&](int m) { return (m - wrong) % 12 == 0; })) ++wrong;
  typed->setText(text(noteName(wrong, Spelling::sharps)));
  QTest::keyClick(typed, Qt::Key_Return);
  EXPECT_EQ(bench().document().study().ear, (EarTally{1, 0}));
  EXPECT_TRUE(words("hear-verdict").startsWith("Not among"));
  typed->setText(text(noteName(now.front(), Spelling::sharps)));
  QTest::keyClick(typed, Qt::Key_Return);
  EXPECT_EQ(bench().document().study().ear, (EarTally{1, 0}));
  EXPECT_TRUE(words("hear-verdict").startsWith("Right."));
  EXPECT_EQ(bench().ear().hints().size(), now.size());
  press(Qt::Key_9);
  bench().ear().guess(now.front());
  EXPECT_EQ(bench().document().study().ear, (EarTally{2, 1}));
  EXPECT_EQ(words("hear-tally"), "First guesses right in this study: 1 of 2 (50 %).");
  bench().document().undo();
  EXPECT_EQ(bench().document().study().ear, (EarTally{2, 1})) << "the tally is no edit";
}

TEST_F(HearTest, TheRightNoteInAnotherOctaveIsSaidSo) {
  const auto now = sounding();
  const int octave = now.front() + 36;
  ASSERT_EQ(std::count(now.begin(), now.end(), octave), 0);
  press(Qt::Key_9);
  bench().ear().guess(octave);
  EXPECT_EQ(words("hear-verdict"), "The right note in another octave.");
  child<QLineEdit>("hear-typed")->setText("what");
  QTest::keyClick(child<QLineEdit>("hear-typed"), Qt::Key_Return);
  EXPECT_TRUE(words("hear-verdict").contains("is no note"));
}

TEST_F(HearTest, AClickOnTheNeckIsAGuess) {
  const auto now = sounding();
  press(Qt::Key_9);
  auto* neck = &window_->findChild<NeckView*>()->neck();
  const Guitar guitar = bench().document().guitar();
  const auto places = placesOf(guitar, now.front());
  ASSERT_FALSE(places.empty());
  QTest::mouseClick(neck, Qt::LeftButton, {}, neck->pointOf(places.front()));
  EXPECT_TRUE(words("hear-verdict").startsWith("Right.")) << words("hear-verdict").toStdString();
}

TEST_F(HearTest, APlayedGuessIsHeardFromTheInput) {
  const auto now = sounding();
  press(Qt::Key_9);
  QTest::mouseClick(child<QPushButton>("hear-sing"), Qt::LeftButton);
  ASSERT_NE(guitar_, nullptr);
  // The guitar in hand, tuned to the recording: the string and fret of the strongest note, by detuning an open string.
  Guitar guitar = bench().document().guitar();
  const int string = 3;
  guitar_->pluck(guitar, string, Cents(100.0 * (now.front() - guitar.open(string))));
  for (int i = 0; i < 40 && bench().ear().listeningToInput(); ++i) {
    guitar_->advance(Seconds(0.1));
    QTest::qWait(70);
  }
  EXPECT_FALSE(bench().ear().listeningToInput());
  EXPECT_TRUE(words("hear-verdict").startsWith("Right.")) << words("hear-verdict").toStdString();
}

TEST_F(HearTest, AHeldMomentSoundsOnAndItsNotesCanBeHeard) {
  const auto now = sounding();
  press(Qt::Key_8);
  auto* freeze = window_->findChild<FreezeWindow*>();
  ASSERT_NE(freeze, nullptr);
  EXPECT_EQ(freeze->findChild<QLabel*>("freeze-sentence")->text(), "Held at 0:20.0");
  auto* list = freeze->findChild<QListWidget*>("freeze-notes");
  ASSERT_EQ(list->count(), static_cast<int>(now.size()));
  const auto level = [&] {
    output_->advance(Seconds(0.4));
    output_->forget();
    output_->advance(Seconds(0.4));
    const Recording kept = output_->kept();
    double sum = 0;
    for (const float s : kept.left()) sum += std::abs(static_cast<double>(s));
    return sum / static_cast<double>(kept.frames());
  };
  EXPECT_GT(level(), 1e-3);
  EXPECT_FALSE(bench().transport().playing());
  freeze->findChild<QPushButton*>("freeze-hold")->click();
  EXPECT_LT(level(), 1e-6);
  list->itemClicked(list->item(0));
  EXPECT_GT(level(), 1e-4) << "the note as a plucked string";
  freeze->close();
}

TEST_F(HearTest, TwoTimesOfAPhraseStandOneAboveTheOther) {
  // The second bars of the first B section, and those of the others.
  const Form form = bench().brief().form->value;
  const auto b = std::find_if(form.begin(), form.end(), [](const Section& s) { return s.letter == "B"; });
  ASSERT_NE(b, form.end());
  bench().selection().set(TimeSpan{b->span.start, b->span.start + Seconds(4.6)});
  press(Qt::Key_7);
  auto* compare = window_->findChild<CompareWindow*>();
  ASSERT_NE(compare, nullptr);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !compare->working(); }, 20000));
  EXPECT_GE(compare->findChild<QComboBox*>("compare-other")->count(), 2);
  const QString sentence = compare->findChild<QLabel*>("compare-sentence")->text();
  EXPECT_TRUE(sentence.startsWith("Differs in") || sentence.startsWith("The same notes")) << sentence.toStdString();
  auto* chart = compare->findChild<RepeatChart*>();
  QTest::mouseClick(chart, Qt::LeftButton, {}, QPoint(5, chart->height() - 20));
  EXPECT_TRUE(bench().transport().playing());
  EXPECT_GT(bench().transport().position(), b->span.end) << "the lower one is the other verse";
  compare->findChild<QPushButton*>("compare-second")->click();
  EXPECT_GT(bench().selection().passage()->start, b->span.end);
  compare->close();
}

TEST_F(HearTest, AnyTwoPassagesAreComparedWithWhatIsWrittenAlsoOfAnotherTake) {
  // The hook as the other take might have it, with one note of its own.
  const std::string live = bench().document().study().takes[1].id;
  bench().document().edit("", [&](Study& s) {
    Phrase p = *s.phrase("phrase1");
    p.id = "phrase9", p.take = live, p.name = "The hook, live", p.part.clear();
    p.levels.change().front().notes[2].place.fret += 1;
    s.phrases.push_back(p);
  });
  bench().phrases().open("phrase1");
  press(Qt::Key_7);
  auto* compare = window_->findChild<CompareWindow*>();
  const auto words = [&] { return compare->findChild<QLabel*>("soft")->text(); };
  auto* list = compare->findChild<QComboBox*>("compare-other");
  const auto choose = [&](const QString& name) {
    ASSERT_GE(list->findText(name, Qt::MatchContains), 0) << name.toStdString();
    list->setCurrentIndex(list->findText(name, Qt::MatchContains));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !compare->working(); }, 30000));
  };
  choose("Hook at the end");
  EXPECT_TRUE(words().contains("Written alike, note for note")) << words().toStdString();
  choose("Solo, the call");
  EXPECT_TRUE(words().contains("Written otherwise in")) << words().toStdString();
  choose("The hook, live");
  EXPECT_TRUE(list->currentText().startsWith(text(bench().document().study().takes[1].name)));
  EXPECT_TRUE(words().contains("Written otherwise in 1 note,")) << words().toStdString();
  compare->findChild<QPushButton*>("compare-second")->click();
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().transport().playing(); }, 30000)) << "once its sound is there";
  EXPECT_EQ(bench().take()->id, live);
  compare->findChild<QPushButton*>("compare-first")->click();
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().take()->id != live && bench().transport().playing(); }, 30000));
  compare->close();
}

TEST_F(HearTest, TheVoiceOfThePassageIsListedWithItsBend) {
  EXPECT_FALSE(child<QPushButton>("hear-follow")->isEnabled()) << "no passage yet";
  const auto& passages = bench().document().study().passages;
  bench().selection().open(passages.back().id);  // "Solo, first bend"
  press(Qt::Key_3);                              // the side it is played on
  press(Qt::Key_J, Qt::ShiftModifier);
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().ear().voice() != nullptr; }, 20000));
  auto* table = child<QTableWidget>("hear-notes");
  ASSERT_GT(table->rowCount(), 4);
  // The bend that the passage is named after, from the note that is fretted (demo/studio.truth.json).
  EXPECT_EQ(table->item(0, 0)->text(), "1:23.4");
  EXPECT_EQ(table->item(0, 1)->text(), "A♭4");
  EXPECT_TRUE(table->item(0, 2)->text().startsWith("Bend to B♭4 (whole step, 199 cents)"))
      << table->item(0, 2)->text().toStdString();
  EXPECT_TRUE(table->item(1, 2)->text().contains("or picked on another fret")) << "which is what was played";
  // The voice is there a moment before the listening is said to have ended.
  EXPECT_TRUE(QTest::qWaitFor([&] { return child<QLabel>("hear-voice")->text().contains("Heard: right"); }, 20000));
  QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualItemRect(table->item(2, 1)).center());
  EXPECT_NEAR(bench().transport().position().value,
              (bench().ear().voice()->span.start + bench().ear().voice()->voice->notes[2].note.span.start).value, 0.01);
  // It stays with its passage: another one has none of its own yet.
  const int notes = table->rowCount();
  bench().selection().open(passages.front().id);
  EXPECT_EQ(table->rowCount(), 0);
  bench().selection().open(passages.back().id);
  EXPECT_EQ(table->rowCount(), notes);
  QTest::mouseClick(child<QPushButton>("hear-drop"), Qt::LeftButton);
  EXPECT_EQ(table->rowCount(), 0);
}

TEST_F(HearTest, NotesFarBelowTheVoiceAreLeftOutUntilAskedFor) {
  bench().selection().open(bench().document().study().passages.back().id);
  press(Qt::Key_J, Qt::ShiftModifier);  // with the whole sound, bass and all
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().ear().voice() != nullptr; }, 20000));
  auto* table = child<QTableWidget>("hear-notes");
  auto* asides = child<QCheckBox>("hear-asides");
  const auto all = static_cast<int>(bench().ear().voice()->voice->notes.size());
  ASSERT_FALSE(asides->isHidden()) << "the bass is followed where the solo rests";
  EXPECT_LT(table->rowCount(), all);
  EXPECT_TRUE(table->item(0, 2)->text().startsWith("Bend to B♭4"))
      << "the bend that the passage is named after: " << table->item(0, 2)->text().toStdString();
  for (int row = 0; row < table->rowCount(); ++row)
    EXPECT_FALSE(table->item(row, 2)->text().startsWith("Far below")) << row;
  asides->click();
  EXPECT_EQ(table->rowCount(), all);
}

}  // namespace
}  // namespace ear::test
