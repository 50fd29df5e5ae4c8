#pragma once

#include <array>
#include <atomic>

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

}  // namespace ear
