#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSpinBox>

#include "app/chordbox/chord_box.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

class ChordBoxTest : public testing::Test {
 protected:
  void SetUp() override {
    box_.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&box_));
  }
  NeckGrid* neck() { return box_.findChild<NeckGrid*>("neck-grid"); }
  QString name() { return box_.findChild<QLabel*>("chord-name")->text(); }
  void click(int string, int fret) { QTest::mouseClick(neck(), Qt::LeftButton, {}, neck()->pointOf({string, fret})); }
  void play(const char* frets) {
    const auto places = *parseFrets(frets);
    for (const Place p : places) click(p.string, p.fret);
  }

  ChordBox box_{Guitar{}, Spelling::sharps};
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
  auto* typed = box_.findChild<QLineEdit*>("chord-typed");
  auto* shapes = box_.findChild<QListWidget*>("chord-shapes");
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
  box_.findChild<QSpinBox*>("chord-capo")->setValue(4);
  play("x02210");
  EXPECT_EQ(name(), "Am");
  bool sounding = false;
  for (const auto* label : box_.findChildren<QLabel*>())
    sounding = sounding || label->text() == QString::fromUtf8("sounds C♯m");
  EXPECT_TRUE(sounding);
  box_.findChild<QSpinBox*>("chord-capo")->setValue(0);
  auto* tuning = box_.findChild<QComboBox*>("chord-tuning");
  const int open = tuning->findText("open D   ", Qt::MatchStartsWith);
  ASSERT_GE(open, 0);
  tuning->setCurrentIndex(open);
  emit tuning->activated(open);
  neck()->setPlaces(*parseFrets("555555"));
  EXPECT_EQ(name(), "G");
}

TEST_F(ChordBoxTest, ShapesKeepTheirNamesOnRetunedStrings) {
  // Tuned to E flat, the open E minor shape sounds D sharp minor; common practice, no source.
  ChordBox down(Guitar{.tuning = {{39, 44, 49, 54, 58, 63}}}, Spelling::sharps);
  down.typeName("Em");
  EXPECT_EQ(down.findChild<QLabel*>("chord-name")->text(), "Em");
  const auto* list = down.findChild<QListWidget*>("chord-shapes");
  bool open = false;
  for (int i = 0; i < list->count(); ++i) open = open || list->item(i)->text().startsWith("022000");
  EXPECT_TRUE(open);
}

TEST_F(ChordBoxTest, KeyboardReachesEveryFret) {
  neck()->setFocus();
  QTest::keyClick(neck(), Qt::Key_Up);  // fifth string
  for (int i = 0; i < 3; ++i) QTest::keyClick(neck(), Qt::Key_Right);
  QTest::keyClick(neck(), Qt::Key_Return);
  EXPECT_EQ(name(), "C3");
  EXPECT_EQ(neck()->places(), (std::vector<Place>{{1, 3}}));
}

TEST_F(DeskTest, ChordBoxOpensByKeyAndLeavesTheDeskPlaying) {
  openDemo();
  press(Qt::Key_Space);
  press(Qt::Key_B, Qt::ControlModifier);
  EXPECT_NE(window_->findChild<ChordBox*>("chord-box"), nullptr);
  EXPECT_TRUE(bench().playing());
}

}  // namespace
}  // namespace ear::test
