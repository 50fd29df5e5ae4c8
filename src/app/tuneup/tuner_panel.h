// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>
#include <QWidget>
#include <functional>
#include <memory>
#include <mutex>

#include "app/tuneup/tuner_dial.h"
#include "core/listening/tuning/tuner.h"
#include "core/theory/fretboard.h"
#include "devices/audio_input.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QVBoxLayout;

namespace ear {

class Workbench;

/// A tuner that measures what an input hears against the recording's own pitch.
class TunerPanel : public QWidget {
  Q_OBJECT
 public:
  /// @param target  the open strings to tune to, as they are now
  TunerPanel(Workbench& bench, std::unique_ptr<AudioInput> input, std::function<Guitar()> target,
             QWidget* parent = nullptr);
  ~TunerPanel() override;
  AudioInput& input() { return *input_; }
  /// The target has changed.
  void refresh();
  void listen(bool on);
  /// Looks at what the input gave; a timer calls it.
  void look();

 private:
  void makeSimulated(QVBoxLayout* column);
  /// "string 5, A2"
  QString nameOf(const Guitar& guitar, int string) const;
  void take(std::span<const float> block);

  Workbench& bench_;
  std::unique_ptr<AudioInput> input_;
  std::function<Guitar()> target_;
  std::mutex mutex_;  // between the input's thread and the window
  std::unique_ptr<Tuner> tuner_;
  QTimer timer_;
  TunerDial* dial_;
  QLabel *says_, *inputName_;
  QComboBox *only_, *plucked_ = nullptr;
  QDoubleSpinBox* detuned_ = nullptr;
};

}  // namespace ear
