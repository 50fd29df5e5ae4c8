// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// Keeps what is played next in memory, where a recording lies on disk: a thread of its own waits for the disk, so that
/// the audio thread never has to. No call of it waits for the disk.
class ReadAhead {
 public:
  static constexpr Seconds kAhead{30.0};  ///< from the playhead, and from the start of each span that is expected

  /// @param position  of the playhead; called on a thread of its own, but never during change()
  explicit ReadAhead(std::function<Seconds()> position);
  ~ReadAhead();
  ReadAhead(const ReadAhead&) = delete;
  ReadAhead& operator=(const ReadAhead&) = delete;

  /// Another recording. @param load  makes it the one that `position` is of, and returns it, or null
  void change(const std::function<std::shared_ptr<const Recording>()>& load);
  /// Spans that may be played besides what follows the playhead: a loop, the turns of a program. Until the next call.
  void expect(std::vector<TimeSpan> spans);
  /// The playhead has jumped: looks at once instead of in a while.
  void hurry();

 private:
  struct Kept {
    TimeSpan span;
    std::vector<Resident> planes;
  };
  void run(const std::stop_token& stop);
  std::vector<TimeSpan> wantedParts() const;

  std::function<Seconds()> position_;
  std::mutex guard_;  // of the four that follow
  std::condition_variable_any wake_;
  bool hurried_ = false;
  std::shared_ptr<const Recording> recording_;
  std::vector<TimeSpan> expected_;
  std::jthread thread_;
};

}  // namespace ear
