#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/listening/spectra.h"

namespace ear {

/// How far a recording lies from A 440, modulo a semitone, with the evidence for it.
struct ReferencePitch {
  Cents offset;            ///< in (-50, 50]
  double certainty = 0.0;  ///< in [0, 1]

  /// Weight of stable partials by cents off the nearest tempered note at A 440: bin i is (i - 50, i - 49].
  std::array<float, 100> histogram{};

  struct Point {
    Seconds time;
    Cents offset;      ///< continuous with the neighbours, so it may leave (-50, 50]
    double certainty;  ///< in [0, 1]
  };
  /// Steady tones that agree on another pitch: an instrument that is out of tune with the rest.
  struct Group {
    Cents offset;
    double share = 0.0;  ///< of what steady tones weigh, in [0, 1]
    bool operator==(const Group&) const = default;
  };
  std::optional<Group> second{};  ///< the weaker of two groups; the offset is that of the stronger one
  std::vector<Point> curve;       ///< every 2 s over windows of 8 s; places without a stable pitch are left out

  Hertz a4() const;
};

/// Measures how far a recording lies from concert pitch (A4 = 440 Hz, ISO 16:1975).
///
/// Frequencies of partials that stay where they are for three frames are folded modulo one semitone; the
/// offset is the circular mean (Mardia & Jupp 2000, ch. 2; for tuning: Dressler & Streich 2007) around the
/// densest place, so that bends, vibrato and drums only add a floor. Fifth, seventh and further odd overtones, which
/// are no tempered notes, are left out, and low partials count less: stiff strings run sharp. Where the steady tones
/// fall into two groups that stand apart, the offset is that of the stronger one, not a mean that nobody played.
///
/// @return empty when nothing pitched and stable sounds
std::optional<ReferencePitch> measureReferencePitch(const TonalFrames& frames);

/// Cents folded into (-50, 50].
Cents foldToSemitone(Cents cents);

}  // namespace ear
