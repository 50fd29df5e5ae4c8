// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace ear {

class GuitarDetails;
class GuitarParts;
class OwnSetup;

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
  void makeReadings();
  void showReasons();
  void takeReading();
  const SetupReading* chosenReading() const;

  GuitarParts* parts_;
  OwnSetup* own_;
  GuitarDetails* details_;
  SidesChart* sides_;
  QLabel* two_;
  QListWidget *readings_, *reasons_;
  QPushButton* take_;
};

}  // namespace ear
