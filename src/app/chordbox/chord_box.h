// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "app/chordbox/neck_grid.h"
#include "app/workbench/workbench.h"
#include "core/theory/fingering.h"
#include "core/theory/shape_ways.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

class ShapeWaysRow;

/// Frets to names and names to frets, in any tuning and with a capo, named and counted as the studio does. What is
/// found goes to the neck, to the chords of the recording and into the passage.
class ChordBox : public QDialog {
  Q_OBJECT
 public:
  explicit ChordBox(Workbench& bench, QWidget* parent = nullptr);
  /// Types a name and chooses its usual shape.
  void typeName(const QString& name);
  /// The box as .svg or .png, as the file's ending says. @return whether it was written
  bool writePicture(const QString& file);

 signals:
  /// The shape is to be seen on the neck of the guitar in hand.
  void neckWanted(const std::vector<FretPosition>& places);

 private:
  QWidget* makeGuitarRow();
  QWidget* makeNeckSide();
  QWidget* makeShapeSide();
  void changeGuitar();
  void showInHand();
  void showGuitar();
  void followDesk();
  void tryWay(ShapeWay way);
  void allowPlaces();
  void writeToPassage();
  std::optional<Chord> sounding() const;
  QString written(const std::vector<FretPosition>& places) const;
  void readFrets();
  void findShapes();

  Workbench& bench_;
  Spelling spelling_;
  Guitar guitar_;
  // As last seen on the desk; what it does not change stays as it was put here.
  Guitar inHand_;
  NotationPreferences schools_;
  bool fromNut_ = false;
  std::vector<Fingering> shapes_;
  QComboBox *tuning_, *capoStrings_;
  QSpinBox* capo_;
  NeckGrid* neck_;
  QLabel *name_, *sounding_, *notes_, *grip_, *wrong_;
  QListWidget *others_, *found_;
  QPushButton *hear_, *onNeck_, *here_, *toPassage_, *picture_;
  ShapeWaysRow* ways_;
  QLineEdit* typed_;
};

}  // namespace ear
