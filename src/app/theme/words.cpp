// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/theme/words.h"

#include <cmath>

#include "app/theme/theme.h"
#include "core/base/quantities.h"

namespace ear {

QString percent(double share) {
  return text(percentWords(share));
}

QString counted(int number, const QString& one, const QString& many) {
  return QStringLiteral("%1 %2").arg(number).arg(number == 1 ? one : many);
}

QString capitalised(const QString& words) {
  return words.left(1).toUpper() + words.mid(1);
}

QString lowered(const QString& words) {
  return words.left(1).toLower() + words.mid(1);
}

QLabel* caption(const QString& words, QWidget* parent) {
  auto* label = new QLabel(words, parent);
  label->setFont(Theme::font(Theme::Face::strong));
  label->setContentsMargins(0, 8, 0, 0);
  return label;
}

}  // namespace ear
