// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <memory>

#include "app/tuneup/tuner_panel.h"
#include "app/workbench/workbench.h"
#include "core/study/tune_up.h"

class QButtonGroup;
class QGridLayout;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ear {

/// What to tune each string of the guitar in hand to, tones to tune by, the playback moved instead, cautions, and a
/// tuner that measures against the recording's own pitch.
class TuneUpWindow : public QDialog {
  Q_OBJECT
 public:
  TuneUpWindow(Workbench& bench, std::unique_ptr<AudioInput> input, QWidget* parent = nullptr);
  TunerPanel& tuner() { return *tuner_; }

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  QWidget* makeStrings();
  void refresh();
  void fillStrings(const GuitarSetup& setup);
  void fillShifts(const GuitarSetup& setup);
  FittingGuitar target() const;
  Guitar targetGuitar() const;

  Workbench& bench_;
  TunerPanel* tuner_;
  QLabel *title_, *advice_, *cautions_;
  QWidget* table_ = nullptr;
  QVBoxLayout *tablePlace_, *shiftsPlace_;
  QWidget* shifts_ = nullptr;
  QButtonGroup* tuned_;
};

}  // namespace ear
