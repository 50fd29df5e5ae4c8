// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "app/workbench/background_job.h"
#include "core/listening/harmony/note_hints.h"
#include "core/listening/melody/voices.h"
#include "core/listening/tuning/tuner.h"
#include "core/settings/isolation.h"
#include "devices/audio_input.h"

namespace ear {

class Workbench;

/// Helps the ear without running ahead of it: what sounds is told when it is asked for, or after a guess; the voice of
/// a passage is followed on request.
class EarKeeper : public QObject {
  Q_OBJECT
 public:
  explicit EarKeeper(Workbench& bench);
  ~EarKeeper() override;

  // --- what sounds now ---------------------------------------------------------------------------------------
  /// Shows the hints of the playhead while held. A peek while a guess is awaited gives it up.
  void peek(bool on);
  bool peeking() const { return peeking_; }
  /// Remembers the moment at the playhead and waits for a guess.
  void ask();
  bool asking() const { return asking_.has_value(); }
  /// Whether a note is among what sounds. The first guess of a moment goes into the tally.
  void guess(int midi);
  /// The same for a name without an octave, or a voice in another one.
  void guessClass(int pitchClass);
  /// What was asked for; empty while it is hidden.
  const std::vector<NoteHint>& hints() const { return shown_; }
  Seconds moment() const { return moment_; }
  /// What to say of the last guess; empty before one.
  const QString& verdict() const { return verdict_; }

  // --- singing or playing a guess ----------------------------------------------------------------------------
  /// Listens to the input until a note stands still. @param input  opened for this
  void listenTo(std::unique_ptr<AudioInput> input);
  /// The same for whoever wants notes that stand still, one after the other, until stopListening() or a long silence.
  void listenFor(std::unique_ptr<AudioInput> input, std::function<void(int midi)> heard);
  void stopListening();
  bool listeningToInput() const { return input_ != nullptr; }
  AudioInput* input() { return input_.get(); }

  // --- the voice of the passage ------------------------------------------------------------------------------
  static constexpr Seconds kLongest{45.0};
  void followVoice();
  void dropVoice();
  bool following() const { return job_.running(); }
  void stopFollowing() { job_.cancel(); }
  /// A voice that was followed, with the stretch and what of the sound it was followed in.
  struct Followed {
    TimeSpan span;
    Isolation isolation;
    std::shared_ptr<const HeardVoice> voice;  ///< times count from span.start
  };
  /// The voice of the passage in hand, or the last one without a passage; null where none was followed. Each passage
  /// keeps its own.
  const Followed* voice() const;

 signals:
  void changed();
  void followed(double share);

 private:
  void judge(bool right, const QString& near);
  void reveal();
  void open(std::unique_ptr<AudioInput> input);
  void readInput();
  QString names() const;

  Workbench& bench_;
  bool peeking_ = false, first_ = false;
  std::optional<Seconds> asking_;
  Seconds moment_;
  std::vector<NoteHint> hidden_, shown_;
  QString verdict_;
  std::unique_ptr<AudioInput> input_;
  std::mutex mutex_;  // between the input's thread and readInput()
  std::unique_ptr<Tuner> tuner_;
  QTimer poll_;
  std::optional<int> heard_;
  int steady_ = 0, patience_ = 0;
  std::function<void(int)> wanted_;  // set: every note that stands still; else the first one is a guess
  std::optional<int> told_;          // the last of them, until it has ended
  BackgroundJob job_;
  std::map<std::filesystem::path, std::vector<Followed>> followed_;  // by recording, the last one last
};

}  // namespace ear
