// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "app/paper/sheet_item.h"
#include "app/paper/tab_line.h"

namespace ear {

class Workbench;

/// What the step in hand is about, large enough for two metres: tab that follows what plays, how to tune, chords, where
/// in the song one is, or what is left.
class LessonStage : public QWidget {
  Q_OBJECT
 public:
  explicit LessonStage(Workbench& bench, QWidget* parent = nullptr);

  /// The id of the phrase whose tab stands here; empty where none does.
  const std::string& phraseShown() const { return phrase_; }
  /// Where that phrase lies, which guitar plays it and how true it is.
  const QString& about() const { return about_; }
  /// How far it is scrolled, and where the line of the playhead stands; for tests too.
  double scrolled() const { return scroll_; }
  std::optional<QRectF> playheadLine() const;

 signals:
  void shown();  ///< something else

 protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;

 private:
  /// A strip of what is shown; with a line of tab where it is one.
  struct Strip {
    SheetItem item;
    double top = 0.0;
    std::shared_ptr<const TabLine> line{};
  };
  void refresh();
  void fill();
  void follow();
  void add(std::vector<SheetItem> items);
  void addTab(const SheetPhrase& phrase);
  void addWords(const QString& words, bool soft = false);
  void paintSong(QPainter& p) const;
  std::string wantedPhrase() const;
  double unit() const;  // pixels for a fortieth of a millimetre
  double widthInUnits() const;
  double totalHeight() const;
  double room() const;
  struct Place {
    const Strip* strip;
    double x;
  };
  std::optional<Place> playhead() const;

  Workbench& bench_;
  std::vector<Strip> strips_;
  std::string phrase_;
  QString about_;
  double shrunk_ = 1.0;  // so that a little more than fits does fit
  bool song_ = false;    // where in the song one is
  double scroll_ = 0.0;
};

}  // namespace ear
