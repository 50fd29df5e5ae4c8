// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLabel>
#include <QString>
#include <string>
#include <string_view>

namespace ear {

inline QString text(const std::string& s) {
  return QString::fromStdString(s);
}
inline QString text(std::string_view s) {
  return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

/// "0.42" as "42 %".
QString percent(double share);

/// "1 bar", "8 bars".
QString counted(int number, const QString& one, const QString& many);

/// The first letter as a capital.
QString capitalised(const QString& words);

/// The first letter small, for the middle of a sentence.
QString lowered(const QString& words);

/// A heading over a part of a page or a window.
QLabel* caption(const QString& words, QWidget* parent);

}  // namespace ear
