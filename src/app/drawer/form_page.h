// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/fact_page.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace ear {

class SimilarityChart;

class FormPage : public FactPage {
  Q_OBJECT
 public:
  explicit FormPage(Workbench& bench, QWidget* parent = nullptr);

 signals:
  void timesWanted();
  void cueWanted();

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void makeTable();
  void makeButtons();
  void followTable();
  void takeOrder();
  void showRow();
  int row() const;
  QLineEdit* order_;
  QTableWidget* table_;
  QLabel* difference_;
  SimilarityChart* picture_;
  QPushButton *split_, *merge_, *border_, *loop_;
};

}  // namespace ear
