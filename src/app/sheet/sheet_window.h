// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <memory>

#include "app/paper/sheet_pages.h"
#include "app/workbench/workbench.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QStackedWidget;
class QTimer;

namespace ear {

class SheetPreview;

/// The lesson sheet of the take on the desk as it prints, with what goes onto it and ways to keep it. It follows the
/// study while it is open.
class SheetWindow : public QDialog {
  Q_OBJECT
 public:
  explicit SheetWindow(Workbench& bench, QWidget* parent = nullptr);

  const SheetPages& pages() const { return *pages_; }
  const Sheet& sheet() const { return sheet_; }
  SheetPreview& preview() { return *preview_; }
  enum class File { pdf, html, text };
  /// Writes it; what was given away is a revision from then on. @return whether it was written
  bool keep(File kind, const QString& file);

 protected:
  void closeEvent(QCloseEvent* event) override;

 private:
  QWidget* makeChoices();
  QWidget* makeButtons();
  void readSettings();
  void keepSettings() const;
  void listPhrases();
  void listRevisions();
  void showChanges();
  void handOut();
  SheetChoice choice() const;
  void refresh();
  void save(File kind);
  void print();

  Workbench& bench_;
  Sheet sheet_;
  std::shared_ptr<const SheetPages> pages_;
  SheetPreview* preview_;
  QStackedWidget* shown_;
  QListWidget* changes_;
  QComboBox *extent_, *first_, *last_, *level_, *paper_, *since_;
  std::string whole_;  // all that is known, as text: what a revision is compared by
  QCheckBox* large_;
  QLineEdit *header_, *footer_;
  QLabel *state_, *zoom_;
  QTimer* later_;  // many edits in a row are laid out once
};

}  // namespace ear
