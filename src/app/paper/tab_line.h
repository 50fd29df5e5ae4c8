// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <vector>

#include "app/tab/tab_painter.h"
#include "core/engraving/spacing.h"
#include "core/engraving/systems.h"
#include "core/sheet/sheet.h"

namespace ear {

/// A line of a written phrase as tab, filled to its width. All measures are distances of two strings.
class TabLine {
 public:
  /// @param last  line of its phrase, which may stay short
  TabLine(const SheetPhrase& phrase, TabSystem part, double width, bool last, const Theme& theme);

  const TabScore& score() const { return part_.score; }
  double xOf(Beats at) const;
  double height() const;
  /// @param unit  distance of two strings as painted
  void paint(QPainter& p, double unit, double top) const;

 private:
  TabSystem part_;
  Spacing spacing_;
  TabLook look_;
  double stretch_ = 1.0, right_ = 0.0;  // right end of the strings, behind their left end
};

/// A phrase broken into lines.
std::vector<std::shared_ptr<const TabLine>> tabLinesOf(const SheetPhrase& phrase, double width, const Theme& theme);

}  // namespace ear
