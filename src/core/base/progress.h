// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <functional>

namespace ear {

/// Where long work reports to and learns that nobody wants it any more. Safe to use from several threads.
class Progress {
 public:
  Progress() = default;
  /// @param report  called with the share done in [0, 1], from the working thread
  explicit Progress(std::function<void(double)> report) : report_(std::move(report)) {}

  void cancel() { cancelled_ = true; }
  bool cancelled() const { return cancelled_; }

  void report(double share) const {
    if (report_) report_(share);
  }

 private:
  std::function<void(double)> report_;
  std::atomic<bool> cancelled_ = false;
};

}  // namespace ear
