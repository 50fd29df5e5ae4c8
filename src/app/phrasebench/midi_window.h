// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <optional>

#include "core/exchange/midi_file.h"

class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace ear {

class Workbench;

bool isMidiFile(const QString& file);

/// The tracks of a MIDI file, one of which is offered as notes of the phrase in hand.
class MidiWindow : public QDialog {
  Q_OBJECT
 public:
  explicit MidiWindow(Workbench& bench, QWidget* parent = nullptr);

  void chooseFile();
  void read(const QString& file);

 private:
  void refresh();
  void offer();

  Workbench& bench_;
  QLabel *sentence_, *state_;
  QListWidget* voices_;
  QComboBox* begins_;
  QPushButton* offer_;
  std::optional<MidiFile> file_;
};

}  // namespace ear
