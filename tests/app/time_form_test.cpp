// SPDX-License-Identifier: GPL-3.0-or-later
#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QSpinBox>
#include <QTableWidget>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

#include "app/drawer/time_charts.h"
#include "app/form/jump_window.h"
#include "app/form/strokes_window.h"
#include "core/study/running_order.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

class TimeFormTest : public DeskTest {
 protected:
  const Grid& grid() { return bench().time().grid(); }
  const Form form() { return bench().brief().form->value; }
  /// Types into the next input dialog and accepts it.
  void type(const QString& words) {
    QTimer::singleShot(0, window_.get(), [this, words] { typeNow(words, 100); });
  }
  /// Chooses from the open context menu.
  void choose(const char* menu, const QString& title) {
    for (auto* found : window_->findChildren<QMenu*>(menu)) {
      if (!found->isVisible()) continue;  // one that was closed goes with the next turn of events
      for (QAction* action : found->actions())
        if (action->text().startsWith(title)) {
          found->close();
          action->trigger();
          return;
        }
    }
    FAIL() << title.toStdString();
  }

 private:
  void typeNow(const QString& words, int tries) {
    for (auto* box : window_->findChildren<QInputDialog*>())
      if (box->isVisible()) {
        box->setTextValue(words);
        box->accept();
        return;
      }
    if (tries > 0) QTimer::singleShot(20, window_.get(), [=, this] { typeNow(words, tries - 1); });
  }
};

TEST_F(TimeFormTest, TappingAlongSetsTheBeats) {
  openDemo();
  window_->drawer().open(Drawer::time);
  const double measured = tempoOf(grid())->value;
  press(Qt::Key_T);  // nothing plays: it says what to do and changes nothing
  EXPECT_FALSE(bench().take()->grid);
  bench().transport().seek(Seconds(30));
  press(Qt::Key_Space);
  output_->advance(Seconds(0.2));
  // Fingers at 120 a minute, uneven by 15 ms: nothing to do with the music.
  for (int i = 0; i < 12; ++i) {
    press(Qt::Key_T, i == 0 ? Qt::ShiftModifier : Qt::NoModifier);
    output_->advance(Seconds(0.5 + (i % 2 == 0 ? 0.015 : -0.015)));
  }
  EXPECT_EQ(bench().time().taps(), 12);
  bench().time().endTaps();
  ASSERT_TRUE(bench().take()->grid);
  std::vector<Seconds> held, bars;
  for (const Beat& b : grid())
    if (b.fixed) {
      held.push_back(b.time);
      if (b.bar) bars.push_back(b.time);
    }
  ASSERT_EQ(held.size(), 12U);
  EXPECT_NEAR((held.back() - held.front()).value / 11, 0.5, 0.01);
  EXPECT_EQ(bars.front(), held.front());
  EXPECT_EQ(bars.size(), 3U);
  bench().document().undo();
  EXPECT_NEAR(tempoOf(grid())->value, measured, 1e-6);
}

TEST_F(TimeFormTest, HeldBeatsLeadTheMachine) {
  openDemo();
  const Grid measured = grid();
  press(Qt::Key_Space);
  press(Qt::Key_Space);
  bench().time().halve();
  bench().selection().set(TimeSpan{Seconds(30), Seconds(45)});
  window_->drawer().open(Drawer::time);
  child<QPushButton>("time-hold")->click();
  child<QPushButton>("time-follow")->click();
  ASSERT_TRUE(QTest::qWaitFor([&] { return !bench().time().following(); }, 20000));
  QTest::qWait(20);
  // Everything is now counted at half the tempo, through the held beats, on beats that were measured.
  EXPECT_NEAR(tempoOf(grid())->value, tempoOf(measured)->value / 2, 0.6);
  EXPECT_GT(std::count_if(grid().begin(), grid().end(), [](const Beat& b) { return b.fixed; }), 10);
  std::size_t on = 0;
  for (const Beat& b : grid())
    for (const Beat& m : measured)
      if (std::abs((b.time - m.time).value) < 0.07) {
        ++on;
        break;
      }
  EXPECT_GT(static_cast<double>(on) / static_cast<double>(grid().size()), 0.9);
}

