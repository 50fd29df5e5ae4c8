// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme/theme.h"

namespace ear {

/// What pages and windows are put together from, in the theme's faces and measures.

/// A column with the margins of a window or of a page of the drawer.
QVBoxLayout* windowColumn(QWidget* window);
QVBoxLayout* pageColumn(QWidget* page);

/// A label that wraps its words. @param name  of the object; "soft" makes it stand back
QLabel* wrappingLabel(QWidget* parent, const char* name, Theme::Face face);

/// A button that Return does not press by itself.
QPushButton* plainButton(QWidget* parent, const char* name, const QString& title, const QString& tip);

/// Widgets side by side, from the left.
QHBoxLayout* rowOf(std::initializer_list<QWidget*> widgets);

}  // namespace ear
