// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <memory>
#include <string>

#include "app/workbench/background_job.h"
#include "core/audio/preview.h"
#include "core/audio/waveform_pyramid.h"
#include "core/playback/player.h"

namespace ear {

class Session;
class Transport;

/// Opens the recording of the take on the desk and has it listened to, in the background.
class Analysis : public QObject {
  Q_OBJECT
 public:
  Analysis(Session& session, Transport& transport, QObject* parent);
  ~Analysis() override;

  bool running() const { return job_.running() || look_.running(); }
  /// In words: what it is busy with.
  QString doing() const { return doing_; }
  void listenAgain();
  void cancel();
  /// A sentence when the recording cannot be used, else empty.
  QString problem() const { return problem_; }
  bool recordingMissing() const { return missing_; }
  /// The recording of the take was moved: here it is.
  void relocate(const QString& file);

  /// Of the recording, as well as it is known yet.
  Seconds duration() const;
  const WaveformPyramid& envelope() const { return envelope_; }
  /// The envelope, or what a preview of a long recording shows while it is being opened.
  const WaveformPyramid& overview() const { return envelope_.empty() ? preview_.envelope : envelope_; }

 signals:
  void soundChanged();  ///< another recording, or none
  void soundReady();    ///< after everybody has seen that the recording is there
  void changed();       ///< listening started, went on, ended
  void progressed(double share);

 private:
  void open();
  void drop();
  void receive(Track track, WaveformPyramid envelope, const std::string& hash);
  void adopt(const std::string& take, const QString& file, const std::string& hash);

  Session& session_;
  Transport& transport_;
  BackgroundJob job_;
  BackgroundJob look_;  // at a file that the recording may have moved to
  WaveformPyramid envelope_;
  Preview preview_;  // while a long recording is being decoded
  QString doing_, problem_;
  bool missing_ = false;
  std::string opened_;  // id of the take
};

}  // namespace ear
