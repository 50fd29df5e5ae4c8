// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFont>
#include <QFontMetricsF>
#include <QRectF>
#include <QString>

#include "app/theme/theme.h"

namespace ear {

/// Pages are laid out and painted in fortieths of a millimetre, whatever they are drawn on: what is seen is what
/// prints.
inline constexpr double kPerMm = 40.0;
inline constexpr int kSheetResolution = 1016;  // of these to the inch
constexpr double mm(double length) {
  return length * kPerMm;
}

/// Sizes and colours of a sheet: one number makes all of it larger.
struct SheetStyle {
  double scale = 1.0;
  Theme theme = Theme::paper();  ///< or the screen's, where a lesson is given from it

  double of(double millimetres) const { return mm(millimetres) * scale; }
  double gap() const { return of(2.45); }  ///< between two strings of a tab

  QFont font(double millimetres, QFont::Weight weight = QFont::Normal) const {
    QFont f = Theme::font(Theme::Face::text);
    f.setPixelSize(std::max(1, static_cast<int>(of(millimetres))));
    f.setWeight(weight);
    return f;
  }
  QFont title() const { return font(8.2, QFont::DemiBold); }
  QFont heading() const { return font(4.3, QFont::DemiBold); }
  QFont name() const { return font(3.7, QFont::DemiBold); }
  QFont body() const { return font(3.4); }
  QFont strong() const { return font(3.4, QFont::DemiBold); }
  QFont small() const { return font(2.8); }
  QFont typed() const {
    QFont f = Theme::font(Theme::Face::mono);
    f.setPixelSize(static_cast<int>(of(2.8)));
    return f;
  }
};

}  // namespace ear
