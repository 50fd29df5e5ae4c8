#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QButtonGroup;
class QStackedWidget;

namespace ear {

class GuitarPage;
class FormPage;
class PassagesPage;
class TimePage;

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
  TimePage* timePage() { return time_; }
  FormPage* formPage() { return form_; }
  PassagesPage* passagesPage() { return passages_; }

 signals:
  void opened(int page);

 private:
  QStackedWidget* pages_;
  QButtonGroup* tabs_;
  GuitarPage* guitar_;
  TimePage* time_;
  FormPage* form_;
  PassagesPage* passages_;
};

}  // namespace ear
