// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAction>
#include <QObject>
#include <functional>
#include <map>

#include "app/commands/command_rows.h"

class QMenu;
class QMenuBar;

namespace ear {

/// The actions of the table of commands. Whoever can do what a command says, binds it; menus, keys, pedals, buttons and
/// the finder work on the actions alone.
class Commands : public QObject {
  Q_OBJECT
 public:
  explicit Commands(QObject* parent);

  /// @pre the id is in the table
  QAction* operator[](const QString& id) const { return actions_.at(id); }
  void bind(const QString& id, std::function<void()> run);
  /// Ids to which nothing is bound, which a test wants to be none.
  QStringList unbound() const;

  void fill(QMenuBar* bar);
  /// A menu of its own that stands before another command, such as the studies opened last.
  void insert(QMenu* menu, const QString& before);

  /// Switches commands on and off by what is there; who knows better does so afterwards.
  void allow(bool study, bool sound, bool passage);
  /// Those that work only while a lesson is given; their keys are the desk's own else.
  void allowLesson(bool on);

 private:
  QMenu* menuOf(CommandGroup group, QMenuBar* bar);

  std::map<QString, QAction*> actions_;
  std::map<CommandGroup, QMenu*> menus_;
  QStringList bound_;
};

}  // namespace ear
