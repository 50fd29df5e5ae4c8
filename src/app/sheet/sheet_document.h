// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <QTextDocument>
#include <memory>

#include "core/base/outcome.h"
#include "core/sheet/sheet.h"

namespace ear {

/// The sheet set for A4 paper, black on white.
std::unique_ptr<QTextDocument> typeset(const Sheet& sheet);

Outcome<Done> writeSheetPdf(const Sheet& sheet, const QString& file, const QString& title);
Outcome<Done> writeSheetText(const Sheet& sheet, const QString& file);

}  // namespace ear
