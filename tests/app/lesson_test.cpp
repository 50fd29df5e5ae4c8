// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSpinBox>

#include "app/lesson/lesson_plan_box.h"
#include "app/lesson/lesson_stage.h"
#include "app/lesson/lesson_view.h"
#include "core/study/parts.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

using Kind = LessonStep::Kind;
using testing::HasSubstr;

class LessonTest : public DeskTest {
 protected:
  /// The demo's lesson, on the screen, in the usual order.
  void begin() {
    openDemo();
    press(Qt::Key_F9);
    ASSERT_TRUE(window_->lesson().isVisible());
    child<QPushButton>("lesson-make")->click();
    ASSERT_NE(lesson().step(), nullptr);
  }
  LessonKeeper& lesson() { return bench().lesson(); }
  std::string label(const char* name) { return child<QLabel>(name)->text().toStdString(); }
  /// On to the first step of a kind.
  void to(Kind kind) {
    for (const LessonStep& s : lesson().plan()->steps)
      if (s.kind == kind) return lesson().goTo(s.id);
    FAIL() << "no such step";
  }
};

TEST_F(LessonTest, BeginsWithoutAPlanAndMakesOneOfWhatIsWrittenDown) {
  openDemo();
  press(Qt::Key_F9);
  EXPECT_TRUE(window_->isFullScreen());
  EXPECT_TRUE(child<QPushButton>("lesson-make")->isVisible()) << "the tools are there while there is no plan";
  EXPECT_FALSE(window_->lesson().findChild<QPushButton*>("primary")->isEnabled()) << "there is no step";
  child<QPushButton>("lesson-make")->click();
  EXPECT_GT(child<QListWidget>("lesson-steps")->count(), 10);
  EXPECT_EQ(label("lesson-title"), "Play it through");
  EXPECT_THAT(label("lesson-pace"), HasSubstr("min planned"));
  EXPECT_EQ(label("lesson-next"), "Next: Tune up");
  bench().document().undo();
  EXPECT_EQ(lesson().step(), nullptr);
  QTest::keyClick(&window_->lesson().stage(), Qt::Key_Escape);
  EXPECT_FALSE(window_->lesson().isVisible());
  EXPECT_FALSE(window_->isFullScreen());
}

TEST_F(LessonTest, OneKeyLoopsSlowlyClimbsAndJoins) {
  begin();
  to(Kind::slow);
  const Phrase* phrase = bench().document().study().phrase(lesson().step()->about);
  ASSERT_NE(phrase, nullptr);
  press(Qt::Key_Return);
  EXPECT_TRUE(bench().transport().playing());
  EXPECT_EQ(bench().selection().passage(), phrase->span);
  EXPECT_NEAR(bench().transport().sounding().speed, 0.6, 1e-9);
  EXPECT_TRUE(bench().selection().looping());
  press(Qt::Key_Return);
  EXPECT_FALSE(bench().transport().playing());

  to(Kind::upToTempo);
  press(Qt::Key_Return);
  EXPECT_EQ(bench().practice().kind(), PracticeEntry::Kind::ladder);
  press(Qt::Key_PageDown);  // done: silence, and the next one is in hand
  EXPECT_FALSE(bench().practice().running());
  EXPECT_FALSE(bench().transport().playing());

  to(Kind::chain);
  press(Qt::Key_Return);
  ASSERT_EQ(bench().practice().kind(), PracticeEntry::Kind::chain);
  EXPECT_EQ(bench().practice().state().steps, 1) << "all so far as one link, not how one comes to it";
  EXPECT_EQ(bench().practice().state().name.toStdString(), "1+2");
  press(Qt::Key_Return);
  EXPECT_FALSE(bench().practice().running());
}

