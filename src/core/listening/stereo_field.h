#pragma once

#include <array>

#include "core/listening/spectra.h"

namespace ear {

enum class Side { left, centre, right };
inline constexpr std::array kAllSides = {Side::left, Side::centre, Side::right};

/// Where sound sits in a stretch of time.
struct SidePoint {
  Seconds time;                  ///< middle of the stretch
  std::array<float, 3> level{};  ///< of the partials, by Side; 1 is the strongest of the recording
};

/// What sounds where between left and right.
struct StereoField {
  std::array<TonalFrames, 3> frames;  ///< by Side; what sits in the middle is taken out of the outer ones
  std::array<double, 3> share{};      ///< of the partials' amplitude, by Side; they sum to 1

  const TonalFrames& at(Side side) const { return frames[static_cast<std::size_t>(side)]; }
  double shareOf(Side side) const { return share[static_cast<std::size_t>(side)]; }
};

/// Sorts partials by where they sit: a partial that both channels have is placed by its two amplitudes, and what is as
/// loud on the other side cancels (after azimuth discrimination, Barry, Lawlor & Coyle 2004).
/// @param left, right  frames of the two channels, of equal count
StereoField splitStereo(const TonalFrames& left, const TonalFrames& right);

/// How loud each side is in stretches of `step`, for a picture of the whole recording.
std::vector<SidePoint> sidesOverTime(const StereoField& field, Seconds step);

/// Something comes in on a side after having been quiet there.
struct SideEntry {
  Seconds time;
  Side side;
};
/// On the left and the right: four seconds under a sixth of the side's own strongest level, then four over a third.
std::vector<SideEntry> sideEntries(const std::vector<SidePoint>& points);

}  // namespace ear
