#pragma once

#include <string>

#include "core/units.h"

namespace ear {

/// 125.44 s -> "2:05"; from an hour on "1:02:05". Negative times count as 0.
std::string clockTime(Seconds time);

/// 125.44 s -> "2:05.4", the form in which sheets cite times.
std::string clockTenths(Seconds time);

/// A number with a fixed count of decimals and a dot, whatever the locale; never "-0.0".
std::string fixed(double value, int decimals);

/// A number with its sign: "+12", "-7.5", and "0" without one.
std::string withSign(double value, int decimals);

}  // namespace ear
