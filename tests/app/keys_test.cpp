// SPDX-License-Identifier: GPL-3.0-or-later
#include <QInputDialog>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QTableWidget>
#include <QTextDocument>
#include <QToolTip>
#include <map>

#include "app/bigdeck/big_deck.h"
#include "app/keys/key_map.h"
#include "app/keys/key_window.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

class KeysTest : public DeskTest {
 protected:
  void SetUp() override {
    forget();
    DeskTest::SetUp();
    openDemo();
    window_->usePedal(std::make_unique<SimulatedPedal>());
  }
  void TearDown() override { forget(); }
  static void forget() {
    QSettings().remove("keys");
    QSettings().remove("pedal");
  }
  QAction* command(const char* name) {
    for (const auto& e : window_->keys().entries())
      if (e.action->objectName() == name) return e.action;
    ADD_FAILURE() << name;
    return nullptr;
  }
  SimulatedPedal& pedal() { return dynamic_cast<SimulatedPedal&>(*window_->keys().pedal()); }
  void choose(KeyWindow* keys, const QString& title) {
    auto* table = keys->findChild<QTableWidget*>("keys-table");
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->item(row, 0)->text() == title) return table->selectRow(row);
    FAIL() << title.toStdString();
  }
};

TEST_F(KeysTest, NoTwoCommandsShareAKey) {
  std::map<QString, QString> owners;
  for (const auto& e : window_->keys().entries()) {
    EXPECT_FALSE(e.action->objectName().isEmpty()) << e.action->text().toStdString();
    if (e.action->shortcut().isEmpty()) continue;
    const QString taken = window_->keys().takenBy(e.action->shortcut(), e.action);
    EXPECT_TRUE(taken.isEmpty()) << e.action->text().toStdString() << " and " << taken.toStdString();
  }
  EXPECT_GT(window_->keys().entries().size(), 80U);
}

TEST_F(KeysTest, AKeyIsTakenOverKeptAndPutBack) {
  KeyWindow* keys = window_->openKeys();
  choose(keys, "Play: Faster by 5 %");
  auto* field = keys->findChild<QKeySequenceEdit*>("keys-key");
  auto* give = keys->findChild<QPushButton*>("keys-set");
  field->setKeySequence(QKeySequence("Z"));
  EXPECT_EQ(keys->findChild<QLabel*>("keys-state")->text(),
            "This key belongs to “Slower by 5 %”, which would lose it.");
  EXPECT_EQ(give->text(), "Take the key over");
  give->click();
  EXPECT_EQ(command("faster")->shortcut(), QKeySequence("Z"));
  EXPECT_TRUE(command("slower")->shortcut().isEmpty());
  EXPECT_TRUE(command("faster")->toolTip().endsWith("(Z)"));
  bench().transport().setSpeed(0.5);
  press(Qt::Key_Z);
  EXPECT_NEAR(bench().transport().sounding().speed, 0.55, 1e-9);
  // A key that must stay where it is.
  field->setKeySequence(QKeySequence("Shift+N"));  // of a button
  EXPECT_FALSE(give->isEnabled());
  // Another window finds it as it was left.
  window_->close();
  window_.reset();
  DeskTest::SetUp();
  EXPECT_EQ(command("faster")->shortcut(), QKeySequence("Z"));
  window_->openKeys()->findChild<QPushButton*>("keys-reset")->click();
  EXPECT_EQ(command("faster")->shortcut(), QKeySequence("X"));
  EXPECT_EQ(command("slower")->shortcut(), QKeySequence("Z"));
}

TEST_F(KeysTest, TheKeyThatPeeksIsHeldWhereverItIsPut) {
  window_->keys().setKey(command("peek"), QKeySequence("Ctrl+Y"));
  bench().transport().seek(Seconds(30));
  QTest::keyPress(window_.get(), Qt::Key_0);
  EXPECT_FALSE(bench().ear().peeking());
  QTest::keyPress(window_.get(), Qt::Key_Y, Qt::ControlModifier);
  EXPECT_TRUE(bench().ear().peeking());
  QTest::keyRelease(window_.get(), Qt::Key_Y);  // the other key was let go of first
  EXPECT_FALSE(bench().ear().peeking());
}

TEST_F(KeysTest, TipsNameTheKeyThatACommandHasNow) {
  window_->drawer().open(8);
  auto* guess = child<QPushButton>("hear-ask");
  const auto shownTip = [&] {
    QToolTip::hideText();
    QHelpEvent help(QEvent::ToolTip, QPoint(5, 5), guess->mapToGlobal(QPoint(5, 5)));
    QApplication::sendEvent(guess, &help);
    return QToolTip::text();
  };
  EXPECT_TRUE(shownTip().endsWith("(9)")) << shownTip().toStdString();
  window_->keys().setKey(command("guess"), QKeySequence("Ctrl+9"));
  EXPECT_TRUE(shownTip().endsWith("(Ctrl+9)")) << shownTip().toStdString();
  window_->keys().setKey(command("guess"), {});
  EXPECT_TRUE(shownTip().endsWith("what sounds")) << shownTip().toStdString();
}

