// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/study/study.h"

namespace ear::test {

/// A decision of a person, with no evidence to speak of.
template <class T = GuitarSetup>
Decision<T> decided(const T& value, Origin origin) {
  Decision<T> decision;
  decision.value = value;
  decision.origin = origin;
  decision.certainty = 1.0;
  return decision;
}

}  // namespace ear::test
