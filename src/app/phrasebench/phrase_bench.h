// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QAction;
class QComboBox;
class QPushButton;
class QScrollArea;

namespace ear {

class Commands;
class EntryLine;
class TabView;
class Workbench;

/// The lower half of the desk while a phrase is written: which phrase, its tab, and the line in which notes are said.
class PhraseBench : public QWidget {
  Q_OBJECT
 public:
  PhraseBench(Workbench& bench, const Commands& commands, QWidget* parent = nullptr);

  TabView& tab() { return *tab_; }
  EntryLine& entry() { return *entry_; }
  QSize sizeHint() const override;
  /// Puts the cursor in the line.
  void write();

 private:
  QWidget* head();
  void refresh();
  void seeCaret();

  Workbench& bench_;
  const Commands& commands_;
  QComboBox *phrases_, *levels_, *lengths_, *voices_, *sound_;
  QPushButton* allLevels_;
  TabView* tab_;
  QScrollArea* scroll_;
  EntryLine* entry_;
};

}  // namespace ear
