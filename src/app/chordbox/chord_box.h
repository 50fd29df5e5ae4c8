#pragma once

#include <QDialog>

#include "app/chordbox/neck_grid.h"
#include "core/theory/fingering.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

/// Frets to names and names to frets, in any tuning and with a capo.
class ChordBox : public QDialog {
  Q_OBJECT
 public:
  ChordBox(const Guitar& guitar, Spelling spelling, QWidget* parent = nullptr);
  /// Types a name and chooses its easiest shape.
  void typeName(const QString& name);

 signals:
  /// The chord on the neck is to be heard.
  void heard(const std::vector<int>& midi);

 private:
  QWidget* makeGuitarRow();
  QWidget* makeNeckSide();
  QWidget* makeShapeSide();
  void changeGuitar();
  void readFrets();
  void findShapes();

  Spelling spelling_;
  Guitar guitar_;
  std::vector<ChordShape> shapes_;
  QComboBox* tuning_;
  QSpinBox* capo_;
  NeckGrid* neck_;
  QLabel *name_, *sounding_, *notes_, *grip_, *wrong_;
  QListWidget *others_, *found_;
  QPushButton* hear_;
  QLineEdit* typed_;
};

}  // namespace ear
