// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QComboBox>
#include <set>

namespace ear {

/// Which strings of a guitar are meant: all of them, two or three that lie side by side, or any that are picked one by
/// one.
class StringChoice : public QComboBox {
  Q_OBJECT
 public:
  explicit StringChoice(QWidget* parent = nullptr);

  /// What is chosen stays where there are as many strings as before. @param names  the lowest first
  void setStrings(const QStringList& names);
  /// Empty: all of them.
  std::set<int> strings() const;
  /// Adds a string to the choice or takes it out; the last one taken out makes it all of them.
  void toggle(int string);

 private:
  void choose(int bits);
  QString nameOf(int bits) const;

  QStringList names_;
  int own_ = -1;  // row of a choice that is not among the ready ones
};

}  // namespace ear
