#pragma once

#include "app/drawer/fact_page.h"

class QPushButton;
class QTableWidget;

namespace ear {

class FormPage : public FactPage {
  Q_OBJECT
 public:
  explicit FormPage(Workbench& bench, QWidget* parent = nullptr);

 protected:
  void refreshOwn(const Brief& brief, const Findings* found) override;
  void confirm() override;
  void takeMeasured() override;

 private:
  void change(const QString& label, const std::function<void(Form&)>& edit);
  int row() const;
  QTableWidget* table_;
  QPushButton *split_, *merge_, *border_, *loop_;
};

}  // namespace ear
