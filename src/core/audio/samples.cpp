// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/samples.h"

#include <fcntl.h>
#include <sys/mman.h>
#include <unistd.h>

#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <fstream>
#include <map>
#include <mutex>
#include <new>
#include <string>
#include <utility>

namespace ear {
namespace {

/// The blocks that lie in files, by address.
class Mapped {
 public:
  void add(void* block, std::size_t bytes) {
    const std::scoped_lock lock(guard_);
    sizes_[address(block)] = bytes;
  }

  bool remove(void* block) {
    const std::scoped_lock lock(guard_);
    return sizes_.erase(address(block)) > 0;
  }

  bool holds(std::span<const float> samples) const {
    const std::scoped_lock lock(guard_);
    return holdsLocked(samples);
  }

  void keep(std::span<const float> samples) {
    const std::scoped_lock lock(guard_);
    resident_.push_back(samples);
  }

  void release(std::span<const float> samples) {
    const std::scoped_lock lock(guard_);
    const auto found = std::ranges::find_if(resident_, [&](std::span<const float> kept) {
      return kept.data() == samples.data() && kept.size() == samples.size();
    });
    if (found != resident_.end()) resident_.erase(found);
  }

  /// Calls `drop` with the parts of the samples that nobody keeps resident, where they lie in a file. Whoever wants to
  /// keep some waits until that is done.
  template <class Drop>
  void withoutResident(std::span<const float> samples, const Drop& drop) const {
    const std::scoped_lock lock(guard_);
    if (!holdsLocked(samples)) return;
    std::vector<std::span<const float>> kept;
    for (const auto span : resident_)
      if (span.data() < samples.data() + samples.size() && samples.data() < span.data() + span.size())
        kept.push_back(span);
    std::ranges::sort(kept, {}, [](std::span<const float> span) { return span.data(); });
    const float* at = samples.data();
    const float* const end = at + samples.size();
    for (const auto span : kept) {
      if (at < span.data()) drop(std::span(at, span.data()));
      at = std::clamp(span.data() + span.size(), at, end);
    }
    if (at < end) drop(std::span(at, end));
  }

 private:
  bool holdsLocked(std::span<const float> samples) const {
    auto after = sizes_.upper_bound(address(samples.data()));
    if (after == sizes_.begin()) return false;
    --after;
    return address(samples.data()) + samples.size_bytes() <= after->first + after->second;
  }

  static std::uintptr_t address(const void* p) { return reinterpret_cast<std::uintptr_t>(p); }

  mutable std::mutex guard_;
  std::map<std::uintptr_t, std::size_t> sizes_;
  std::vector<std::span<const float>> resident_;
};

Mapped& mapped() {
  static Mapped blocks;
  return blocks;
}

/// Nothing where no such file can be made, or it would not fit.
void* mapFile(std::size_t bytes) {
  const char* wanted = std::getenv("TMPDIR");
  std::string name = std::string(wanted != nullptr ? wanted : "/var/tmp") + "/inner-ear-XXXXXX";
  const int file = mkostemp(name.data(), O_CLOEXEC);
  if (file < 0) return nullptr;
  unlink(name.c_str());  // it goes when the mapping goes
  // With all of its room taken beforehand, a full disk cannot strike in the middle of a write.
  void* block = MAP_FAILED;
  if (fallocate(file, 0, 0, static_cast<off_t>(bytes)) == 0)
    block = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
  close(file);
  return block == MAP_FAILED ? nullptr : block;
}

/// What programs can still have, as the kernel estimates it (proc(5)).
std::size_t availableMemory() {
  std::ifstream in("/proc/meminfo");
  std::string name;
  for (std::size_t kilobytes = 0; in >> name >> kilobytes; in.ignore(64, '\n'))
    if (name == "MemAvailable:") return kilobytes * 1024;
  return static_cast<std::size_t>(sysconf(_SC_AVPHYS_PAGES)) * static_cast<std::size_t>(sysconf(_SC_PAGESIZE));
}

/// Whole pages inside of the samples, or all that they touch.
std::pair<void*, std::size_t> pages(std::span<const float> samples, bool touched) {
  static const auto page = static_cast<std::uintptr_t>(sysconf(_SC_PAGESIZE));
  auto from = reinterpret_cast<std::uintptr_t>(samples.data()), to = from + samples.size_bytes();
  if (touched) {
    from -= from % page;
  } else {
    from += (page - from % page) % page;
    to -= to % page;
  }
  // NOLINTNEXTLINE(performance-no-int-to-ptr): pages are counted as numbers
  return {reinterpret_cast<void*>(from), to > from ? to - from : 0};
}

}  // namespace

void* SampleMemory::take(std::size_t bytes) {
  if (bytes >= kLongBlock) {
    if (void* block = mapFile(bytes)) {
      mapped().add(block, bytes);
      return block;
    }
    // Memory is promised before it is there: a block that would not fit must be refused here, or the system ends
    // whichever program it likes when the pages are touched.
    if (bytes > availableMemory() / 2) throw std::bad_alloc();
  }
  return ::operator new(bytes);
}

void SampleMemory::giveBack(void* block, std::size_t bytes) noexcept {
  if (bytes >= kLongBlock && mapped().remove(block))
    munmap(block, bytes);
  else
    ::operator delete(block);
}

void readPart(std::span<const float> samples, std::int64_t from, std::span<float> to) {
  const auto size = static_cast<std::int64_t>(to.size());
  const std::int64_t first = std::clamp<std::int64_t>(-from, 0, size);
  const std::int64_t end = std::clamp<std::int64_t>(static_cast<std::int64_t>(samples.size()) - from, first, size);
  std::fill_n(to.begin(), first, 0.0F);
  if (end > first) std::copy_n(samples.begin() + from + first, end - first, to.begin() + first);
  std::fill(to.begin() + end, to.end(), 0.0F);
}

void readWindow(std::span<const float> samples, std::int64_t from, std::span<const float> window, std::span<float> to) {
  readPart(samples, from, to);
  for (std::size_t n = 0; n < to.size(); ++n) to[n] *= window[n];
}

void evict(std::span<const float> samples) {
  if (samples.empty()) return;
  mapped().withoutResident(samples, [](std::span<const float> part) {
    const auto [from, bytes] = pages(part, false);
    if (bytes > 0) madvise(from, bytes, MADV_DONTNEED);
  });
}

Resident::Resident(std::span<const float> samples) {
  if (samples.empty() || !mapped().holds(samples)) return;
  samples_ = samples;
  mapped().keep(samples);
  const auto [from, bytes] = pages(samples, true);
  madvise(from, bytes, MADV_WILLNEED);
  // Looked at page by page, each is there and mapped when the audio thread comes.
  static const auto page = static_cast<std::size_t>(sysconf(_SC_PAGESIZE)) / sizeof(float);
  volatile float seen = 0;
  for (std::size_t i = 0; i < samples.size(); i += page) seen = samples[i];
  (void)seen;
}

Resident::~Resident() {
  if (!samples_.empty()) mapped().release(samples_);
}

}  // namespace ear
