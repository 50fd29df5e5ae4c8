// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QListWidgetItem;
class QPushButton;
class QSpinBox;

namespace ear {

/// The guitars of the take: how each was tuned and capoed, by which reading, and why.
class GuitarPage : public FactPage {
  Q_OBJECT
 public:
  explicit GuitarPage(Workbench& bench, QWidget* parent = nullptr);
  /// The keyboard goes to the readings: Return takes the one that is chosen.
  void chooseReading();

 signals:
  void tuneUpWanted();

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void makeParts();
  void makeReadings();
  void makeOwn();
  void setSetup(const QString& label, const GuitarSetup& setup, Origin origin, const QString& evidence);
  void setOwn();
  void setNickname();
  void addPart();
  void removePart();
  void showReasons();
  void takeReading();
  void showParts();
  const SetupReading* chosenReading() const;

  QComboBox *parts_, *side_, *kind_;
  QPushButton* remove_;
  SidesChart* sides_;
  QLabel *two_, *wrong_, *shifts_;
  QListWidget *readings_, *reasons_;
  QPushButton* take_;
  QComboBox *tuning_, *capoStrings_;
  QSpinBox *capo_, *frets_;
  QLineEdit* nickname_;
};

}  // namespace ear
