// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

class QVBoxLayout;

namespace ear {

class StudyKeeper;
class Workbench;

/// What stands on the desk before anything is open: the ways to begin, the last studies, and what will happen.
class StartView : public QWidget {
  Q_OBJECT
 public:
  StartView(Workbench& bench, StudyKeeper& keeper, QWidget* parent = nullptr);

 private:
  void listRecent();

  StudyKeeper& keeper_;
  QVBoxLayout* recent_;
};

}  // namespace ear
