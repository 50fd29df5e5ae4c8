// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QWidget>
#include <memory>
#include <vector>

#include "app/tab/tab_painter.h"
#include "core/engraving/spacing.h"

namespace ear {

class Workbench;
struct Phrase;

/// The phrase in hand as tab, spaced by its rhythm; all its levels one below the other, where that is asked for. Notes
/// are chosen with the mouse or the arrows and changed with keys.
class TabView : public QWidget {
  Q_OBJECT
 public:
  explicit TabView(Workbench& bench, QWidget* parent = nullptr);

  void showAllLevels(bool on);
  bool allLevels() const { return allLevels_; }
  /// Another phrase below the one in hand; empty: none.
  void showBeside(const std::string& phrase);
  /// Where a note of the level in hand is drawn; empty where it is not.
  QRectF rectOf(int note) const;
  /// The stretch around the caret that should be seen.
  QRect caretRect() const;
  QSize sizeHint() const override;

 signals:
  void caretMoved();
  void wordsWanted(const QString& begun);  ///< somebody types words over the chosen notes

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

 private:
  /// A level as it is drawn.
  struct Row {
    const Phrase* phrase = nullptr;
    std::size_t level = 0;
    QString title;
    TabScore score;
    std::unique_ptr<Spacing> spacing;
    double top = 0.0;
  };
  void refresh();
  TabLook lookOf(const Row& row) const;
  TabPainter painterOf(const Row& row) const;
  double xOf(const Row& row, Beats at) const;
  double stretchOf(const Row& row) const;
  const Row* rowInHand() const;
  const TabHead* headAt(QPointF at, const Row& row) const;
  void paintEmpty(QPainter& p) const;
  void paintCaret(QPainter& p, const Row& row) const;
  void paintPlayhead(QPainter& p, const Row& row) const;
  bool moves(const QKeyEvent& key);
  bool changes(const QKeyEvent& key);
  void typeDigit(int digit);
  void menu(QPoint global);

  Workbench& bench_;
  std::vector<Row> rows_;
  bool allLevels_ = false;
  std::string beside_;
  QElapsedTimer typed_;
  int figure_ = 0;
  std::optional<QPointF> pressed_;
  QRectF band_;
};

}  // namespace ear
