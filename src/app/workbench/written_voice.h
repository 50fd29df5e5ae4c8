// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

namespace ear {

class Workbench;

/// What is written, played on strings along the recording, at its own pitch and in its time.
class WrittenVoice : public QObject {
  Q_OBJECT
 public:
  enum class Mode {
    off,
    along,    ///< with the recording
    oneEach,  ///< the recording in the left ear, what is written in the right one
    alone,
  };
  explicit WrittenVoice(Workbench& bench);

  Mode mode() const { return mode_; }
  void setMode(Mode mode);
  /// On to the next mode.
  void step();

 signals:
  void changed();

 private:
  void refresh();

  Workbench& bench_;
  Mode mode_ = Mode::off;
};

}  // namespace ear
