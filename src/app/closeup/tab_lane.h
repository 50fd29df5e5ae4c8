// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/lane.h"

namespace ear {

class Workbench;
struct Phrase;

/// The tab of the guitar in hand under the sound it was written from: each note where it sounds. A phrase that is too
/// narrow for its numbers stands as a block with its name. Clicking a note chooses it, a double click opens the phrase.
class TabLane : public Lane {
  Q_OBJECT
 public:
  TabLane(Workbench& bench, QObject* parent);

  /// None while nothing is written for the take; one row with the phrases' names where the close-up is low, unless the
  /// bench is open.
  int height(int room) const override;
  void setWriting(bool on);
  void paint(QPainter& p, const LaneView& view) override;
  void clicked(QPointF at, const LaneView& view) override;
  void doubleClicked(QPointF at, const LaneView& view) override;
  QString tip(QPointF at, const LaneView& view) const override;

 private:
  struct Found {
    const Phrase* phrase = nullptr;
    int note = 0;  ///< id; 0 beside the notes
  };
  Found at(QPointF at, const LaneView& view) const;
  bool readable(const Phrase& phrase, const LaneView& view) const;

  Workbench& bench_;
  bool writing_ = false;
};

}  // namespace ear
