#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "core/units.h"

namespace ear {

/// What of a recording is heard. All parts combine.
struct Isolation {
  enum class Channel { both, left, right, middle, sides };
  enum class Place { all, keep, remove };
  enum class Part { all, harmonic, percussive };

  Channel channel = Channel::both;
  Place place = Place::all;
  double centre = 0.0;  ///< of the place: -1 hard left ... 1 hard right
  double width = 0.2;   ///< from the place's centre to its edge, kLeastWidth ... 1
  Part part = Part::all;
  Hertz lowCut{};       ///< nothing below; 0: off
  Hertz highCut{};      ///< nothing above; 0: off
  Hertz focus{};        ///< middle of the one octave that is heard; 0: off
  bool bassUp = false;  ///< the bass alone, an octave up

  static constexpr double kLeastWidth = 0.05;
  static constexpr Hertz kLowest{30}, kHighest{12000};  ///< of cuts and focus

  bool operator==(const Isolation&) const = default;
  /// Everything is heard as it is.
  bool plain() const;
};

/// The same within the limits above; a low cut over the high cut gives way to it.
Isolation withinLimits(Isolation isolation);

/// Where a partial sits that has these complex amplitudes left and right: -1 hard left, 0 middle, 1 hard right. The
/// gain at which one channel, subtracted from the other, cancels it (azimuth discrimination: Barry, Lawlor & Coyle
/// 2004; here that gain is solved for instead of searched).
double placeOf(float leftReal, float leftImaginary, float rightReal, float rightImaginary);

/// How much of a place between left and right is kept, in [0, 1]; soft at the edges.
float placeGain(const Isolation& isolation, double place);

/// How much of a frequency is kept, in [0, 1]: cuts fall by 24 dB an octave, the focus is flat over its octave and gone
/// half an octave beyond.
float bandGain(const Isolation& isolation, Hertz frequency);

/// Weight of a frequency in loudness, as power: the K-weighting of ITU-R BS.1770-4, annex 1.
double loudnessWeight(Hertz frequency);

/// Energy between left and right, for a picture.
struct StereoPicture {
  static constexpr std::size_t kPlaces = 61;
  std::array<float, kPlaces> level{};  ///< by place from hard left to hard right; the strongest is 1
  float loudest = 0.0F;                ///< RMS of the window, full scale 1
};

/// Of about a tenth of a second around a frame.
/// @param left, right  samples of a whole recording
StereoPicture stereoPictureAt(std::span<const float> left, std::span<const float> right, std::int64_t frame);

}  // namespace ear
