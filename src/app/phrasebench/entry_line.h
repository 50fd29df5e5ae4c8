// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/checking/slips.h"
#include "core/phrase/entry/entry.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;

namespace ear {

class Workbench;
class EntryEcho;

/// Where notes are said in words. What was understood is drawn at once beside it; what was not is marked where it
/// stands; what can be meant in several ways is asked back with the choices. On a walk it takes one answer at a time.
class EntryLine : public QWidget {
  Q_OBJECT
 public:
  explicit EntryLine(Workbench& bench, QWidget* parent = nullptr);

  /// Puts the cursor in it. @param begun  already typed
  void start(const QString& begun);
  QLineEdit& line() { return *line_; }

 signals:
  void left();  ///< back to the tab, by Escape or the arrow up in an empty line

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void read();
  void enter();
  void markWords();
  void ask();
  void explain();
  void refresh();

  Workbench& bench_;
  QLineEdit* line_;
  QLabel* word_;
  QHBoxLayout* choices_;
  EntryEcho* echo_;
  Entry entry_;
  std::vector<Slip> slips_;
  QString wrongClaim_;  // of what is said behind "="
  QStringList before_;  // lines that were entered, the last one last
  qsizetype recalled_ = 0;
  bool marking_ = false;
};

}  // namespace ear
