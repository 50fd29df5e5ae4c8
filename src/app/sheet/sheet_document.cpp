// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_document.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>

#include "app/workbench/paths.h"
#include "core/study/durable_file.h"

namespace ear {
namespace {

using Kind = SheetBlock::Kind;
constexpr double kMarginMm = 18.0;
constexpr int kResolution = 96;  // the document is laid out in these; the PDF scales it

double pixels(double mm) {
  return mm / 25.4 * kResolution;
}

QString escaped(const std::string& s) {
  return QString::fromStdString(s).toHtmlEscaped();
}

QString tableHtml(const SheetBlock& block, bool withHead) {
  QString html = "<table cellspacing='0' cellpadding='3' width='100%'>";
  for (std::size_t r = 0; r < block.rows.size(); ++r) {
    html += "<tr>";
    for (const auto& cell : block.rows[r])
      html += withHead && r == 0 ? "<td class='head'>" + escaped(cell) + "</td>" : "<td>" + escaped(cell) + "</td>";
    html += "</tr>";
  }
  return html + "</table>";
}

QString html(const Sheet& sheet) {
  QString body;
  bool facts = true;  // the first table has no head
  for (const auto& block : sheet) {
    const QString t = escaped(block.text);
    switch (block.kind) {
      case Kind::title:
        body += "<h1>" + t + "</h1>";
        break;
      case Kind::subtitle:
        body += "<p class='soft'>" + t + "</p>";
        break;
      case Kind::heading:
        body += "<h2>" + t + "</h2>";
        break;
      case Kind::paragraph:
        body += "<p>" + t + "</p>";
        break;
      case Kind::table:
        body += tableHtml(block, !facts);
        facts = false;
        break;
      case Kind::passage: {
        QString line;
        for (const auto& cell : block.rows.front()) line += (line.isEmpty() ? "" : ", ") + escaped(cell);
        body += "<h3>" + t + " <span class='soft'>" + line + "</span></h3>";
        break;
      }
      case Kind::monospace:
        body += "<pre>" + t + "</pre>";
        break;
    }
  }
  return body;
}

}  // namespace

std::unique_ptr<QTextDocument> typeset(const Sheet& sheet) {
  auto document = std::make_unique<QTextDocument>();
  QFont font("Inter");
  font.setPointSizeF(10);
  document->setDefaultFont(font);
  document->setDefaultStyleSheet(
      "body, td, p, h1, h2, h3, pre { color: #16191d; } h1 { font-size: 20pt; font-weight: 600; margin-bottom: 2px; }"
      "h2 { font-size: 12pt; font-weight: 600; margin-top: 16px; margin-bottom: 4px; } h3 { font-size: 10.5pt; "
      "font-weight: 600; margin-top: 10px; margin-bottom: 2px; }"
      ".soft { color: #5a626b; font-weight: 400; } .head { color: #5a626b; font-size: 9pt; } p { margin-top: 2px; "
      "margin-bottom: 4px; }"
      "pre { font-family: 'DejaVu Sans Mono', monospace; font-size: 9pt; }");
  document->setPageSize(QSizeF(pixels(210 - 2 * kMarginMm), pixels(297 - 2 * kMarginMm)));
  document->setDocumentMargin(0);
  document->setHtml(html(sheet));
  return document;
}

Outcome<Done> writeSheetPdf(const Sheet& sheet, const QString& file, const QString& title) {
  QByteArray bytes;
  {
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(kMarginMm, kMarginMm, kMarginMm, kMarginMm), QPageLayout::Millimeter);
    writer.setResolution(kResolution);
    writer.setTitle(title);
    writer.setCreator("Inner Ear");
    const auto document = typeset(sheet);
    document->documentLayout()->setPaintDevice(&writer);
    const QSizeF page(writer.width(), writer.height());
    document->setPageSize(page);
    QPainter painter(&writer);
    for (int i = 0; i < document->pageCount(); ++i) {
      if (i > 0) writer.newPage();
      painter.save();
      painter.translate(0, -i * page.height());
      document->drawContents(&painter, QRectF(0, i * page.height(), page.width(), page.height()));
      painter.restore();
    }
  }
  return writeDurably(toPath(file), std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
}

Outcome<Done> writeSheetText(const Sheet& sheet, const QString& file) {
  return writeDurably(toPath(file), sheetText(sheet));
}

}  // namespace ear
