// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include <QString>

#include "app/paper/sheet_pages.h"
#include "core/base/outcome.h"

namespace ear {

/// The pages as a PDF whose text can be searched and copied, fonts embedded.
Outcome<Done> writeSheetPdf(const SheetPages& pages, const std::filesystem::path& file, const QString& title);
Outcome<Done> writeSheetText(const Sheet& sheet, const std::filesystem::path& file);
Outcome<Done> writeSheetHtml(const Sheet& sheet, const std::filesystem::path& file);

}  // namespace ear
