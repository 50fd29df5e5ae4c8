// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <memory>

#include "app/workbench/workbench.h"

class QLabel;
class QCheckBox;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace ear {

/// What the hand does to a note, such as "bend 200 cents in 0.11 s, let down; vibrato 5.2 a second, 30 cents".
QString gestureWords(const PlayedNote& note, Cents offset, const NotationPreferences& schools, Spelling spelling);

/// The drawer's page for the ear: guess what sounds, see whether it was right, and follow the voice of the passage.
class HearPage : public QWidget {
  Q_OBJECT
 public:
  HearPage(Workbench& bench, std::function<std::unique_ptr<AudioInput>()> makeInput, QWidget* parent = nullptr);

 private:
  void takeTyped();
  void listNotes();
  void refresh();

  Workbench& bench_;
  std::function<std::unique_ptr<AudioInput>()> makeInput_;
  QLabel *sentence_, *verdict_, *tally_, *voiceState_;
  QPushButton *ask_, *reveal_, *sing_, *follow_, *drop_;
  QLineEdit* typed_;
  QTableWidget* notes_;
  QCheckBox* asides_;
  std::vector<std::size_t> rows_;  // notes of the voice that are listed
  bool withAsides_ = false;
  const HeardVoice* listed_ = nullptr;
  NotationPreferences named_;
};

}  // namespace ear
