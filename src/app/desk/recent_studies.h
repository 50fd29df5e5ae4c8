// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QStringList>

namespace ear {

/// Studies that were open last and are still there, the last one first.
QStringList recentStudies();
void rememberStudy(const QString& file);

}  // namespace ear
