#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QComboBox;
class QDoubleSpinBox;

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
  CentsHistogram* histogram_;
  CentsCurve* curve_;
  QDoubleSpinBox* cents_;
  QComboBox* strings_;
  QLabel* advice_;
};

}  // namespace ear