TEST_F(TimeFormTest, HalveDoubleShiftAndBarHereByButtonAndKey) {
  openDemo();
  window_->drawer().open(Drawer::time);
  const Grid before = grid();
  child<QPushButton>("time-halve")->click();
  EXPECT_EQ(bench().brief().time->origin, Origin::set);
  EXPECT_NEAR(bench().brief().time->value.tempo.value, tempoOf(before)->value / 2, 0.5);
  bench().document().undo();
  child<QPushButton>("time-double")->click();
  EXPECT_NEAR(bench().brief().time->value.tempo.value, tempoOf(before)->value * 2, 1);
  bench().document().undo();
  const Seconds first = barLines(grid()).front();
  press(Qt::Key_Period);
  EXPECT_GT(barLines(grid())[1], first);
  press(Qt::Key_Comma);
  EXPECT_EQ(barLines(grid()).front(), first);
  bench().transport().seek(grid()[9].time + Seconds(0.05));
  press(Qt::Key_B);
  EXPECT_TRUE(grid()[9].bar);
  child<QPushButton>("time-revert")->click();
  EXPECT_EQ(grid(), before);
}

TEST_F(TimeFormTest, WhatIsTakenOrSetIsOneStepAndWhatIsConfirmedStays) {
  openDemo();
  window_->drawer().open(Drawer::time);
  const Grid before = grid();
  auto* readings = child<QListWidget>("time-readings");
  ASSERT_EQ(readings->count(), 3);
  readings->setCurrentRow(1);
  QTest::keyClick(readings, Qt::Key_Return);  // half as fast: the beats go along
  EXPECT_NEAR(tempoOf(grid())->value, tempoOf(before)->value / 2, 0.5);
  EXPECT_NEAR(bench().brief().time->value.tempo.value, tempoOf(before)->value / 2, 0.5);
  bench().document().undo();
  EXPECT_EQ(grid(), before);
  child<QSpinBox>("time-meter")->setValue(3);
  EXPECT_EQ(meterOf(grid()), 3);
  EXPECT_EQ(bench().brief().time->value.meter, 3);
  bench().document().undo();
  EXPECT_EQ(grid(), before);
  EXPECT_EQ(bench().brief().time->value.meter, 4);
  // Confirmed beats are the person's: another measurement does not move them.
  child<QPushButton>("time-confirm")->click();
  auto other = std::make_shared<Findings>(*bench().session().findings());
  for (Seconds& beat : other->rhythm->beats) beat += Seconds(0.2);
  bench().document().setMeasured(bench().take()->id, other);
  EXPECT_EQ(grid(), before);
  EXPECT_EQ(bench().brief().time->origin, Origin::confirmed);
}

TEST_F(TimeFormTest, ABarLineIsDraggedInTheCloseUp) {
  openDemo();
  window_->closeUp().setWindow({Seconds(8), Seconds(20)});
  std::size_t line = 0;
  for (std::size_t i = 0; i < grid().size(); ++i)
    if (grid()[i].bar && grid()[i].time > Seconds(13)) {
      line = i;
      break;
    }
  const Grid before = grid();
  auto& view = window_->closeUp();
  const int y = static_cast<int>(view.areaOf(view.bars()).center().y());
  const auto x = [&](Seconds t) { return static_cast<int>(std::lround(view.xOf(t))); };
  drag(&view, {x(before[line].time), y}, {x(before[line].time + Seconds(0.2)), y});
  EXPECT_NEAR(grid()[line].time.value, before[line].time.value + 0.2, 0.03);
  EXPECT_NEAR(grid()[line - 2].time.value, before[line - 2].time.value + 0.1, 0.03) << "the neighbours follow";
  EXPECT_TRUE(grid()[line].fixed);
  bench().document().undo();
  EXPECT_EQ(grid(), before) << "one step of undo for the whole drag";
}