TEST_F(KeysTest, APedalIsLearntByPressingIt) {
  KeyWindow* keys = window_->openKeys();
  choose(keys, "Play: Play");
  keys->findChild<QPushButton*>("keys-learn")->click();
  EXPECT_EQ(keys->findChild<QLabel*>("keys-state")->text(), "Press the switch that shall do “Play”.");
  keys->findChild<QPushButton*>("keys-switch-1")->click();
  QCoreApplication::processEvents();
  EXPECT_EQ(window_->keys().pedalOf(command("play")), "controller 64, channel 1");
  EXPECT_FALSE(bench().transport().playing()) << "learning does nothing else";
  pedal().press(64);
  QCoreApplication::processEvents();
  EXPECT_TRUE(bench().transport().playing());
  pedal().press(65);  // nothing belongs to it
  QCoreApplication::processEvents();
  EXPECT_TRUE(bench().transport().playing());
  keys->findChild<QPushButton*>("keys-forget")->click();
  pedal().press(64);
  QCoreApplication::processEvents();
  EXPECT_TRUE(bench().transport().playing());
}

TEST_F(KeysTest, TheCardHasEveryKey) {
  QTextDocument card;
  card.setHtml(window_->keys().card());
  const QString words = card.toPlainText();
  EXPECT_TRUE(words.contains("Loop the bar here"));
  EXPECT_TRUE(words.contains("Peek at what sounds"));
  for (const auto& e : window_->keys().entries())
    EXPECT_TRUE(words.contains(e.action->shortcut().toString(QKeySequence::NativeText)))
        << e.action->text().toStdString();
}

// MIDI 1.0 detailed specification, table 1: status bytes.
TEST(Pedal, SwitchesGoDownInThreeWays) {
  EXPECT_EQ(switchOfMidi({0xB0, 64, 127}), "controller 64, channel 1");
  EXPECT_EQ(switchOfMidi({0xB0, 64, 0}), "");
  EXPECT_EQ(switchOfMidi({0x93, 60, 90}), "note 60, channel 4");
  EXPECT_EQ(switchOfMidi({0x93, 60, 0}), "");
  EXPECT_EQ(switchOfMidi({0x80, 60, 64}), "");
  EXPECT_EQ(switchOfMidi({0xC1, 5}), "program 5, channel 2");
  EXPECT_EQ(switchOfMidi({0xF8}), "");
  EXPECT_EQ(switchOfMidi({}), "");
}

TEST_F(KeysTest, TheBigDeckFillsTheWindowAndKeysStillWork) {
  auto* big = child<BigDeck>("big-deck");
  EXPECT_FALSE(big->isVisible());
  press(Qt::Key_F11);
  EXPECT_TRUE(big->isVisible());
  EXPECT_EQ(big->size(), window_->centralWidget()->size());
  const QImage before = big->grab().toImage();
  press(Qt::Key_X);
  EXPECT_NE(big->grab().toImage(), before) << "the speed stands there";
  press(Qt::Key_Space);
  EXPECT_TRUE(bench().transport().playing());
  press(Qt::Key_F11);
  EXPECT_FALSE(big->isVisible());
}

TEST_F(KeysTest, ANoteIsPinnedToWhereItWasBegun) {
  bench().transport().seek(Seconds(30));
  press(Qt::Key_Space);
  output_->advance(Seconds(0.5));
  press(Qt::Key_M, Qt::ShiftModifier);
  auto* line = child<QLineEdit>("note-line");
  ASSERT_TRUE(line->hasFocus() || line->isEnabled());
  const Seconds begun = bench().transport().position();
  QTest::keyClicks(line, "b");
  output_->advance(Seconds(2));
  QTest::keyClicks(line, "arre stays");
  QTest::keyClick(line, Qt::Key_Return);
  ASSERT_EQ(bench().document().study().notes->size(), 1U);
  const LessonNote note = bench().document().study().notes->front();
  EXPECT_EQ(note.text, "barre stays");
  EXPECT_EQ(note.time, begun);
  EXPECT_TRUE(bench().transport().playing()) << "typing does not stop the loop";
  auto* list = child<QListWidget>("note-list");
  ASSERT_EQ(list->count(), 1);
  EXPECT_TRUE(list->item(0)->text().endsWith("barre stays"));
  bench().transport().seek(Seconds(0));
  QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
  EXPECT_NEAR(bench().transport().position().value, begun.value, 1e-6);
  bench().document().undo();
  EXPECT_EQ(list->count(), 0);
}

TEST_F(KeysTest, ACommandIsFoundByItsNameAndRun) {
  press(Qt::Key_Space, Qt::ControlModifier);
  auto* field = child<QLineEdit>("finder-field");
  auto* list = child<QListWidget>("finder-list");
  EXPECT_GT(list->count(), 80);
  QTest::keyClicks(field, "slower");
  ASSERT_GE(list->count(), 1);
  EXPECT_TRUE(list->item(0)->text().endsWith("Slower by 5 %   (Z)")) << list->item(0)->text().toStdString();
  QTest::keyClick(field, Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor([&] { return bench().transport().sounding().speed < 0.99; }, 2000));
  EXPECT_NEAR(bench().transport().sounding().speed, 0.95, 1e-9);
  EXPECT_EQ(window_->findChild<QDialog*>("finder"), nullptr) << "it goes when it has done its work";

  command("find-command")->trigger();
  field = child<QLineEdit>("finder-field");
  QTest::keyClicks(field, "no such thing");
  EXPECT_EQ(child<QListWidget>("finder-list")->count(), 0);
  QTest::keyClick(field, Qt::Key_Return);
  QTest::keyClick(field, Qt::Key_Escape);
}

}  // namespace
}  // namespace ear::test
