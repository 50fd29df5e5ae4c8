// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/sheet_files.h"

#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>

#include "app/paper/paper_picture.h"
#include "core/study/durable_file.h"

namespace ear {

Outcome<Done> writeSheetPdf(const SheetPages& pages, const std::filesystem::path& file, const QString& title) {
  QByteArray bytes;
  {
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(pages.pageSize());
    writer.setPageMargins(QMarginsF(0, 0, 0, 0));
    writer.setResolution(kSheetResolution);
    writer.setTitle(title);
    writer.setCreator("Inner Ear");
    QPainter painter(&writer);
    for (int i = 0; i < pages.count(); ++i) {
      if (i > 0) writer.newPage();
      pages.paint(painter, i);
    }
  }
  return writeDurably(file, std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
}

Outcome<Done> writeSheetText(const Sheet& sheet, const std::filesystem::path& file) {
  return writeDurably(file, sheetText(sheet));
}

Outcome<Done> writeSheetHtml(const Sheet& sheet, const std::filesystem::path& file) {
  return writeDurably(file, sheetHtml(sheet, pageDrawing));
}

}  // namespace ear
