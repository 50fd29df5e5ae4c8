// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/neck/capo_choices.h"

#include <QComboBox>
#include <QObject>

namespace ear {

std::vector<std::pair<QString, std::uint16_t>> capoChoices() {
  return {{QObject::tr("on all strings"), std::uint16_t{0}},
          {QObject::tr("not on the lowest string"), std::uint16_t{0b111110}},
          {QObject::tr("not on the two lowest"), std::uint16_t{0b111100}},
          {QObject::tr("on three middle strings"), std::uint16_t{0b001110}}};
}

void fillCapoChoices(QComboBox* box) {
  box->setAccessibleName(QObject::tr("Strings under the capo"));
  for (const auto& [words, mask] : capoChoices()) box->addItem(words, mask);
}

void showCapoStrings(QComboBox* box, std::uint16_t strings) {
  if (box->findData(strings) < 0) {
    QStringList numbers;
    for (int s = 0; s < 16; ++s)
      if ((strings >> s & 1U) != 0) numbers << QString::number(s + 1);
    box->addItem(QObject::tr("on strings %1 from the lowest").arg(numbers.join(", ")), strings);
  }
  box->setCurrentIndex(box->findData(strings));
}

}  // namespace ear
