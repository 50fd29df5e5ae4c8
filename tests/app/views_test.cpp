// SPDX-License-Identifier: GPL-3.0-or-later
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QSpinBox>
#include <QTableWidget>
#include <cmath>

#include "app/brief/fact_tile.h"
#include "app/theme/theme.h"
#include "desk_fixture.h"
#include "support/decisions.h"

namespace ear::test {
namespace {

// Relative luminance and contrast as in WCAG 2.1, success criterion 1.4.3: at least 4.5 : 1 for text.
double luminance(const QColor& c) {
  const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
  return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
  const double x = luminance(a), y = luminance(b);
  return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

TEST(Theme, EveryTextCanBeRead) {
  for (const auto choice : {Theme::Choice::light, Theme::Choice::dark}) {
    Theme::apply(*qApp, choice);
    const Theme& t = Theme::current();
    for (const QColor& ground : {t.ground, t.panel}) {
      EXPECT_GE(contrast(t.ink, ground), 4.5);
      EXPECT_GE(contrast(t.softInk, ground), 4.5);
      EXPECT_GE(contrast(t.warning, ground), 4.5);
      EXPECT_GE(contrast(t.error, ground), 4.5);
    }
    EXPECT_GE(contrast(t.ink, t.accentWash), 4.5);
    EXPECT_GE(contrast(t.onAccent, t.accent), 4.5);
    for (const char* letter : {"A", "B", "C", "D", "E", "F", "G", "H"})
      EXPECT_GE(contrast(t.ink, t.block(letter)), 4.5) << letter;
  }
  Theme::apply(*qApp, Theme::Choice::light);
}

TEST_F(DeskTest, MapTakesYouThere) {
  openDemo();
  auto* map = child<MapView>("map");
  QTest::mouseClick(map, Qt::LeftButton, {}, QPoint(static_cast<int>(map->xOf(Seconds(60))), 60));
  EXPECT_NEAR(bench().transport().position().value, 60, 0.2);
  EXPECT_TRUE(child<CloseUp>("close-up")->window().contains(bench().transport().position())) << "the close-up follows";
  EXPECT_FALSE(bench().selection().passage().has_value()) << "a click is no drag";
}

TEST_F(DeskTest, DeckFieldsAndKeysShowOneTruth) {
  openDemo();
  auto* speed = child<QSpinBox>("deck-speed");
  speed->setValue(70);
  EXPECT_NEAR(bench().transport().sounding().speed, 0.7, 1e-9);
  press(Qt::Key_Z);
  EXPECT_EQ(speed->value(), 65);
  speed->setValue(9);  // out of range
  EXPECT_EQ(speed->value(), 20);
  auto* shift = child<QDoubleSpinBox>("deck-shift");
  shift->setValue(-250);
  EXPECT_NEAR(bench().transport().sounding().shift.value, -250, 1e-9);
  QTest::mouseClick(child<QPushButton>("deck-concert"), Qt::LeftButton);
  EXPECT_NEAR(bench().transport().sounding().shift.value, -bench().brief().pitch->value.offset.value, 1e-9);
  QTest::mouseClick(child<QPushButton>("deck-concert"), Qt::LeftButton);
  EXPECT_EQ(bench().transport().sounding().shift, Cents(0)) << "pressed again it goes back";
}

TEST_F(DeskTest, AGuitarDownASemitoneIsMetByOneKey) {
  openDemo();
  bench().document().edit("Set", [](Study& s) {
    s.takes.change(0).pitch = Decision<PitchValue>{{Cents(12)}, Origin::set, 1.0, ""};
    keepParts(s, s.takes[0], nullptr);
    s.parts.change(0).setup = decided({{{39, 44, 49, 54, 58, 63}}, {}}, Origin::set);
  });
  press(Qt::Key_V, Qt::ShiftModifier);
  EXPECT_NEAR(bench().transport().sounding().shift.value, 88, 1e-9) << "a semitone up and 12 cents down";
  press(Qt::Key_V, Qt::ShiftModifier);
  EXPECT_EQ(bench().transport().sounding().shift, Cents(0)) << "and back";

  // With a capo at fret 2 a third way is to play the shapes without it.
  QString said;
  QObject::connect(&bench().session(), &Session::said, window_.get(), [&](const QString& s) { said = s; });
  bench().document().edit("Set", [](Study& s) {
    s.parts.change(0).setup = decided({{{39, 44, 49, 54, 58, 63}}, {2}}, Origin::set);
  });
  press(Qt::Key_V, Qt::ShiftModifier);
  EXPECT_NEAR(bench().transport().sounding().shift.value, 88, 1e-9);
  press(Qt::Key_V, Qt::ShiftModifier);
  EXPECT_NEAR(bench().transport().sounding().shift.value, -112, 1e-9) << "two semitones below that";
  EXPECT_TRUE(said.contains("without a capo")) << said.toStdString();
  press(Qt::Key_V, Qt::ShiftModifier);
  EXPECT_EQ(bench().transport().sounding().shift, Cents(0));
}

TEST_F(DeskTest, FormIsCorrectedInTheTable) {
  openDemo();
  press(Qt::Key_5, Qt::ControlModifier);
  auto* table = child<QTableWidget>("form-table");
  const auto before = bench().brief().form->value;
  table->item(1, 1)->setText("V");
  EXPECT_EQ(bench().brief().form->value[1].letter, "V");
  EXPECT_EQ(bench().brief().form->value[1].origin, Origin::set);
  EXPECT_EQ(bench().brief().form->value[2].origin, Origin::measured) << "only what was touched";
  table->selectRow(1);
  QTest::mouseClick(child<QPushButton>("form-merge"), Qt::LeftButton);
  EXPECT_EQ(bench().brief().form->value.size(), before.size() - 1);
  EXPECT_EQ(bench().brief().form->value[0].span.end, before[1].span.end);
  QTest::mouseClick(child<QPushButton>("form-revert"), Qt::LeftButton);
  EXPECT_EQ(bench().brief().form->value, before);
}

TEST_F(DeskTest, ChordInTheLaneIsLoopedByADoubleClick) {
  openDemo();
  auto* closeUp = child<CloseUp>("close-up");
  const auto& chords = bench().session().findings()->chords;
  const auto chord = std::find_if(chords.begin(), chords.end(),
                                  [](const FoundChord& c) { return c.chord && c.span.start > Seconds(2); });
  ASSERT_NE(chord, chords.end());
  const QPoint at(static_cast<int>(closeUp->xOf(chord->span.start + chord->span.length() * 0.5)), 60);
  QTest::mouseDClick(closeUp, Qt::LeftButton, {}, at);
  ASSERT_TRUE(bench().selection().passage().has_value());
  EXPECT_EQ(*bench().selection().passage(), chord->span);
}

TEST_F(DeskTest, TitleAndKindOfTheTakeAreKept) {
  openDemo();
  auto* title = child<QLineEdit>("title");
  title->selectAll();
  QTest::keyClicks(title, "Copper");
  EXPECT_EQ(bench().document().study().title, "Copper");
  EXPECT_EQ(bench().document().undoLabel(), "Rename study") << "typing is one step";
  bench().document().undo();
  EXPECT_EQ(title->text(), "Copper Weather");
  auto* kind = child<QComboBox>("take-kind");
  const int other = kind->findData(static_cast<int>(TakeKind::other));
  kind->setCurrentIndex(other);
  emit kind->activated(other);
  EXPECT_EQ(bench().take()->kind, TakeKind::other);
}

TEST_F(DeskTest, ThemeChangesWhileWorking) {
  openDemo();
  auto* closeUp = child<CloseUp>("close-up");
  ASSERT_TRUE(QTest::qWaitFor([&] { return closeUp->grab(), !closeUp->pitchMap().busy(); }, 20000));
  const QColor before = window_->grab().toImage().pixelColor(640, 600);
  for (auto* action : window_->findChildren<QAction*>())
    if (action->text() == "Dark") action->trigger();
  EXPECT_TRUE(Theme::current().dark);
  EXPECT_NE(window_->grab().toImage().pixelColor(640, 600), before);
  // The pitch map too: most of it is ground, which is dark now.
  const QImage map = closeUp->grab(closeUp->areaOf(closeUp->pitchMap()).toRect()).toImage();
  int dark = 0;
  for (int x = 0; x < map.width(); x += 5) dark += qGray(map.pixel(x, map.height() / 2)) < 128 ? 1 : 0;
  EXPECT_GT(dark, map.width() / 5 / 2);
  Theme::apply(*qApp, Theme::Choice::light);
}

}  // namespace
}  // namespace ear::test
