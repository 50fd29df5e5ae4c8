// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/neck/string_choice.h"

#include <QSignalBlocker>

namespace ear {

StringChoice::StringChoice(QWidget* parent) : QComboBox(parent) {
  setAccessibleName(tr("Strings"));
  addItem(tr("all strings"), 0);
}

QString StringChoice::nameOf(int bits) const {
  QStringList names;
  for (int s = 0; s < names_.size(); ++s)
    if (bits >> s & 1) names << names_[s];
  return names.size() == 1 ? tr("string %1").arg(names.front()) : tr("strings %1").arg(names.join(" "));
}

void StringChoice::setStrings(const QStringList& names) {
  if (names == names_) return;
  const int before = names.size() == names_.size() ? currentData().toInt() : 0;
  names_ = names;
  const QSignalBlocker quiet(this);
  clear();
  own_ = -1;
  addItem(tr("all strings"), 0);
  for (const int wide : {2, 3})
    for (int low = static_cast<int>(names.size()) - wide; low >= 0; --low) {
      const int bits = ((1 << wide) - 1) << low;
      addItem(nameOf(bits), bits);
    }
  choose(before);
}

std::set<int> StringChoice::strings() const {
  std::set<int> chosen;
  const int bits = currentData().toInt();
  for (int s = 0; s < names_.size(); ++s)
    if (bits >> s & 1) chosen.insert(s);
  return chosen;
}

void StringChoice::choose(int bits) {
  if (bits == (1 << names_.size()) - 1) bits = 0;
  int row = findData(bits);
  if (row < 0 || row == own_) {
    if (own_ < 0) own_ = count(), addItem({}, bits);
    setItemText(own_, nameOf(bits));
    setItemData(own_, bits);
    row = own_;
  }
  setCurrentIndex(row);
}

void StringChoice::toggle(int string) {
  {
    const QSignalBlocker quiet(this);
    choose(currentData().toInt() ^ (1 << string));
  }
  emit activated(currentIndex());
}

}  // namespace ear
