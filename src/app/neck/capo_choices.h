// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <cstdint>
#include <utility>
#include <vector>

class QComboBox;

namespace ear {

/// Strings under a capo that players use, with their bits as in Capo: all, all but the lowest one or two, or three in
/// the middle of six (common practice, no source).
std::vector<std::pair<QString, std::uint16_t>> capoChoices();

/// Lists them in a field.
void fillCapoChoices(QComboBox* box);
/// Chooses one, which is added where it is not among the usual ones.
void showCapoStrings(QComboBox* box, std::uint16_t strings);

}  // namespace ear
