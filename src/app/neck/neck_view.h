// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/neck/neck_map.h"
#include "app/neck/neck_marks.h"
#include "app/workbench/workbench.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace ear {

class StringChoice;

/// The neck of the guitar in hand under the close-up: a scale in boxes, positions or shapes, and the chord that sounds
/// where the playhead is, by its sound and by its shape.
class NeckView : public QWidget {
  Q_OBJECT
 public:
  explicit NeckView(Workbench& bench, QWidget* parent = nullptr);
  NeckMap& neck() { return *neck_; }

  void refresh();
  /// A shape from elsewhere is all that stands on the neck, until another place or division is chosen.
  void showShape(const std::vector<FretPosition>& places);

 signals:
  void struck(FretPosition place);
  void settleWanted();  ///< the guitar is to be settled

 private:
  void layOut();
  void showChord();
  void stepRegion(int by);
  std::vector<NeckRegion> regions() const;
  std::optional<Scale> scale() const;
  std::optional<Chord> chordNow() const;
  std::optional<ScaleStretch> statedNow() const;
  QString chordSentence(const Chord& chord) const;

  Workbench& bench_;
  NeckMap* neck_;
  QLabel *part_, *chord_, *regionName_;
  QComboBox *scale_, *labels_, *map_, *counted_;
  StringChoice* strings_;
  QPushButton *settle_, *before_, *after_;
  std::vector<FretPosition> shape_;  // put here by showShape; empty: the scale
  int region_ = -1;                  // -1: the whole neck
  std::optional<Chord> shown_;
  std::optional<ScaleStretch> stated_;  // of the phrase in hand
};

}  // namespace ear
