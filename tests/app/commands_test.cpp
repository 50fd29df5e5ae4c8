// SPDX-License-Identifier: GPL-3.0-or-later
#include <QMenu>
#include <QMenuBar>
#include <random>

#include "app/commands/commands.h"
#include "app/keys/key_map.h"
#include "core/study/study_file.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

class CommandsTest : public DeskTest {
 protected:
  QAction* command(const QString& id) { return window_->commands()[id]; }
};

TEST_F(CommandsTest, EveryCommandOfTheTableDoesSomething) {
  EXPECT_EQ(window_->commands().unbound().join(", ").toStdString(), "");
  std::set<QString> ids;
  for (const CommandRow& row : commandRows()) EXPECT_TRUE(ids.insert(row.id).second) << row.id;
  EXPECT_EQ(window_->keys().entries().size(), ids.size()) << "keys and pedals reach all of them";
}

TEST_F(CommandsTest, MenusAreShortAndHoldEveryCommand) {
  std::set<QAction*> reached;
  for (QMenu* menu : window_->findChildren<QMenu*>()) {
    int entries = 0;
    for (QAction* action : menu->actions()) {
      entries += action->isSeparator() ? 0 : 1;
      reached.insert(action);
    }
    EXPECT_LE(entries, 18) << menu->title().toStdString();
  }
  for (const CommandRow& row : commandRows())
    EXPECT_TRUE(reached.contains(command(row.id)) || QString(row.id) == "peek") << row.id;
}

TEST_F(CommandsTest, WhatNeedsASoundIsOffWithoutOne) {
  EXPECT_FALSE(command("play")->isEnabled());
  EXPECT_FALSE(command("sheet")->isEnabled());
  EXPECT_TRUE(command("open")->isEnabled());
  openDemo();
  EXPECT_TRUE(command("play")->isEnabled());
  EXPECT_TRUE(command("sheet")->isEnabled());
  EXPECT_FALSE(command("start-beat-earlier")->isEnabled()) << "there is no passage yet";
  press(Qt::Key_O);
  EXPECT_TRUE(command("start-beat-earlier")->isEnabled());
}

TEST_F(CommandsTest, KeysOfMenusWithinMenusWork) {
  openDemo();
  bench().transport().seek(Seconds(20));
  press(Qt::Key_O);
  const Seconds before = bench().selection().passage()->start;
  press(Qt::Key_A, Qt::AltModifier | Qt::ShiftModifier);
  EXPECT_NEAR(bench().selection().passage()->start.value, before.value - 0.001, 1e-9);
  press(Qt::Key_7, Qt::ControlModifier);
  EXPECT_EQ(window_->drawer().page(), Drawer::isolate);
}

TEST_F(CommandsTest, AKeyTakesTheNextGuitarInHand) {
  openDemo();
  const auto parts = bench().document().parts();
  ASSERT_GE(parts.size(), 2U);
  EXPECT_EQ(bench().document().part().id, parts[0].id);
  press(Qt::Key_G, Qt::ControlModifier);
  EXPECT_EQ(bench().document().part().id, parts[1].id);
  for (std::size_t i = 1; i < parts.size(); ++i) press(Qt::Key_G, Qt::ControlModifier);
  EXPECT_EQ(bench().document().part().id, parts[0].id) << "round and round";
}

TEST_F(CommandsTest, ATakeIsFoundAgainAsItWasLeft) {
  openDemo();
  const auto takes = bench().document().study().takes;
  press(Qt::Key_V);  // to concert pitch
  bench().transport().setSpeed(0.7);
  bench().selection().set(TimeSpan{Seconds(20), Seconds(25)});
  bench().transport().seek(Seconds(23));
  press(Qt::Key_G, Qt::ControlModifier);
  const Side side = bench().document().part().side;
  window_->closeUp().zoomToPassage();
  const TimeSpan view = window_->closeUp().window();
  bench().session().activateTake(takes[1].id);
  waitUntilHeard();
  EXPECT_NEAR(bench().transport().sounding().speed, 0.7, 1e-9);
  EXPECT_NEAR(bench().transport().soundingOffset().value, 0.0, 1e-9)
      << "it is at concert pitch, as the take before was";
  EXPECT_FALSE(bench().selection().passage().has_value());
  const auto guitars = bench().document().parts();
  ASSERT_TRUE(std::any_of(guitars.begin(), guitars.end(), [&](const GuitarPart& p) { return p.side == side; }));
  EXPECT_EQ(bench().document().part().side, side) << "the guitar on the same side is in hand";
  bench().session().activateTake(takes[0].id);
  waitUntilHeard();
  ASSERT_TRUE(bench().selection().passage().has_value());
  EXPECT_NEAR(bench().selection().passage()->start.value, 20.0, 1e-9);
  EXPECT_NEAR(bench().transport().position().value, 23.0, 0.05);
  EXPECT_EQ(window_->closeUp().window(), view);
}

/// Commands that open a window in which somebody has to choose, or that end the program.
const std::set<QString> kAsking = {"new",   "open",    "add-take",   "point-to",     "rename-take",
                                   "save",  "save-as", "sheet",      "quit",         "open-demo",
                                   "about", "cue",     "chord-here", "measure-again"};

TEST_F(CommandsTest, WhateverIsCommandedCanBeSavedAndReadBack) {
  openDemo();
  std::mt19937 random(20261128);
  std::vector<QAction*> all;
  for (const CommandRow& row : commandRows())
    if (!kAsking.contains(row.id)) all.push_back(command(row.id));
  std::string last;
#ifdef __SANITIZE_ADDRESS__
  constexpr int kSteps = 500;  // each takes three times as long
#else
  constexpr int kSteps = 1500;
#endif
  int run = 0;
  for (int step = 0; step < kSteps; ++step) {
    QAction* action = all[random() % all.size()];
    if (step % 25 == 0) bench().transport().seek(Seconds(static_cast<double>(random() % 90)));
    if (step % 40 == 0)
      bench().selection().set(TimeSpan{bench().transport().position(), bench().transport().position() + Seconds(3)});
    if (!action->isEnabled()) continue;
    action->trigger();
    ++run;
    last += action->objectName().toStdString() + " ";
    if (step % 50 != 0) continue;
    QApplication::processEvents();
    for (QDialog* window : window_->findChildren<QDialog*>()) window->close();
    const auto& document = bench().document();
    const auto written = writeStudyText(document.study(), document.measurements(), "/tmp");
    ASSERT_TRUE(written) << last << ": " << written.problem();
    const auto read = readStudyText(*written, "/tmp", "walk");
    ASSERT_TRUE(read) << last << ": " << read.problem();
    EXPECT_EQ(read->study, document.study()) << last;
    last.clear();
  }
  EXPECT_GT(run, 2 * kSteps / 3);
}

}  // namespace
}  // namespace ear::test
