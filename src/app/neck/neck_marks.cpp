// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/neck/neck_marks.h"

#include <algorithm>

#include "app/theme/words.h"
#include "core/theory/interval.h"

namespace ear {
namespace {

constexpr float kSounds = 0.3F;  // of the strongest note: an outside note that counts

template <class Visit>
void eachPlace(const Guitar& guitar, int frets, Visit visit) {
  for (int s = 0; s < guitar.strings(); ++s)
    for (int f = 0; f <= guitar.lastFret(s) && guitar.fromNut({s, f}) <= frets; ++f)
      visit(FretPosition{s, f}, PitchClass(guitar.pitch({s, f})));
}

}  // namespace

std::vector<NeckMark> scaleMarks(const Guitar& guitar, const std::optional<Scale>& scale, NeckLabels labels,
                                 Spelling spelling, int frets, const NeckRegion* region, const Chord* chord) {
  const auto tones = chord != nullptr ? notesOf(*chord) : std::vector<PitchClass>{};
  std::vector<NeckMark> marks;
  eachPlace(guitar, frets, [&](FretPosition place, PitchClass pc) {
    const bool tone = std::find(tones.begin(), tones.end(), pc) != tones.end();
    const bool inside = scale && scale->contains(pc);
    if (!inside && !tone) return;
    NeckMark mark{.place = place};
    mark.label = text(labels == NeckLabels::notes || !scale ? pitchClassName(pc, spelling)
                                                            : degreeName(pc.value - scale->tonic.value));
    mark.kind = scale && pc == scale->tonic ? NeckMark::Kind::root
                : tone                      ? (inside || !scale ? NeckMark::Kind::chord : NeckMark::Kind::outside)
                                            : NeckMark::Kind::inside;
    mark.faded =
        region != nullptr && std::find(region->places.begin(), region->places.end(), place) == region->places.end();
    marks.push_back(mark);
  });
  return marks;
}

std::vector<NeckMark> shapeMarks(const Guitar& guitar, const std::vector<FretPosition>& places, Spelling spelling) {
  std::vector<NeckMark> marks;
  for (const FretPosition place : places)
    marks.push_back({place, text(pitchClassName(PitchClass(guitar.pitch(place)), spelling)), NeckMark::Kind::root});
  return marks;
}

std::vector<NeckMark> evidenceMarks(const Guitar& guitar, const Scale& scale, const ChromaVector& chroma,
                                    Spelling spelling, int frets) {
  std::vector<NeckMark> marks;
  eachPlace(guitar, frets, [&](FretPosition place, PitchClass pc) {
    const float sounds = chroma[static_cast<std::size_t>(pc.value)];
    const bool inside = scale.contains(pc);
    if (!inside && sounds < kSounds) return;
    marks.push_back({place, text(pitchClassName(pc, spelling)),
                     pc == scale.tonic ? NeckMark::Kind::root
                     : inside          ? NeckMark::Kind::inside
                                       : NeckMark::Kind::outside,
                     inside && sounds < kSounds / 2});
  });
  return marks;
}

}  // namespace ear
