// SPDX-License-Identifier: GPL-3.0-or-later
#include "faults/faults.h"

#include <dlfcn.h>
#include <sys/types.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <new>

namespace {

bool armed = false;
ear::test::Fault kind{};
int left = 0, seen = 0;

bool strikes(ear::test::Fault fault) {
  if (!armed || fault != kind) return false;
  ++seen;
  return left-- == 0;
}

template <class F>
F real(const char* name) {
  return reinterpret_cast<F>(dlsym(RTLD_NEXT, name));
}

int fails(int error) {
  errno = error;
  return -1;
}

}  // namespace

namespace ear::test {

void arm(Fault fault, int calls) {
  kind = fault;
  left = calls;
  seen = 0;
  armed = true;
}

int disarm() {
  armed = false;
  return seen;
}

}  // namespace ear::test

using ear::test::Fault;

extern "C" {

ssize_t write(int fd, const void* data, size_t size) {
  static const auto next = real<ssize_t (*)(int, const void*, size_t)>("write");
  if (!strikes(Fault::write)) return next(fd, data, size);
  if (size > 1) [[maybe_unused]]
    const ssize_t half = next(fd, data, size / 2);  // as a disk does that fills up in the middle
  return fails(ENOSPC);
}

int fsync(int fd) {
  static const auto next = real<int (*)(int)>("fsync");
  return strikes(Fault::sync) ? fails(EIO) : next(fd);
}

int rename(const char* from, const char* to) {
  static const auto next = real<int (*)(const char*, const char*)>("rename");
  return strikes(Fault::rename) ? fails(EIO) : next(from, to);
}

int mkostemp(char* name, int flags) {
  static const auto next = real<int (*)(char*, int)>("mkostemp");
  return strikes(Fault::open) ? fails(EACCES) : next(name, flags);
}

int fchmod(int fd, mode_t mode) {
  static const auto next = real<int (*)(int, mode_t)>("fchmod");
  return strikes(Fault::change) ? fails(EPERM) : next(fd, mode);
}

int ftruncate(int fd, off_t size) {
  static const auto next = real<int (*)(int, off_t)>("ftruncate");
  return strikes(Fault::change) ? fails(EIO) : next(fd, size);
}

}  // extern "C"

void* operator new(std::size_t size) {
  void* block = strikes(Fault::allocation) ? nullptr : std::malloc(size);
  if (block == nullptr) throw std::bad_alloc();
  return block;
}
void* operator new[](std::size_t size) {
  return operator new(size);
}
void operator delete(void* block) noexcept {
  std::free(block);
}
void operator delete[](void* block) noexcept {
  std::free(block);
}
void operator delete(void* block, std::size_t) noexcept {
  std::free(block);
}
void operator delete[](void* block, std::size_t) noexcept {
  std::free(block);
}
