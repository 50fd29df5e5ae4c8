// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tab/music_glyphs.h"

#include <QFont>
#include <QFontDatabase>
#include <QGlyphRun>
#include <QPainterPath>
#include <QRawFont>
#include <cmath>

namespace ear {
namespace {

constexpr char16_t kWholeRest = 0xE4E3, kFlag8Down = 0xE241, kDownBow = 0xE610, kUpBow = 0xE612;

int stepsFrom(int part, int first) {
  int steps = 0;
  for (; first < part; first *= 2) ++steps;
  return steps;
}

/// The outline of a sign at a staff space of one pixel, its origin at 0.
QPainterPath outline(QChar glyph) {
  static const QRawFont font(QStringLiteral(":/music/Sebastian.otf"), 4.0, QFont::PreferNoHinting);
  const auto indexes = font.glyphIndexesForString(QString(glyph));
  return indexes.isEmpty() ? QPainterPath() : font.pathForGlyph(indexes.front());
}

}  // namespace

QChar MusicGlyphs::rest(int part) {
  return QChar(static_cast<char16_t>(kWholeRest + stepsFrom(part, 1)));
}

QChar MusicGlyphs::flagDown(int part) {
  return QChar(static_cast<char16_t>(kFlag8Down + 2 * stepsFrom(part, 8)));
}

QChar MusicGlyphs::stroke(bool down) {
  return QChar(down ? kDownBow : kUpBow);
}

void MusicGlyphs::draw(QPainter& p, QPointF at, QChar glyph, double space, Anchor anchor) {
  const QPainterPath path = outline(glyph);
  p.save();
  p.translate(at);
  p.scale(space, space);
  if (anchor == Anchor::centre) p.translate(-path.boundingRect().center());
  p.fillPath(path, p.pen().color());
  p.restore();
}

}  // namespace ear
