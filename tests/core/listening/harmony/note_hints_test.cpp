// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/note_hints.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/sounds.h"

namespace ear {
namespace {

/// Strings struck together at half a second, so many cents sharp.
Recording chord(const std::vector<int>& notes, double cents = 0) {
  return test::soundOf(3.0, 44100, [=](double t) {
    const double since = t - 0.5;
    if (since < 0) return 0.0;
    double sum = 0;
    for (const int midi : notes)
      for (int k = 1; k <= 6; ++k)
        sum += std::exp(-since * (1 + 0.5 * k)) / k *
               std::sin(2 * std::numbers::pi * 440 * std::exp2((midi - 69) / 12.0 + cents / 1200) * k * since);
    return 0.12 * sum;
  });
}

bool has(const std::vector<NoteHint>& hints, int midi) {
  return std::any_of(hints.begin(), hints.end(), [midi](const NoteHint& h) { return h.midi == midi; });
}

TEST(NoteHints, NameWhatSounds) {
  for (const double cents : {0.0, 30.0}) {
    const auto hints = noteHintsAt(chord({48, 55, 64}, cents), Seconds(0.9), Cents(cents));
    for (const int midi : {48, 55, 64}) EXPECT_TRUE(has(hints, midi)) << midi << " at " << cents;
    ASSERT_FALSE(hints.empty());
    EXPECT_GT(hints.front().likely, 0.6);
    EXPECT_TRUE(std::is_sorted(hints.begin(), hints.end(), [](auto& a, auto& b) { return a.likely > b.likely; }));
  }
}

TEST(NoteHints, AreAsManyAsAGuitarHasStringsAtMost) {
  EXPECT_LE(noteHintsAt(chord({40, 45, 50, 55, 59, 64, 71, 76}), Seconds(0.9), Cents(0)).size(), 6U);
}

TEST(NoteHints, OneNoteIsOneNote) {
  const auto hints = noteHintsAt(chord({57}), Seconds(0.9), Cents(0));
  ASSERT_FALSE(hints.empty());
  EXPECT_EQ(hints.front().midi, 57);
  for (std::size_t i = 1; i < hints.size(); ++i) EXPECT_LT(hints[i].likely, 0.5) << hints[i].midi;
}

TEST(NoteHints, BeforeTheStrokeAndInSilenceThereIsNone) {
  EXPECT_TRUE(noteHintsAt(test::soundOf(2.0, 44100, [](double) { return 0.0; }), Seconds(1), Cents(0)).empty());
  EXPECT_TRUE(noteHintsAt(test::soundOf(0.1, 44100, [](double) { return 0.3; }), Seconds(0.05), Cents(0)).empty())
      << "too short to say";
}

}  // namespace
}  // namespace ear
