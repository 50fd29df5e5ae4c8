// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPainter>
#include <QStringList>
#include <functional>
#include <map>
#include <set>

#include "app/theme/theme.h"
#include "core/engraving/tab_score.h"

namespace ear {

/// What a check says of a note, drawn at it: by shape as well as by colour.
enum class HeadCheck {
  none,
  heard,      ///< a dot
  notHeard,   ///< a broken ring
  other,      ///< a ring: something else is heard, or another bend
  impossible  ///< a wavy line: it cannot be played so
};

/// How a score is drawn this time.
struct TabLook {
  std::vector<std::pair<Beats, QString>> chords{};  ///< names above the strings
  std::vector<std::pair<Beats, QString>> scales{};  ///< a row of names under those
  double gap = 12.0;                                ///< pixels between two strings
  bool rhythm = true;                               ///< rhythm, picking and counts beneath the strings
  QStringList stringNames{};                        ///< the lowest first; empty: none are drawn
  QStringList barNames{};                           ///< of the score's bar lines; may be empty
  std::set<int> selected{};                         ///< ids of notes
  std::set<int> offered{};                          ///< notes that are not written yet
  std::map<int, HeadCheck> checks{};
  Theme theme = Theme::current();  ///< of the screen, or of paper
};

/// Draws a score of tab: on the bench and on paper spaced by note values, under the sound by time.
class TabPainter {
 public:
  /// @param score  must outlive this; so must what `xOf` looks at
  /// @param xOf    where a place in beats stands, in pixels
  TabPainter(const TabScore& score, std::function<double(Beats)> xOf, TabLook look);

  /// @param top   of the whole drawing; @param left, right  how far the strings reach
  void paint(QPainter& p, double left, double right, double top) const;

  double height() const;
  /// From the top of the drawing.
  double yOf(int string) const;
  double bottomOfStrings() const { return yOf(0); }
  /// The place of a head, from the top of the drawing.
  QRectF rectOf(const TabHead& head) const;

  static double heightFor(const TabScore& score, const TabLook& look);

 private:
  void paintStretches(QPainter& p) const;
  void paintEnding(QPainter& p, const TabStretch& stretch) const;
  void paintStrings(QPainter& p, double left, double right) const;
  void paintMark(QPainter& p, const TabMark& mark) const;
  void paintBend(QPainter& p, const TabMark& mark) const;
  void paintHead(QPainter& p, const TabHead& head) const;
  void paintCheck(QPainter& p, QRectF box, HeadCheck check) const;
  void paintRhythm(QPainter& p, const RhythmRow& row, double top) const;
  void paintPiece(QPainter& p, const RhythmRow& row, std::size_t i, double top, bool beamed) const;
  void paintTuplets(QPainter& p, const RhythmRow& row, double top) const;
  void paintFeet(QPainter& p) const;
  void wave(QPainter& p, double from, double to, double y, double high) const;
  double bendTop(double cents) const;

  const TabScore& score_;
  std::function<double(Beats)> xOf_;
  TabLook look_;
  double g_;      // the gap
  double above_;  // gaps over the highest string
};

}  // namespace ear
