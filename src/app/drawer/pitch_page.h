// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QDoubleSpinBox;
class QListWidget;

namespace ear {

class PitchPage : public FactPage {
  Q_OBJECT
 public:
  explicit PitchPage(Workbench& bench, QWidget* parent = nullptr);

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void set();
  void takeSplit(int row);
  CentsHistogram* histogram_;
  CurveChart* curve_;
  QDoubleSpinBox* cents_;
  QListWidget* splits_;
  QLabel* reason_;
  QLabel* advice_;
};

}  // namespace ear
