#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QButtonGroup;
class QStackedWidget;

namespace ear {

class GuitarPage;
class PassagesPage;

/// The right side of the desk: evidence of a fact, or the passages.
class Drawer : public QWidget {
  Q_OBJECT
 public:
  enum Page { pitch, guitar, key, time, form, passages };
  static constexpr int kPages = 6;
  explicit Drawer(Workbench& bench, QWidget* parent = nullptr);
  void open(int page);
  int page() const;
  GuitarPage* guitarPage() { return guitar_; }
  PassagesPage* passagesPage() { return passages_; }

 signals:
  void opened(int page);

 private:
  QStackedWidget* pages_;
  QButtonGroup* tabs_;
  GuitarPage* guitar_;
  PassagesPage* passages_;
};

}  // namespace ear