TEST_F(LessonTest, TabFollowsWhatPlays) {
  begin();
  to(Kind::slow);
  LessonStage& stage = window_->lesson().stage();
  EXPECT_EQ(stage.phraseShown(), lesson().step()->about);
  const TimeSpan span = *lesson().spanOf(*lesson().step());
  bench().transport().seek(span.start + span.length() * 0.1);
  const auto early = stage.playheadLine();
  ASSERT_TRUE(early.has_value());
  // What sounds stands in sight, wherever in the phrase it is.
  for (double share = 0.1; share < 0.95; share += 0.05) {
    bench().transport().seek(span.start + span.length() * share);
    const auto line = stage.playheadLine();
    ASSERT_TRUE(line.has_value()) << share;
    EXPECT_GE(line->top(), -1.0) << share;
    EXPECT_LE(line->top(), stage.height() * 0.75) << share;
    EXPECT_TRUE(line->top() > early->top() - stage.scrolled() || line->left() >= early->left()) << share;
  }
  bench().transport().seek(span.end + Seconds(5));
  EXPECT_FALSE(stage.playheadLine().has_value()) << "nothing of it sounds";
}

TEST_F(LessonTest, StepsAreReorderedMarkedAndTakenOutByKeys) {
  begin();
  auto* list = child<QListWidget>("lesson-steps");
  child<QPushButton>("lesson-change")->setChecked(true);
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Down);
  EXPECT_EQ(lesson().step()->kind, Kind::tuning);
  QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
  EXPECT_EQ(lesson().plan()->steps[0].kind, Kind::tuning) << "tuned before it is played through";
  EXPECT_EQ(list->currentRow(), 0);
  child<QCheckBox>("lesson-beginners")->setChecked(true);
  child<QSpinBox>("lesson-minutes")->setValue(7);
  auto* words = child<QLineEdit>("lesson-words");
  words->setFocus();
  QTest::keyClicks(words, "capo off first");
  QTest::keyClick(words, Qt::Key_Return);
  const LessonStep& step = lesson().plan()->steps[0];
  EXPECT_TRUE(step.beginners);
  EXPECT_EQ(step.planned, Seconds(420));
  EXPECT_EQ(step.words, "capo off first");
  EXPECT_FALSE(bench().transport().playing()) << "Return in the line is no key of the lesson";
  const auto before = lesson().plan()->steps.size();
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Delete);
  EXPECT_EQ(lesson().plan()->steps.size(), before - 1);
  bench().document().undo();
  EXPECT_EQ(lesson().plan()->steps.size(), before);
  // As a drag leaves the rows.
  std::vector<int> ids;
  for (const LessonStep& s : lesson().plan()->steps) ids.push_back(s.id);
  std::rotate(ids.begin(), ids.begin() + 2, ids.end());
  lesson().reorder(ids);
  EXPECT_EQ(lesson().plan()->steps.back().id, ids.back());
  EXPECT_EQ(list->item(list->count() - 1)->toolTip().toStdString(),
            stepTitle(lesson().plan()->steps.back(), lesson().items()));
}

TEST_F(LessonTest, AStepOfYourOwnAndPhrasesThatCameLater) {
  begin();
  lesson().add(Kind::own);
  lesson().changeStep("", [](LessonStep& s) { s.words = "Warm up"; });
  EXPECT_EQ(label("lesson-title"), "Warm up");
  EXPECT_FALSE(child<QPushButton>("lesson-add-missing")->isVisible());
  bench().selection().put({Seconds(60), Seconds(64)});
  bench().phrases().begin();
  ASSERT_TRUE(child<QPushButton>("lesson-add-missing")->isVisible());
  child<QPushButton>("lesson-add-missing")->click();
  EXPECT_FALSE(child<QPushButton>("lesson-add-missing")->isVisible());
  EXPECT_EQ(lesson().plan()->steps.back().kind, Kind::left) << "before what closes the lesson";
}

TEST_F(LessonTest, TonesOfTheStringsComeOneByOneWhereTheTuningIsSettled) {
  begin();
  to(Kind::tuning);
  QSignalSpy said(&bench().session(), &Session::said);
  press(Qt::Key_Return);
  ASSERT_TRUE(lesson().tunedString().has_value());
  EXPECT_EQ(*lesson().tunedString(), 0);
  press(Qt::Key_Return);
  EXPECT_EQ(*lesson().tunedString(), 1);
  EXPECT_THAT(label("lesson-sound"), HasSubstr("String: "));
  EXPECT_EQ(said.count(), 0);
}

