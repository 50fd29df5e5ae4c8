// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <vector>

#include "app/tab/tab_painter.h"
#include "core/engraving/spacing.h"
#include "core/engraving/systems.h"
#include "core/sheet/sheet.h"

namespace ear {

/// A line of a written phrase as tab, filled to its width; what other guitars play with it stands under it, moment
/// under moment. All measures are distances of two strings.
class TabLine {
 public:
  /// @param from, to  what of the phrase stands in it
  /// @param last      line of its phrase, which may stay short
  TabLine(const SheetPhrase& phrase, Beats from, Beats to, double width, bool last, const Theme& theme);

  const TabScore& score() const { return staves_.front().part.score; }
  double xOf(Beats at) const;
  double height() const;
  /// @param unit  distance of two strings as painted
  void paint(QPainter& p, double unit, double top) const;

 private:
  /// One guitar's strings.
  struct Staff {
    TabSystem part;
    TabLook look;
    double height = 0.0;
  };
  static Staff staffOf(const SheetPhrase& phrase, Beats from, Beats to, const Theme& theme, bool first);

  std::vector<Staff> staves_;
  std::unique_ptr<Spacing> spacing_;
  double stretch_ = 1.0, right_ = 0.0;  // right end of the strings, behind their left end
};

/// A phrase broken into lines.
std::vector<std::shared_ptr<const TabLine>> tabLinesOf(const SheetPhrase& phrase, double width, const Theme& theme);

}  // namespace ear
