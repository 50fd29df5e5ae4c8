// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/theory/fretboard.h"

namespace ear {

/// Places as they are written where a studio counts frets from the nut although a capo is on. Open strings stay 0.
std::vector<FretPosition> writtenFromNut(const Guitar& guitar, std::span<const FretPosition> places);

/// The other way round: written from the nut, wanted as FretPosition has it. What lies behind the capo is the open
/// string.
std::vector<FretPosition> readFromNut(const Guitar& guitar, std::span<const FretPosition> written);

}  // namespace ear