TEST_F(TimeFormTest, ASectionsBorderIsDraggedOnTheMapAndSnapsToABar) {
  openDemo();
  auto* map = child<MapView>("map");
  const Form before = form();
  const auto x = [&](Seconds t) { return static_cast<int>(std::lround(map->xOf(t))); };
  const auto lines = barLines(grid());
  const auto bar = std::find(lines.begin(), lines.end(), before[2].span.start);
  ASSERT_NE(bar, lines.end());
  const Seconds aim = *(bar + 2);
  drag(map, {x(before[2].span.start), 20}, {x(aim + Seconds(0.3)), 20});
  EXPECT_EQ(form()[2].span.start, aim);
  EXPECT_EQ(form()[1].span.end, aim);
  EXPECT_EQ(form()[2].origin, Origin::set);
  EXPECT_EQ(form()[4].origin, Origin::measured);
  bench().document().undo();
  EXPECT_EQ(form(), before);
}

TEST_F(TimeFormTest, TheMapsMenuNamesCutsAndMarksTheSame) {
  openDemo();
  auto* map = child<MapView>("map");
  const Form before = form();
  const auto menuAt = [&](Seconds t) {
    const QPoint at(static_cast<int>(map->xOf(t)), 20);
    QContextMenuEvent event(QContextMenuEvent::Mouse, at, map->mapToGlobal(at));
    QApplication::sendEvent(map, &event);
  };
  menuAt(before[1].span.start + Seconds(5));
  type("verse one");
  choose("section-menu", "Name …");
  EXPECT_EQ(form()[1].name, "verse one");
  menuAt(before[1].span.start + before[1].span.length() * 0.5);
  choose("section-menu", "Cut at");
  ASSERT_EQ(form().size(), before.size() + 1);
  const auto lines = barLines(grid());
  EXPECT_TRUE(std::find(lines.begin(), lines.end(), form()[2].span.start) != lines.end());
  bench().document().undo();
  bench().document().undo();
  EXPECT_EQ(form(), before);
}

TEST_F(TimeFormTest, TheRunningOrderEditsTheMapAndIsEditedByIt) {
  openDemo();
  window_->drawer().open(Drawer::form);
  auto* order = child<QLineEdit>("form-order");
  EXPECT_EQ(order->text().toStdString(), runningOrder(form()));
  const auto sections = form().size();
  order->setText(order->text() + ", ending");
  QTest::keyClick(order, Qt::Key_Return);
  ASSERT_EQ(form().size(), sections + 1);
  EXPECT_EQ(form().back().name, "ending");
  bench().form().edit("Rename section", [](Form& f) { f[0].name = "hook"; });
  EXPECT_TRUE(order->text().startsWith("hook, "));
  order->setText(", ,");
  QTest::keyClick(order, Qt::Key_Return);
  EXPECT_EQ(form().size(), sections + 1) << "nonsense changes nothing";
  EXPECT_TRUE(order->text().startsWith("hook, "));
}

