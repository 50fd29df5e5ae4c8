// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/commands.h"

#include <QCoreApplication>
#include <QMenu>
#include <QMenuBar>
#include <optional>

namespace ear {
namespace {

/// The menu that a menu stands in, where it is not one of the bar's.
std::optional<CommandGroup> within(CommandGroup group) {
  switch (group) {
    case CommandGroup::lesson:
      return CommandGroup::study;
    case CommandGroup::edges:
      return CommandGroup::passage;
    case CommandGroup::notes:
      return CommandGroup::phrase;
    case CommandGroup::drawer:
    case CommandGroup::look:
      return CommandGroup::view;
    default:
      return std::nullopt;
  }
}

}  // namespace

Commands::Commands(QObject* parent) : QObject(parent) {
  for (const CommandRow& row : commandRows()) {
    auto* action = new QAction(QCoreApplication::translate("Commands", row.title), this);
    action->setObjectName(row.id);
    action->setShortcut(QKeySequence(QString::fromLatin1(row.key), QKeySequence::PortableText));
    if (row.tip != nullptr) action->setToolTip(QCoreApplication::translate("Commands", row.tip));
    action->setCheckable(row.switches);
    action->setEnabled(row.needs != Needs::lesson);
    actions_[row.id] = action;
  }
}

void Commands::bind(const QString& id, std::function<void()> run) {
  connect(actions_.at(id), &QAction::triggered, this, [run = std::move(run)] { run(); });
  bound_ << id;
}

QStringList Commands::unbound() const {
  QStringList ids;
  for (const auto& [id, action] : actions_)
    if (!bound_.contains(id)) ids << id;
  return ids;
}

QMenu* Commands::menuOf(CommandGroup group, QMenuBar* bar) {
  QMenu*& menu = menus_[group];
  if (menu != nullptr) return menu;
  const auto outer = within(group);
  menu = outer ? menuOf(*outer, bar)->addMenu(groupTitle(group)) : bar->addMenu(groupTitle(group));
  menu->setToolTipsVisible(true);
  return menu;
}

void Commands::fill(QMenuBar* bar) {
  for (const CommandRow& row : commandRows()) {
    QMenu* menu = menuOf(row.group, bar);
    if (row.opensGap) menu->addSeparator();
    // A key that works while it is held is no shortcut; see DeskWindow.
    if (QLatin1String(row.id) != QLatin1String("peek")) menu->addAction(actions_.at(row.id));
  }
}

void Commands::insert(QMenu* menu, const QString& before) {
  for (const auto& [group, all] : menus_)
    if (all->actions().contains(actions_.at(before))) all->insertMenu(actions_.at(before), menu);
}

void Commands::allow(bool study, bool sound, bool passage) {
  for (const CommandRow& row : commandRows())
    if (row.needs != Needs::lesson)
      actions_.at(row.id)->setEnabled(row.needs == Needs::nothing || (row.needs == Needs::study   ? study
                                                                      : row.needs == Needs::sound ? sound
                                                                                                  : sound && passage));
}

void Commands::allowLesson(bool on) {
  for (const CommandRow& row : commandRows())
    if (row.needs == Needs::lesson) actions_.at(row.id)->setEnabled(on);
}

}  // namespace ear
