// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPoint>

#include "core/base/units.h"

class QWidget;

namespace ear {

class Workbench;

/// What can be done with a section, as a menu: name, letter, same as another, cut, join, loop.
/// @param at  where it would be cut; the nearest bar line is taken
void openSectionMenu(Workbench& bench, std::size_t section, Seconds at, QWidget* parent, QPoint globalPos);

/// Asks for what differs and marks a section as the same as another one.
void askSameAs(Workbench& bench, std::size_t section, std::size_t as, QWidget* parent);

}  // namespace ear
