// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "core/exchange/export.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace ear {

class Workbench;
struct PictureKind;
struct SheetSource;

/// What is known of the take on the desk, as files that other programs read.
class ExportWindow : public QDialog {
  Q_OBJECT
 public:
  explicit ExportWindow(Workbench& bench, QWidget* parent = nullptr);

  /// Writes the chosen kind of file. @return whether it was written
  bool write(const QString& file);

 private:
  void refresh();
  void chooseFile();
  /// Null where a picture is chosen.
  const ExportFormat* format() const;
  const PictureKind& picture() const;
  QString ending() const;
  std::vector<VoicePitch> followed() const;
  Outcome<std::vector<std::string>> draw(const SheetSource& source, const ExportChoice& choice,
                                         const QString& file) const;

  Workbench& bench_;
  QListWidget* formats_;
  QComboBox *part_, *phrase_, *picture_ = nullptr;
  QCheckBox* repeats_ = nullptr;
  QLabel* state_;
  QPushButton* write_;
};

}  // namespace ear
