// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

class QLineEdit;
class QListWidget;

namespace ear {

class KeyMap;

/// Finds a command by words of its name and runs it; beside each stands its key, so that it is known the next time.
class CommandFinder : public QDialog {
  Q_OBJECT
 public:
  CommandFinder(const KeyMap& map, QWidget* parent);

 protected:
  /// Up and Down move through the list while the field is typed into.
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void find(const QString& words);
  void runChosen();

  const KeyMap& map_;
  QLineEdit* field_;
  QListWidget* list_;
};

}  // namespace ear
