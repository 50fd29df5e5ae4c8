// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ear::test {

enum class Fault { write, sync, rename, open, change, allocation };

/// Makes the call of a kind that comes after `calls` others of it fail, once, as on a full or failing disk or without
/// memory; the others go on as ever. @return how many such calls there were while `work` ran
template <class Work>
int withFault(Fault fault, int calls, Work work);

void arm(Fault fault, int calls);
int disarm();

template <class Work>
int withFault(Fault fault, int calls, Work work) {
  arm(fault, calls);
  work();
  return disarm();
}

}  // namespace ear::test