TEST_F(TimeFormTest, MarksAndTimesGoOutAndComeBack) {
  openDemo();
  bench().transport().seek(Seconds(21.5));
  type("capo change");
  press(Qt::Key_M);
  ASSERT_EQ(bench().take()->cues.size(), 1U);
  EXPECT_EQ(bench().take()->cues[0].text, "capo change");
  auto* jumps = window_->openJumps();
  jumps->copy();
  EXPECT_THAT(QApplication::clipboard()->text().toStdString(), testing::HasSubstr("0:21.5  capo change\n"));
  const auto folder = freshFolder("times");
  const Form before = form();
  for (const char* name : {"times.txt", "times.csv"}) {
    const auto file = QString::fromStdString((folder / name).string());
    ASSERT_TRUE(jumps->writeTo(file));
    bench().document().edit("Clear", [&](Study& s) {
      s.takes.change(0).cues.clear();
      s.takes.change(0).form.reset();
    });
    ASSERT_TRUE(jumps->readFrom(file));
    ASSERT_EQ(form().size(), before.size());
    for (std::size_t i = 0; i < before.size(); ++i) {
      EXPECT_EQ(form()[i].letter, before[i].letter);
      EXPECT_NEAR(form()[i].span.start.value, before[i].span.start.value, 0.001);
    }
    EXPECT_EQ(bench().take()->cues.size(), 1U);
    ASSERT_TRUE(jumps->readFrom(file));
    EXPECT_EQ(bench().take()->cues.size(), 1U) << "read twice";
  }
  ASSERT_TRUE(jumps->writeTo(QString::fromStdString((folder / "times.text").string())));
  ASSERT_TRUE(jumps->readFrom(QString::fromStdString((folder / "times.text").string())));
  ASSERT_EQ(form().size(), before.size()) << "text as well, to a tenth of a second";
  EXPECT_EQ(bench().take()->cues.size(), 1U);
  std::ofstream(folder / "bad.txt") << "0:01 fine\nno time at all\n";
  const Form kept = form();
  EXPECT_FALSE(jumps->readFrom(QString::fromStdString((folder / "bad.txt").string())));
  EXPECT_THAT(jumps->findChild<QLabel*>("jumps-said")->text().toStdString(), testing::HasSubstr("Line 2"));
  EXPECT_EQ(form(), kept);
  EXPECT_FALSE(jumps->writeTo("/nowhere/at/all/times.txt"));
}

TEST_F(TimeFormTest, ClickAndCountAreHeard) {
  openDemo();
  bench().transport().seek(grid()[16].time);
  output_->advance(Seconds(0.1));
  press(Qt::Key_R);
  press(Qt::Key_Y);
  EXPECT_TRUE(child<QPushButton>("deck-click")->isChecked());
  EXPECT_TRUE(child<QPushButton>("deck-count-in")->isChecked());
  output_->forget();
  press(Qt::Key_Space);
  EXPECT_TRUE(bench().transport().player().counting());
  const double beat = (grid()[17].time - grid()[16].time).value;
  output_->advance(Seconds(4 * beat - 0.05));
  EXPECT_NEAR(bench().transport().position().value, grid()[16].time.value, 0.02) << "still counting";
  output_->advance(Seconds(1.05));
  EXPECT_FALSE(bench().transport().player().counting());
  EXPECT_NEAR(bench().transport().position().value, grid()[16].time.value + 1.0, 0.05);
}

TEST_F(TimeFormTest, OneKeyLoopsWidensNarrowsAndGoesOn) {
  openDemo();
  const auto lines = barLines(grid());
  bench().transport().seek(lines[13] + Seconds(0.5));
  press(Qt::Key_O);
  ASSERT_TRUE(bench().selection().passage());
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[13], lines[14]}));
  press(Qt::Key_P);
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[12], lines[14]}));
  press(Qt::Key_P);
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[12], lines[16]}));
  press(Qt::Key_P);
  EXPECT_EQ(*bench().selection().passage(), form()[2].span) << "the section";
  press(Qt::Key_U);
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[12], lines[16]}));
  press(Qt::Key_Apostrophe);
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[16], lines[20]}));
  EXPECT_EQ(bench().transport().position(), lines[16]);
  press(Qt::Key_Semicolon);
  EXPECT_EQ(*bench().selection().passage(), (TimeSpan{lines[12], lines[16]}));
  press(Qt::Key_S, Qt::AltModifier | Qt::ShiftModifier);
  EXPECT_NEAR(bench().selection().passage()->start.value, lines[12].value + 0.001, 1e-9);
}

