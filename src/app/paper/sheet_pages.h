// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPageSize>

#include "app/paper/sheet_item.h"

namespace ear {

struct PageLook {
  enum class Paper { a4, letter };
  Paper paper = Paper::a4;
  bool large = false;  ///< for eyes that need it, and for a music stand
  bool operator==(const PageLook&) const = default;
};

/// A sheet on pages, ready to be drawn on a screen, on paper or into a PDF alike.
class SheetPages {
 public:
  /// @param onOnePage  what does not fit is set smaller, and what still does not is left out
  SheetPages(Sheet sheet, const PageLook& look, bool onOnePage = false);

  int count() const { return static_cast<int>(pages_.size()); }
  QSizeF size() const;  ///< in fortieths of a millimetre
  QPageSize pageSize() const;
  bool leftOut() const { return leftOut_; }  ///< the page could not hold all
  /// Draws a page; a unit of the painter is a fortieth of a millimetre.
  void paint(QPainter& p, int page) const;
  /// Which strips stand on a page, by number, and how far from its top.
  using Placed = std::pair<std::size_t, double>;
  const std::vector<Placed>& placedOn(int page) const { return pages_[static_cast<std::size_t>(page)]; }

 private:
  void layOut();

  Sheet sheet_;
  PageLook look_;
  SheetStyle style_;
  std::vector<SheetItem> items_;
  std::vector<std::vector<Placed>> pages_;
  bool leftOut_ = false;
};

}  // namespace ear
