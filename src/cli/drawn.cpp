// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawn.h"

#include <QGuiApplication>

#include "app/paper/paper_picture.h"
#include "app/paper/sheet_files.h"
#include "app/theme/words.h"

namespace ear {

std::vector<std::string> pictureNames() {
  std::vector<std::string> names;
  for (const PictureKind& kind : pictureKinds()) names.emplace_back(kind.name);
  return names;
}

Outcome<Done> draw(const SheetSource& source, const DrawnRequest& request) {
  // Letters have to be measured, for which there must be an application, though nothing is shown.
  qputenv("QT_QPA_PLATFORM", "offscreen");
  int count = 1;
  char name[] = "inner-ear-cli";
  char* arguments[] = {name, nullptr};
  const QGuiApplication application(count, arguments);
  Theme::loadFaces();
  const QString title = text(source.study.title);
  if (request.format == "pdf" || request.format == "html") {
    const Sheet sheet = layOutSheet(source);
    if (request.format == "html") return writeSheetHtml(sheet, request.output);
    const PageLook look{request.letter ? PageLook::Paper::letter : PageLook::Paper::a4};
    return writeSheetPdf(SheetPages(sheet, look), request.output, title);
  }
  const PictureKind& kind = *pictureKind(request.picture);
  const auto blocks = pictureBlocks(source, kind.what, request.part, request.phrase);
  if (blocks.empty()) return Problem{std::string(kind.none)};
  const PaperPicture picture(blocks);
  return request.format == "png" ? picture.writePng(request.output) : picture.writeSvg(request.output, title);
}

}  // namespace ear
