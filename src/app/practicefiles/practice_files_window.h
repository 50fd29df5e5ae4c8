// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <memory>
#include <vector>

#include "core/listening/results/sides.h"
#include "core/practice/practice_audio.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace ear {

class BackgroundJob;
class Workbench;

/// Phrases and passages of the take on the desk as sound files for a student, one or all in one go. Before anything is
/// given away somebody says, once for the study, that it may be.
class PracticeFilesWindow : public QDialog {
  Q_OBJECT
 public:
  explicit PracticeFilesWindow(Workbench& bench, QWidget* parent = nullptr);
  ~PracticeFilesWindow() override;

  /// Makes what is ticked. @param folder  that they go into
  void make(const QString& folder);
  bool working() const;

 private:
  struct Wanted {
    QString name;
    PracticeAudio audio;
  };
  QWidget* makeChoices();
  void list();
  void refresh();
  void chooseFolder();
  std::vector<double> speeds() const;  ///< empty where the line holds none
  std::vector<Wanted> wanted() const;
  bool addBacking(Wanted& wanted, const std::string& id) const;
  Side sideOf(const std::string& part) const;

  Workbench& bench_;
  QListWidget* items_;
  QLineEdit* speeds_;
  QSpinBox* times_;
  QCheckBox *count_, *written_, *allowed_;
  QComboBox *format_, *heard_;
  QProgressBar* bar_;
  QLabel* state_;
  QString outcome_;  // of what was made last
  QPushButton *make_, *cancel_;
  std::unique_ptr<BackgroundJob> job_;
};

}  // namespace ear
