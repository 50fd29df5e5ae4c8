// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>
#include <set>
#include <vector>

#include "core/theory/fretboard.h"

namespace ear {

/// A note drawn on the neck.
struct NeckMark {
  enum class Kind { root, inside, outside, chord };
  FretPosition place;
  QString label{};
  Kind kind = Kind::inside;
  bool faded = false;  ///< outside of the position in hand
};

/// A whole neck lying as in tab: the highest sounding string on top, the nut left, the capo where it sits. What is
/// drawn on it comes from outside; a click tells the place.
class NeckMap : public QWidget {
  Q_OBJECT
 public:
  explicit NeckMap(QWidget* parent = nullptr);

  /// @param names    of the strings, the lowest first
  /// @param fromNut  how the frets are numbered where a capo is on
  void setGuitar(const Guitar& guitar, const QStringList& names, bool fromNut, int frets);
  void setMarks(std::vector<NeckMark> marks);
  const std::vector<NeckMark>& marks() const { return marks_; }
  /// The stretch under the hand, in frets from the capo; nothing for the whole neck.
  void setHand(std::optional<std::pair<int, int>> frets);
  /// Strings that are lit; empty: all of them. Marks on the others stand back.
  void setLit(std::set<int> strings);
  QPoint pointOf(FretPosition place) const;
  QPoint pointOfName(int string) const;

 signals:
  void named(int string);  ///< its name was clicked
  void struck(FretPosition place);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  double rowHeight() const;
  double xOfFret(int fromNut) const;
  QRectF cell(int string, int fromNut) const;
  bool isLit(int string) const { return lit_.empty() || lit_.contains(string); }
  void paintWood(QPainter& p) const;
  void paintMark(QPainter& p, const NeckMark& mark) const;

  Guitar guitar_;
  QStringList names_;
  bool fromNut_ = false;
  int frets_ = 15;
  std::vector<NeckMark> marks_;
  std::optional<std::pair<int, int>> hand_;
  std::set<int> lit_;
};

}  // namespace ear
