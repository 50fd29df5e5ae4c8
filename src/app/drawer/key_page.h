// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/drawer/charts.h"
#include "app/drawer/fact_page.h"
#include "app/neck/neck_map.h"

class QLineEdit;
class QListWidget;

namespace ear {

class KeyPage : public FactPage {
  Q_OBJECT
 public:
  explicit KeyPage(Workbench& bench, QWidget* parent = nullptr);

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void set();
  QString bothNames(const Key& key) const;
  void showNeck(const Brief& brief, const Findings* found);

  BarChart* chroma_;
  NeckMap* neck_;
  QLabel* scales_;
  QListWidget* changes_;
  QListWidget* readings_;
  QLineEdit* own_;
  QLabel* wrong_;
};

}  // namespace ear