TEST_F(LessonTest, ATuningThatIsOpenSoundsNoString) {
  begin();
  auto loose = std::make_shared<Findings>(*bench().document().findings(bench().take()->id));
  for (FoundGuitar& guitar : loose->guitars)
    for (auto& reading : guitar.readings) reading.certainty = 0.1;
  bench().document().edit("", [&](Study& s) { s.parts.changeEach([](GuitarPart& p) { p.setup.reset(); }); });
  bench().document().setMeasured(bench().take()->id, loose);
  ASSERT_FALSE(isSettled(bench().brief().guitar));
  to(Kind::tuning);
  QSignalSpy said(&bench().session(), &Session::said);
  press(Qt::Key_Return);
  EXPECT_FALSE(lesson().tunedString().has_value());
  ASSERT_EQ(said.count(), 1);
  EXPECT_THAT(said.front().front().toString().toStdString(), HasSubstr("settle it on the desk"));
  EXPECT_THAT(label("lesson-sound"), HasSubstr("settle it on the desk"))
      << "the desk's own line lies behind the lesson";
}

TEST_F(LessonTest, ClockRunsAndWhatIsLeftIsWrittenDown) {
  begin();
  Seconds now{100};
  lesson().clock = [&now] { return now; };
  EXPECT_FALSE(lesson().begun());
  press(Qt::Key_PageDown);
  ASSERT_TRUE(lesson().begun());
  now = Seconds(100 + 20 * 60);
  press(Qt::Key_PageDown);
  EXPECT_EQ(label("lesson-clock"), "20:00 of 45:00");
  EXPECT_THAT(label("lesson-pace"), HasSubstr("behind the plan"));
  to(Kind::left);
  EXPECT_FALSE(lesson().left().empty());
  press(Qt::Key_F9);
  EXPECT_FALSE(window_->lesson().isVisible());
  const auto& given = *bench().document().study().lessons;
  ASSERT_EQ(given.size(), 1U);
  EXPECT_EQ(given[0].lasted, Seconds(20 * 60));
  EXPECT_THAT(given[0].left, testing::Contains(HasSubstr("Phrase 1")));
  // The next one begins with what was left.
  press(Qt::Key_F9);
  const auto soft = child<LessonPlanBox>("panel")->findChildren<QLabel*>("soft");
  EXPECT_TRUE(std::any_of(soft.begin(), soft.end(), [](const QLabel* l) {
    return l->isVisible() && l->text().contains("Left on") && l->text().contains("Phrase 1");
  }));
  // A look at it in which nothing is done is no lesson.
  press(Qt::Key_F9);
  EXPECT_EQ(bench().document().study().lessons->size(), 1U);
}

TEST_F(LessonTest, LeavesTheDeskAsItWas) {
  openDemo();
  lesson().make(LessonOrder::joined);
  bench().selection().put({Seconds(50), Seconds(53)});
  bench().transport().setSpeed(0.8);
  press(Qt::Key_F9);
  to(Kind::slow);
  press(Qt::Key_Return);
  EXPECT_NE(bench().selection().passage(), (TimeSpan{Seconds(50), Seconds(53)}));
  press(Qt::Key_F9);
  EXPECT_FALSE(bench().transport().playing());
  EXPECT_EQ(bench().selection().passage(), (TimeSpan{Seconds(50), Seconds(53)}));
  EXPECT_NEAR(bench().transport().sounding().speed, 0.8, 1e-9);
}

TEST_F(LessonTest, ANewPlanKeepsTheClock) {
  begin();
  Seconds now{100};
  lesson().clock = [&now] { return now; };
  press(Qt::Key_PageDown);
  now = Seconds(160);
  child<QComboBox>("lesson-order")->setCurrentIndex(1);
  child<QPushButton>("lesson-make")->click();
  EXPECT_TRUE(lesson().begun());
  EXPECT_EQ(lesson().elapsed(), Seconds(60));
  EXPECT_FALSE(lesson().isDone(lesson().plan()->steps.front().id)) << "steps of another plan";
}

TEST_F(LessonTest, ItsKeysAreTheDesksOwnWhileNoneIsGiven) {
  openDemo();
  lesson().make(LessonOrder::joined);
  const int first = lesson().step()->id;
  press(Qt::Key_PageDown);
  press(Qt::Key_Return);
  EXPECT_EQ(lesson().step()->id, first);
  EXPECT_FALSE(lesson().begun());
}

}  // namespace
}  // namespace ear::test
