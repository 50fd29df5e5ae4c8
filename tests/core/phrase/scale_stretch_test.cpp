// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/scale_stretch.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::IsEmpty;
using testing::SizeIs;

const PitchClass kA(9);

/// Places one after the other, half a beat each.
std::vector<Note> line(std::vector<FretPosition> places, Beats from = 0) {
  std::vector<Note> notes;
  for (const FretPosition p : places) {
    notes.push_back(note(static_cast<int>(notes.size()) + 1, p.string, p.fret, from));
    from += Beats(1, 2);
  }
  return notes;
}

// The first box of the minor pentatonic on A lies at fret 5; with its shape three frets lower it is the major
// pentatonic on A: common practice, no source.
const std::vector<FretPosition> kMinorAtFive = {{5, 8}, {5, 5}, {4, 8}, {4, 5}, {3, 7}, {3, 5}, {2, 7}, {2, 5}};
const std::vector<FretPosition> kMajorAtTwo = {{5, 5}, {5, 2}, {4, 5}, {4, 2}, {3, 4}, {3, 2}, {2, 4}, {2, 2}};

TEST(ScaleStretch, ABoxOfTheMinorPentatonicIsToldByItsNotes) {
  const ScaleUse use = scalesUsed(Guitar{}, line(kMinorAtFive), kA);
  ASSERT_THAT(use.stretches, SizeIs(1));
  EXPECT_EQ(use.stretches[0].scale, (Scale{kA, ScaleKind::minorPentatonic}));
  EXPECT_EQ(use.stretches[0].box, 1);
  EXPECT_EQ(use.inside, 8);
  EXPECT_EQ(use.of, 8);
}

TEST(ScaleStretch, TheSwitchFromMinorToMajorPentatonicIsFoundWhereItHappens) {
  auto notes = line(kMinorAtFive);
  for (Note& n : line(kMajorAtTwo, Beats(4))) notes.push_back(n);
  const ScaleUse use = scalesUsed(Guitar{}, notes, kA);
  ASSERT_THAT(use.stretches, SizeIs(2));
  EXPECT_EQ(use.stretches[1].scale, (Scale{kA, ScaleKind::majorPentatonic}));
  EXPECT_EQ(use.stretches[1].from, Beats(4));
  EXPECT_EQ(regionOf(Guitar{}, use.stretches[1].scale, use.stretches[1].box, line(kMajorAtTwo))->firstFinger, 2);
}

TEST(ScaleStretch, ABlueNoteAndABendDoNotMakeAnotherScale) {
  auto notes = line({{5, 5}, {4, 8}, {4, 5}, {3, 8}, {3, 7}, {3, 5}, {2, 7}});  // with the flat fifth
  notes[1].bend = Bend{Cents(200)};                                             // G up to A
  const ScaleUse use = scalesUsed(Guitar{}, notes, kA);
  ASSERT_THAT(use.stretches, SizeIs(1));
  EXPECT_EQ(use.stretches[0].scale.kind, ScaleKind::minorPentatonic);
  EXPECT_EQ(use.inside, 6) << "all but the flat fifth";
}

TEST(ScaleStretch, AnOctaveUpItIsTheSameBox) {
  auto high = kMinorAtFive;
  for (FretPosition& p : high) p.fret += 12;
  const ScaleUse use = scalesUsed(Guitar{}, line(high), kA);
  ASSERT_THAT(use.stretches, SizeIs(1));
  EXPECT_EQ(use.stretches[0].box, 1);
  EXPECT_EQ(regionOf(Guitar{}, use.stretches[0].scale, 1, line(high))->firstFinger, 17);
  const auto places = placesInBoxes(Guitar{}, use.stretches);
  for (const FretPosition p : high) EXPECT_NE(std::find(places.begin(), places.end(), p), places.end());
  EXPECT_FALSE(regionOf(Guitar{}, use.stretches[0].scale, 9, line(high)).has_value());
}

TEST(ScaleStretch, ThreeNotesSayNothing) {
  EXPECT_THAT(scalesUsed(Guitar{}, line({{5, 5}, {5, 8}, {4, 5}}), kA).stretches, IsEmpty());
}

TEST(ScaleStretch, ThePlaceDecidesWhichIsMeant) {
  const std::vector<ScaleStretch> stretches = {{Beats(0), {kA, ScaleKind::minorPentatonic}, 1},
                                               {Beats(4), {kA, ScaleKind::majorPentatonic}, 0}};
  EXPECT_EQ(stretchAt({}, Beats(1)), nullptr);
  EXPECT_EQ(stretchAt(stretches, Beats(-1)), &stretches[0]) << "also of a pickup";
  EXPECT_EQ(stretchAt(stretches, Beats(7, 2)), &stretches[0]);
  EXPECT_EQ(stretchAt(stretches, Beats(4)), &stretches[1]);
}

}  // namespace
}  // namespace ear
