// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ear::test {

/// Counts what a real-time thread must not do, while it is alive: allocate, free, take a lock, wait. Of this thread
/// only. The program's own malloc(), free() and pthread calls are replaced for it (trap.cpp).
class Trap {
 public:
  Trap();
  ~Trap();
  Trap(const Trap&) = delete;
  Trap& operator=(const Trap&) = delete;

  struct Caught {
    int allocations = 0, locks = 0;
  };
  Caught caught() const;
};

}  // namespace ear::test
