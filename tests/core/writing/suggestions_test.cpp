// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/writing/suggestions.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/phrases.h"

namespace ear {
namespace {

using testing::Each;
using testing::IsEmpty;
using testing::SizeIs;

PlayedNote heard(double start, double end, double midi) {
  return {.note = {{Seconds(start), Seconds(end)}, MidiPitch(midi), 0.8F}};
}

/// Beats of half a second from 1 s on.
class Suggestions : public testing::Test {
 protected:
  Suggestions() : phrase_(test::phrase("p", {})) {
    Grid grid;
    for (int i = 0; i < 40; ++i) grid.push_back({Seconds(1 + 0.5 * i), i % 4 == 0, false});
    map_ = TimeMap(grid, {});
    phrase_.span = {Seconds(1), Seconds(5)};
  }
  std::vector<Suggestion> suggested(const std::vector<PlayedNote>& notes, const SuggestionContext& context = {}) {
    return suggestionsFor(notes, PhraseTime(phrase_, map_), context);
  }
  TimeMap map_;
  Phrase phrase_;
};

TEST_F(Suggestions, StartsLieOnTheRasterAndLastUntilTheNext) {
  const auto found = suggested({heard(1.01, 1.24, 60), heard(1.255, 1.49, 62), heard(1.49, 2.4, 64)});
  ASSERT_THAT(found, SizeIs(3));
  EXPECT_EQ(found[0].note.at, Beats(0));
  EXPECT_EQ(found[0].note.length, Beats(1, 2));
  EXPECT_EQ(found[1].note.at, Beats(1, 2));
  EXPECT_EQ(found[2].note.at, Beats(1));
  EXPECT_NEAR(found[0].moved.value, -0.01, 1e-9) << "it is shown how far each one moved";
  EXPECT_EQ(found[0].note.origin, Origin::measured);
  EXPECT_NEAR(found[0].note.certainty, 0.8, 1e-6);
}

TEST_F(Suggestions, TheRecordingsOwnPitchDecidesTheFret) {
  SuggestionContext context;
  context.guitar.offset = Cents(40);
  for (const Suggestion& s : suggested({heard(1, 1.2, 60.4), heard(1.5, 1.7, 62.4)}, context))
    EXPECT_THAT(context.guitar.pitch(s.note.place), testing::AnyOf(60, 62));
}

TEST_F(Suggestions, ABendStruckAgainIsAlsoShownAsItsPitchFretted) {
  PlayedNote bent = heard(1, 1.5, 67), again = heard(1.5, 2, 69);
  bent.bend = HeardBend{{Seconds(1.1), Seconds(1.2)}, MidiPitch(67), MidiPitch(69)};
  again.bend = HeardBend{{Seconds(1.5), Seconds(1.5)}, MidiPitch(67), MidiPitch(69), true, true};
  const auto found = suggested({bent, again});
  ASSERT_THAT(found, SizeIs(2));
  EXPECT_THAT(found[0].note.readings, IsEmpty());
  ASSERT_THAT(found[1].note.readings, SizeIs(1));
  const NoteReading& other = found[1].note.readings.front();
  EXPECT_EQ(other.place.fret, found[1].note.place.fret + 2);
  EXPECT_FALSE(other.bend);
}

TEST_F(Suggestions, GesturesComeAlongAsMeasured) {
  PlayedNote bent = heard(1, 1.9, 67);
  bent.bend = HeardBend{{Seconds(1.1), Seconds(1.2)}, MidiPitch(67), MidiPitch(68.9), false, false, Seconds(1.6)};
  PlayedNote shaken = heard(2, 2.9, 69);
  shaken.vibrato = HeardVibrato{{Seconds(2.2), Seconds(2.9)}, Hertz(5.7), Cents(31)};
  PlayedNote slid = heard(3, 3.4, 71);
  slid.slide = HeardSlide{{Seconds(2.95), Seconds(3)}, MidiPitch(69)};
  const auto found = suggested({bent, shaken, slid});
  ASSERT_THAT(found, SizeIs(3));
  ASSERT_TRUE(found[0].note.bend);
  EXPECT_NEAR(found[0].note.bend->size->value, 190, 1e-6);
  EXPECT_TRUE(found[0].note.bend->released);
  EXPECT_EQ(found[1].note.vibrato->rate, Hertz(5.7));
  EXPECT_EQ(found[2].note.attack, Attack::slidInto);
  EXPECT_EQ(found[2].note.place.string, found[1].note.place.string);
  EXPECT_FALSE(found[2].note.slidFrom) << "it comes from the note before";
}

TEST_F(Suggestions, NothingHeardIsLostButWhatNoStringHas) {
  const auto found = suggested({heard(1, 1.2, 20), heard(1.5, 1.7, 60), heard(1.5, 1.7, 64), heard(2, 2.2, 62)});
  ASSERT_THAT(found, SizeIs(3));
  EXPECT_EQ(found[0].note.at, found[1].note.at) << "a double stop";
  EXPECT_NE(found[0].note.place.string, found[1].note.place.string);
  EXPECT_THAT(suggested({}), IsEmpty());
}

TEST_F(Suggestions, WithoutBeatsTheyAreTimedInSeconds) {
  map_ = {};
  const auto found = suggested({heard(1.03, 1.21, 60)});
  ASSERT_THAT(found, SizeIs(1));
  EXPECT_EQ(found[0].note.free, (TimeSpan{Seconds(1.03), Seconds(1.21)}));
  EXPECT_EQ(found[0].moved, Seconds(0));
}

}  // namespace
}  // namespace ear
