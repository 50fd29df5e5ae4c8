// SPDX-License-Identifier: GPL-3.0-or-later
#include "callback/trap.h"

#include <dlfcn.h>
#include <pthread.h>
#include <semaphore.h>

#include <cstddef>

namespace {

// Plain data, so that reading it never allocates.
thread_local bool armed = false;
thread_local int allocations = 0, locks = 0;

template <class F>
F real(const char* name) {
  return reinterpret_cast<F>(dlsym(RTLD_NEXT, name));
}

}  // namespace

// glibc's own entry points under other names (malloc/malloc.c): what the replacements go on to.
extern "C" {
void* __libc_malloc(std::size_t);
void* __libc_calloc(std::size_t, std::size_t);
void* __libc_realloc(void*, std::size_t);
void* __libc_memalign(std::size_t, std::size_t);
void __libc_free(void*);

void* malloc(std::size_t size) {
  if (armed) ++allocations;
  return __libc_malloc(size);
}
void* calloc(std::size_t count, std::size_t size) {
  if (armed) ++allocations;
  return __libc_calloc(count, size);
}
void* realloc(void* block, std::size_t size) {
  if (armed) ++allocations;
  return __libc_realloc(block, size);
}
void* memalign(std::size_t alignment, std::size_t size) {
  if (armed) ++allocations;
  return __libc_memalign(alignment, size);
}
void* aligned_alloc(std::size_t alignment, std::size_t size) {
  return memalign(alignment, size);
}
int posix_memalign(void** block, std::size_t alignment, std::size_t size) {
  *block = memalign(alignment, size);
  return *block == nullptr ? 12 : 0;  // ENOMEM
}
void free(void* block) {
  if (armed && block != nullptr) ++allocations;
  __libc_free(block);
}

int pthread_mutex_lock(pthread_mutex_t* mutex) {
  static const auto next = real<int (*)(pthread_mutex_t*)>("pthread_mutex_lock");
  if (armed) ++locks;
  return next(mutex);
}
int pthread_rwlock_rdlock(pthread_rwlock_t* lock) {
  static const auto next = real<int (*)(pthread_rwlock_t*)>("pthread_rwlock_rdlock");
  if (armed) ++locks;
  return next(lock);
}
int pthread_rwlock_wrlock(pthread_rwlock_t* lock) {
  static const auto next = real<int (*)(pthread_rwlock_t*)>("pthread_rwlock_wrlock");
  if (armed) ++locks;
  return next(lock);
}
int sem_wait(sem_t* semaphore) {
  static const auto next = real<int (*)(sem_t*)>("sem_wait");
  if (armed) ++locks;
  return next(semaphore);
}
}

namespace ear::test {

Trap::Trap() {
  allocations = locks = 0;
  armed = true;
}

Trap::~Trap() {
  armed = false;
}

Trap::Caught Trap::caught() const {
  return {allocations, locks};
}

}  // namespace ear::test
