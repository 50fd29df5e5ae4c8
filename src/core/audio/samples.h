// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <cstdint>
#include <span>
#include <utility>
#include <vector>

namespace ear {

/// Memory for samples. A block of kLongBlock bytes or more lies in a nameless file in $TMPDIR (else /var/tmp) that is
/// mapped into memory, so that a recording of hours need not stay resident. Where there is no room for that file the
/// block is ordinary memory, as long as half of what is free holds it.
class SampleMemory {
 public:
  static constexpr std::size_t kLongBlock = std::size_t{64} << 20;

  /// @throws std::bad_alloc
  static void* take(std::size_t bytes);
  static void giveBack(void* block, std::size_t bytes) noexcept;
};

template <class T>
struct SampleAllocator {
  using value_type = T;

  SampleAllocator() = default;
  template <class U>
  SampleAllocator(const SampleAllocator<U>&) {}

  T* allocate(std::size_t n) { return static_cast<T*>(SampleMemory::take(n * sizeof(T))); }
  void deallocate(T* block, std::size_t n) noexcept { SampleMemory::giveBack(block, n * sizeof(T)); }
  bool operator==(const SampleAllocator&) const { return true; }
};

/// One plane of a recording.
using Samples = std::vector<float, SampleAllocator<float>>;

/// Fills `to` with samples from `from` on, silence before the first and behind the last. Neither allocates nor waits.
void readPart(std::span<const float> samples, std::int64_t from, std::span<float> to);

/// The same, times a window of the same length.
void readWindow(std::span<const float> samples, std::int64_t from, std::span<const float> window, std::span<float> to);

/// Takes samples out of resident memory where they lie in a file, but those that somebody keeps resident; they are
/// read back when they are used next.
void evict(std::span<const float> samples);

/// Samples that are about to be played: they are read in where they lie in a file, and nobody's evict() touches them
/// while this lasts.
class Resident {
 public:
  Resident() = default;
  /// Waits for the disk.
  explicit Resident(std::span<const float> samples);
  ~Resident();
  Resident(Resident&& other) noexcept : samples_(std::exchange(other.samples_, {})) {}
  Resident& operator=(Resident&& other) noexcept {
    std::swap(samples_, other.samples_);
    return *this;
  }
  Resident(const Resident&) = delete;
  Resident& operator=(const Resident&) = delete;

 private:
  std::span<const float> samples_;
};

/// Lets go of samples behind somebody who goes through them in order, and of the rest in the end.
class Trail {
 public:
  explicit Trail(std::span<const float> samples) : samples_(samples) {}
  Trail(const Trail&) = delete;
  Trail& operator=(const Trail&) = delete;
  ~Trail() { evict(samples_); }

  /// Everything before `index` has been used.
  void reached(std::size_t index) {
    if (index < behind_ + kStride) return;
    evict(samples_.subspan(behind_, index - behind_));
    behind_ = index;
  }

 private:
  static constexpr std::size_t kStride = std::size_t{4} << 20;
  std::span<const float> samples_;
  std::size_t behind_ = 0;
};

}  // namespace ear
