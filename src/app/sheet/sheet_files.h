// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

#include "app/sheet/sheet_pages.h"
#include "core/base/outcome.h"

namespace ear {

/// The pages as a PDF whose text can be searched and copied, fonts embedded.
Outcome<Done> writeSheetPdf(const SheetPages& pages, const QString& file, const QString& title);
Outcome<Done> writeSheetText(const Sheet& sheet, const QString& file);
Outcome<Done> writeSheetHtml(const Sheet& sheet, const QString& file);

}  // namespace ear
