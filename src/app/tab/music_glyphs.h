// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>

namespace ear {

/// Signs of music from the program's own font (SMuFL 1.4 code points).
class MusicGlyphs {
 public:
  enum class Anchor { centre, left };

  static QChar rest(int part);      ///< of a whole note: 1, 2, 4 ... 64
  static QChar flagDown(int part);  ///< 8 ... 64, for stems that hang
  static QChar stroke(bool down);   ///< of a pick

  /// @param at     the middle of the sign, or its left end at the foot of a stem
  /// @param space  pixels of a staff space: a quarter of the font's size
  static void draw(QPainter& p, QPointF at, QChar glyph, double space, Anchor anchor = Anchor::centre);
};

}  // namespace ear
