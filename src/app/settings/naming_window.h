// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "app/workbench/workbench.h"

class QFormLayout;
class QLabel;

namespace ear {

/// How this studio names strings, frets, keys, bends and counts: a choice for each matter on which teachers differ,
/// with what it makes of an example.
class NamingWindow : public QDialog {
  Q_OBJECT
 public:
  explicit NamingWindow(Workbench& bench, QWidget* parent = nullptr);

 private:
  template <class Choice>
  void add(const QString& name, const QString& what, Choice NotationPreferences::*member, const QStringList& choices);
  void showExample();

  Workbench& bench_;
  QFormLayout* form_;
  QLabel* example_;
};

}  // namespace ear
