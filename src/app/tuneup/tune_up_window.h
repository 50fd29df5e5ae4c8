// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTimer>
#include <memory>
#include <mutex>

#include "app/tuneup/tuner_dial.h"
#include "app/workbench/workbench.h"
#include "core/listening/tuning/tuner.h"
#include "core/study/tune_up.h"
#include "devices/audio_input.h"

class QButtonGroup;
class QComboBox;
class QDoubleSpinBox;
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
  ~TuneUpWindow() override;
  AudioInput& input() { return *input_; }
  /// Looks at what the input gave; a timer calls it.
  void lookAtTuner();

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  QWidget* makeStrings();
  QWidget* makeTuner();
  void refresh();
  void fillStrings(const GuitarSetup& setup);
  void fillShifts(const GuitarSetup& setup);
  FittingGuitar target() const;
  Guitar targetGuitar() const;
  void listen(bool on);
  void take(std::span<const float> block);

  Workbench& bench_;
  std::unique_ptr<AudioInput> input_;
  std::mutex mutex_;  // between the input's thread and the window
  std::unique_ptr<Tuner> tuner_;
  QTimer timer_;

  QLabel *title_, *advice_, *cautions_, *tunerSays_, *inputName_;
  QWidget* table_ = nullptr;
  QVBoxLayout *tablePlace_, *shiftsPlace_;
  QWidget* shifts_ = nullptr;
  QButtonGroup* tuned_;
  TunerDial* dial_;
  QComboBox *only_, *plucked_;
  QDoubleSpinBox* detuned_;
};

}  // namespace ear
