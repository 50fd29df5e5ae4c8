// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <functional>
#include <vector>

#include "app/paper/sheet_style.h"
#include "core/sheet/sheet.h"

namespace ear {

/// A strip of a sheet that is never torn, as wide as the page's text.
struct SheetItem {
  double height = 0.0;
  std::function<void(QPainter&, double top)> paint;  ///< its left edge is at 0
  double before = 0.0;                               ///< empty space over it, but for the top of a page
  bool staysWithNext = false;                        ///< no page ends behind it
};

/// A sheet's blocks as strips from the top.
/// @param width  of the text
std::vector<SheetItem> itemsOf(const Sheet& sheet, const SheetStyle& style, double width);

std::vector<SheetItem> itemsOf(const SheetBlock& block, const SheetStyle& style, double width);

// Those that are pictures.
std::vector<SheetItem> itemsOf(const SheetTuning& block, const SheetStyle& style, double width);
std::vector<SheetItem> itemsOf(const SheetChart& block, const SheetStyle& style, double width);
std::vector<SheetItem> itemsOf(const SheetBoxes& block, const SheetStyle& style, double width);
std::vector<SheetItem> itemsOf(const SheetNeck& block, const SheetStyle& style, double width);
std::vector<SheetItem> itemsOf(const SheetPhrase& block, const SheetStyle& style, double width);

/// The lines of a phrase's tab alone.
std::vector<SheetItem> tabItems(const SheetPhrase& block, const SheetStyle& style, double width);

/// Words that are broken into lines where they do not fit.
SheetItem wordsItem(const QString& words, const QFont& font, const QColor& ink, double width);

}  // namespace ear
