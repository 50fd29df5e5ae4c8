// SPDX-License-Identifier: GPL-3.0-or-later
// What stands in lanes and tiles where there is little room.

#include <QHelpEvent>
#include <QToolTip>

#include "app/brief/fact_tile.h"
#include "app/closeup/close_up.h"
#include "app/desk_fixture.h"

namespace ear::test {
namespace {

class CloseUpTest : public DeskTest {
 protected:
  void SetUp() override {
    DeskTest::SetUp();
    openDemo();
    bench().document().edit("Mark", [](Study& s) {
      s.takes.change(0).cues = {{Seconds(2), "where the second guitar comes in"}, {Seconds(2.3), "breath"}};
    });
    bench().form().edit("Name", [](Form& form) { form[0].name = "opening, played freely"; });
    window_->closeUp().setWindow({Seconds(0), Seconds(24)});
  }

  QString tipAt(const Lane& lane, Seconds t) {
    auto& view = window_->closeUp();
    const QPoint at(static_cast<int>(view.xOf(t)) + 3, static_cast<int>(view.areaOf(lane).center().y()));
    QToolTip::hideText();
    QHelpEvent help(QEvent::ToolTip, at, view.mapToGlobal(at));
    QApplication::sendEvent(&view, &help);
    return QToolTip::text();
  }
};

TEST_F(CloseUpTest, MarksAndSectionsSayTheirWholeWords) {
  auto& view = window_->closeUp();
  view.setWindow({Seconds(0), Seconds(10)});  // wide enough to tell two marks apart in any window
  Lane* ruler = view.findChild<RulerLane*>();
  ASSERT_NE(ruler, nullptr);
  EXPECT_EQ(tipAt(*ruler, Seconds(2)), "where the second guitar comes in");
  EXPECT_EQ(tipAt(*ruler, Seconds(2.3)), "breath");
  // Between two bar lines, which have words of their own.
  const auto lines = barLines(bench().time().grid());
  EXPECT_EQ(tipAt(view.bars(), lines[1] + (lines[2] - lines[1]) * 0.5), "A: opening, played freely");
}

TEST_F(CloseUpTest, AMarkKeepsToTheRoomBeforeTheNext) {
  auto& view = window_->closeUp();
  const auto colours = [&] {
    // Between the two marks, in the upper half of the ruler: the words, or the ruler alone.
    const QImage picture = view.grab().toImage();
    std::set<QRgb> found;
    for (int x = static_cast<int>(view.xOf(Seconds(2))) + 3; x < static_cast<int>(view.xOf(Seconds(2.3))) - 3; ++x)
      found.insert(picture.pixel(x, 8));
    return found.size();
  };
  EXPECT_EQ(colours(), 1U) << "a pole alone";
  view.setWindow({Seconds(1.8), Seconds(2.6)});
  EXPECT_GT(colours(), 3U) << "its words, now that there is room";
}

TEST_F(CloseUpTest, WithoutThePitchMapTheSoundTakesItsRoom) {
  auto& view = window_->closeUp();
  const double before = view.areaOf(view.sound()).height();
  view.showPitchMap(false);
  EXPECT_TRUE(view.areaOf(view.pitchMap()).isEmpty());
  EXPECT_GT(view.areaOf(view.sound()).height(), 2 * before);
  EXPECT_EQ(view.areaOf(view.sound()).bottom(), view.areaOf(view.tab()).top());
  EXPECT_EQ(view.areaOf(view.tab()).bottom(), view.height());
}

/// Stretches of rows that have ink, from top to bottom.
int linesOfText(FactTile& tile) {
  const QImage picture = tile.grab().toImage();
  int lines = 0;
  bool before = false;
  for (int y = 20; y < picture.height() - 4; ++y) {  // under the name of the fact
    bool ink = false;
    for (int x = 10; x < picture.width() - 10; ++x) ink = ink || qGray(picture.pixel(x, y)) < 200;
    lines += ink && !before ? 1 : 0;
    before = ink;
  }
  return lines;
}

TEST_F(CloseUpTest, ALongSentenceOfATileHasTwoLines) {
  FactTile tile("Guitar");
  tile.resize(240, 76);
  TileFace face;
  face.sentence = "no capo";
  face.figure = "cosy";
  tile.show(face);
  EXPECT_EQ(linesOfText(tile), 2) << "sentence and figure";
  face.sentence = "all a semitone down, or a moon among no cranes";
  tile.show(face);
  EXPECT_EQ(linesOfText(tile), 3);
  std::swap(face.sentence, face.figure);
  tile.show(face);
  EXPECT_EQ(linesOfText(tile), 3) << "a long figure too";
}

}  // namespace
}  // namespace ear::test