TEST_F(TimeFormTest, StrokesOfAPassage) {
  openDemo();
  auto* window = window_->openStrokes();
  EXPECT_EQ(window->findChild<QLabel*>("strokes-verdict")->text(), "No passage in hand");
  const auto lines = barLines(grid());
  bench().selection().set(TimeSpan{lines[20] - Seconds(0.05), lines[21] - Seconds(0.05)});
  auto* table = window->findChild<QTableWidget*>("strokes-table");
  ASSERT_TRUE(QTest::qWaitFor([&] { return table->rowCount() > 3; }, 10000)) << "it follows the passage in hand";
  EXPECT_EQ(table->item(0, 1)->text(), "21");
  EXPECT_EQ(table->item(0, 2)->text(), "1");
  QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualItemRect(table->item(2, 0)).center());
  EXPECT_GT(bench().transport().position(), lines[20]);
}

TEST_F(TimeFormTest, BarAndBeatAreCountedInTheChosenSchool) {
  openDemo();
  const Seconds at = grid()[17].time + (grid()[18].time - grid()[17].time) * 0.55;
  const auto place = *barPlaceAt(grid(), at);
  EXPECT_EQ(bench().time().counted(at).toStdString(),
            std::to_string(place.bar) + ": " + std::to_string(place.beat) + " and");
  NotationPreferences schools;
  schools.counting = NotationPreferences::Counting::fraction;
  bench().session().setNotation(schools);
  EXPECT_EQ(bench().time().counted(at).toStdString(),
            std::to_string(place.bar) + ": " + countName(schools, place.beat, 2, 4));
  bench().session().setNotation({});
}

/// The way from the machine's answer to a form and grid that are right, with every press of the mouse counted.
TEST_F(TimeFormTest, ARightGridAndFormTakeUnderTwentyClicks) {
  openDemo();
  int clicks = 0;
  const auto click = [&](QWidget* widget) {
    QTest::mouseClick(widget, Qt::LeftButton);
    ++clicks;
  };
  const auto tab = [&](const QString& title) {
    for (auto* button : window_->drawer().findChildren<QPushButton*>("tab"))
      if (button->text() == title) click(button);
  };
  std::ifstream file(std::string(DEMO_DIR) + "/studio.truth.json");
  const auto truth = nlohmann::json::parse(file);
  tab("Form");
  QString order;
  for (const auto& s : truth["sections"])
    order += (order.isEmpty() ? "" : ", ") + QString::fromStdString(s["label"].get<std::string>());
  auto* field = child<QLineEdit>("form-order");
  click(field);
  field->selectAll();
  QTest::keyClicks(field, order);
  QTest::keyClick(field, Qt::Key_Return);
  click(child<QPushButton>("form-confirm"));
  tab("Time");
  click(child<QPushButton>("time-confirm"));

  ASSERT_EQ(form().size(), truth["sections"].size());
  for (std::size_t i = 0; i < form().size(); ++i) {
    EXPECT_EQ(form()[i].name, truth["sections"][i]["label"].get<std::string>());
    EXPECT_NEAR(form()[i].span.start.value, truth["sections"][i]["start_s"].get<double>(), 0.1);
    EXPECT_EQ(form()[i].origin, Origin::confirmed);
  }
  std::size_t hits = 0, wanted = 0;
  // The score counts on through the bar in which the closing chord only rings; beats are wanted where something sounds.
  const double last = truth["downbeats"].back().get<double>() + 0.6;
  for (const double t : truth["beats"].get<std::vector<double>>()) {
    if (t > last) break;
    ++wanted;
    for (const Beat& b : grid())
      if (std::abs(b.time.value - t) < 0.07) {
        ++hits;
        break;
      }
  }
  EXPECT_EQ(hits, wanted);
  EXPECT_EQ(bench().brief().time->origin, Origin::confirmed);
  EXPECT_LT(clicks, 20);
}

}  // namespace
}  // namespace ear::test
