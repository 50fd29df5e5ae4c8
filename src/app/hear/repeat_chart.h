// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QWidget>
#include <memory>
#include <set>

#include "app/workbench/phrase_keeper.h"
#include "core/listening/form/repeat_difference.h"

namespace ear {

/// Two times of one phrase one above the other on the time of the first, with what differs between them marked: what
/// sounds, and the tab of what is written there.
class RepeatChart : public QWidget {
  Q_OBJECT
 public:
  /// What is written on one of the two sides.
  struct Written {
    PhraseKeeper::View view{};
    std::vector<std::pair<Beats, Seconds>> times{};  ///< of its notes and their ends, rising
    std::set<int> differing{};                       ///< ids of notes that the other side has not so
  };

  explicit RepeatChart(QWidget* parent = nullptr);
  void show(std::shared_ptr<const RepeatDifference> difference);
  /// Without notes where nothing is written.
  void setWritten(Written first, Written second);

 signals:
  /// A click: the column, and whether in the lower one.
  void chosen(std::size_t column, bool second);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  double xOf(const std::vector<Seconds>& columns, Seconds at) const;
  double tabHeight(const Written& side) const;
  void paintTab(QPainter& p, const Written& side, const std::vector<Seconds>& columns, double top) const;

  std::shared_ptr<const RepeatDifference> difference_;
  QImage first_, second_;
  Written above_, below_;
};

}  // namespace ear
