// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QWidget>
#include <vector>

#include "core/theory/fretboard.h"

namespace ear {

/// A few frets of a neck, lying as in tab: the highest sounding string on top, low frets left. Clicking stops a string,
/// clicking at the nut opens or silences it; with the keyboard the arrows move a cursor and Return does what a click
/// does.
class NeckGrid : public QWidget {
  Q_OBJECT
 public:
  explicit NeckGrid(QWidget* parent = nullptr);

  /// @param names    of the strings, the lowest first
  /// @param fromNut  how frets are numbered where a capo is on
  void setGuitar(const Guitar& guitar, const QStringList& names, Spelling spelling, bool fromNut);
  /// Places by string; none for a silent one.
  void setPlaces(const std::vector<FretPosition>& places);
  std::vector<FretPosition> places() const;
  /// Where a place is drawn, for clicks of tests.
  QPoint pointOf(FretPosition place) const;

 signals:
  void changed();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  static constexpr int kSilent = -1;
  static constexpr int kFrets = 5;  // drawn at once
  int columns() const { return kFrets + 1; }
  QRectF cell(int string, int column) const;
  /// Under a capo on some of the strings only, columns are frets from the nut; else from the capo.
  bool partial() const { return guitar_.capo.fret > 0 && guitar_.capo.strings != 0; }
  /// The fret, as in FretPosition, at which a click stops a string.
  int fretAt(int string, int column) const;
  int columnOf(FretPosition place) const;
  void press(int string, int column);
  void scrollTo(const std::vector<int>& frets);

  Guitar guitar_;
  QStringList names_;
  bool fromNut_ = false;
  Spelling spelling_ = Spelling::sharps;
  std::vector<int> frets_;  // by string, kSilent where none sounds
  int first_ = 1;           // fret of the first column after the nut
  int cursorString_ = 0, cursorColumn_ = 0;
};

}  // namespace ear
