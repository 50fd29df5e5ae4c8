// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <memory>

#include "core/sheet/sheet.h"

class QTextDocument;

namespace ear {

/// The lesson sheet as it prints, with ways to keep it.
class SheetWindow : public QDialog {
  Q_OBJECT
 public:
  SheetWindow(Sheet sheet, const QString& title, QWidget* parent = nullptr);
  ~SheetWindow() override;

 private:
  void save(bool pdf);
  void print();

  Sheet sheet_;
  QString title_;
  std::unique_ptr<QTextDocument> document_;
};

}  // namespace ear
