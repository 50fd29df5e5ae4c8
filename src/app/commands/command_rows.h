// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <span>

namespace ear {

/// The menus, by what the hands do. The lesson, edges, notes, drawer and look are menus within another.
enum class CommandGroup {
  study,
  lesson,
  edit,
  play,
  passage,
  edges,
  phrase,
  notes,
  listen,
  guitar,
  time,
  view,
  drawer,
  look,
  help
};

/// What has to be there for a command to be of use.
enum class Needs { nothing, study, sound, passage, lesson };

/// A command of the desk. Its id never changes, since the keys and pedals that users gave it are kept under it.
struct CommandRow {
  CommandGroup group;
  const char* id;
  const char* title;  ///< shown; "…" where a window asks for more
  const char* key;    ///< the standard one; may be empty
  Needs needs = Needs::nothing;
  const char* tip = nullptr;  ///< empty: the title says it all
  bool switches = false;      ///< it is on or off
  bool opensGap = false;      ///< a line stands above it in the menu
};

/// Every command, in the order of the menus.
std::span<const CommandRow> commandRows();

/// The menu's title, with its underlined letter.
QString groupTitle(CommandGroup group);

}  // namespace ear
