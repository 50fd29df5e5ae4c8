#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"

class QComboBox;
class QDoubleSpinBox;
class QListWidget;
class QSpinBox;

namespace ear {

class TimePage : public FactPage {
  Q_OBJECT
 public:
  explicit TimePage(Workbench& bench, QWidget* parent = nullptr);

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void set();
  BarChart* tempogram_;
  QListWidget* readings_;
  QDoubleSpinBox *tempo_, *swing_;
  QSpinBox* meter_;
};

}  // namespace ear
