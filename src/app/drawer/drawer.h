#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QButtonGroup;
class QStackedWidget;

namespace ear {

class PassagesPage;

/// The right side of the desk: evidence of a fact, or the passages.
class Drawer : public QWidget {
  Q_OBJECT
 public:
  enum Page { pitch, key, time, form, passages };
  explicit Drawer(Workbench& bench, QWidget* parent = nullptr);
  void open(int page);
  int page() const;
  PassagesPage* passagesPage() { return passages_; }

 signals:
  void opened(int page);

 private:
  QStackedWidget* pages_;
  QButtonGroup* tabs_;
  PassagesPage* passages_;
};

}  // namespace ear
