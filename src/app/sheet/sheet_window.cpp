// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_window.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMessageBox>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QScrollArea>
#include <QStandardPaths>
#include <QTextDocument>
#include <QVBoxLayout>

#include "app/sheet/sheet_document.h"
#include "app/theme/theme.h"

namespace ear {
namespace {

/// White pages one below the other.
class Paper : public QWidget {
 public:
  static constexpr int kMargin = 56, kGap = 16;
  Paper(const QTextDocument* document, QWidget* parent) : QWidget(parent), document_(document) {
    page_ = document->pageSize().toSize();
    setFixedSize(page_.width() + 2 * kMargin, document->pageCount() * (page_.height() + 2 * kMargin + kGap));
    setAccessibleName(tr("Sheet as it prints"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    for (int i = 0; i < document_->pageCount(); ++i) {
      const int top = i * (page_.height() + 2 * kMargin + kGap);
      p.fillRect(0, top, width(), page_.height() + 2 * kMargin, Qt::white);
      p.save();
      p.translate(kMargin, top + kMargin - i * page_.height());
      const_cast<QTextDocument*>(document_)->drawContents(&p,
                                                          QRectF(0, i * page_.height(), page_.width(), page_.height()));
      p.restore();
    }
  }

 private:
  const QTextDocument* document_;
  QSize page_;
};

}  // namespace

SheetWindow::SheetWindow(Sheet sheet, const QString& title, QWidget* parent)
    : QDialog(parent), sheet_(std::move(sheet)), title_(title), document_(typeset(sheet_)) {
  setWindowTitle(tr("Sheet: %1").arg(title));
  setObjectName("sheet-window");
  resize(860, 760);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  auto* row = new QHBoxLayout;
  row->setContentsMargins(16, 8, 16, 8);
  row->setSpacing(8);
  const auto button = [&](const QString& label, const QString& name, const QString& tip) {
    auto* b = new QPushButton(label, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setFixedHeight(Theme::kControl);
    b->setAutoDefault(false);
    row->addWidget(b);
    return b;
  };
  connect(button(tr("Save as PDF …"), "primary", tr("A PDF to print or send")), &QPushButton::clicked, this,
          [this] { save(true); });
  connect(button(tr("Save as text …"), "sheet-text", tr("Plain text with the same contents")), &QPushButton::clicked,
          this, [this] { save(false); });
  connect(button(tr("Print …"), "sheet-print", tr("Print on paper")), &QPushButton::clicked, this, &SheetWindow::print);
  row->addStretch();
  connect(button(tr("Close"), "sheet-close", tr("Back to the desk (Escape)")), &QPushButton::clicked, this,
          &QDialog::accept);
  column->addLayout(row);
  auto* scroll = new QScrollArea(this);
  scroll->setAlignment(Qt::AlignHCenter);
  scroll->setWidget(new Paper(document_.get(), scroll));
  column->addWidget(scroll, 1);
}

SheetWindow::~SheetWindow() = default;

void SheetWindow::save(bool pdf) {
  const QString ending = pdf ? ".pdf" : ".txt";
  QString name = title_;
  name.replace('/', '-');
  const QString folder = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
  QString file = QFileDialog::getSaveFileName(this, pdf ? tr("Save sheet as PDF") : tr("Save sheet as text"),
                                              folder + "/" + name + ending, "*" + ending);
  if (file.isEmpty()) return;
  if (!file.endsWith(ending)) file += ending;
  const auto done = pdf ? writeSheetPdf(sheet_, file, title_) : writeSheetText(sheet_, file);
  if (!done) QMessageBox::warning(this, tr("Sheet"), QString::fromStdString(done.problem()));
}

void SheetWindow::print() {
  QPrinter printer(QPrinter::HighResolution);
  printer.setDocName(title_);
  QPrintDialog dialog(&printer, this);
  if (dialog.exec() == QDialog::Accepted) document_->print(&printer);
}

}  // namespace ear
