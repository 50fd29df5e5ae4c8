// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <memory>
#include <vector>

namespace ear {

/// The newest value from one writing thread to one reading thread; neither ever waits or allocates (three slots, of
/// which the one in the middle changes hands).
template <class T>
class Mailbox {
 public:
  /// Writer: what the reader shall have next. A value that was not read yet is forgotten.
  void put(const T& value) {
    slots_[writing_] = value;
    writing_ = middle_.exchange(writing_ | kFresh) & kIndex;
  }

  /// Reader: the newest value; the same one until another is put. `T{}` before the first.
  const T& newest() {
    if (middle_.load() & kFresh) reading_ = middle_.exchange(reading_) & kIndex;
    return slots_[reading_];
  }

 private:
  static constexpr unsigned kIndex = 3, kFresh = 4;
  std::array<T, 3> slots_{};
  std::atomic<unsigned> middle_ = 1;
  unsigned writing_ = 0, reading_ = 2;
};

/// The newest of large values from one thread to one reading thread, by pointer: the writer keeps what the reader may
/// still look at, and frees what it no longer can.
template <class T>
class Handover {
 public:
  void give(std::unique_ptr<const T> value) {
    // What is in use stays, and all that came after it.
    const auto* inUse = inUse_.load();
    for (std::size_t i = 0; i < kept_.size(); ++i)
      if (kept_[i].get() == inUse) {
        kept_.erase(kept_.begin(), kept_.begin() + static_cast<std::ptrdiff_t>(i));
        break;
      }
    kept_.push_back(std::move(value));
    newest_ = kept_.back().get();
  }

  /// Reader: valid until its next call; null before the first value.
  const T* newest() {
    const T* value = newest_.load();
    inUse_ = value;
    return value;
  }

 private:
  std::vector<std::unique_ptr<const T>> kept_;
  std::atomic<const T*> newest_ = nullptr, inUse_ = nullptr;
};

}  // namespace ear
