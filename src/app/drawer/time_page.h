// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace ear {

class SwingChart;

class TimePage : public FactPage {
  Q_OBJECT
 public:
  explicit TimePage(Workbench& bench, QWidget* parent = nullptr);

 signals:
  void strokesWanted();

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void set();
  void makeReadings();
  void makeCorrections();
  void makeOwn();
  void takeTempo(Bpm tempo);
  BarChart* tempogram_;
  QListWidget* readings_;
  QDoubleSpinBox *tempo_, *swing_;
  QSpinBox* meter_;
  QComboBox* swingLevel_;
  QLabel* drift_;
  CurveChart* curve_;
  SwingChart* swingPicture_;
  std::vector<QPushButton*> correct_;
  QPushButton* follow_;
};

}  // namespace ear
