// SPDX-License-Identifier: GPL-3.0-or-later
// Whatever may be written into a phrase goes through the formats that keep strings and frets.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <map>
#include <random>

#include "core/exchange/jams.h"
#include "core/exchange/lilypond.h"
#include "core/exchange/midi_file.h"
#include "core/exchange/midi_tab.h"
#include "core/study/study_file.h"
#include "support/phrases.h"
#include "support/programs.h"
#include "support/sounds.h"

namespace ear {
namespace {

/// A piece of notes with any gestures; on each string one after the other.
TabPiece anyPiece(std::mt19937& random, int count) {
  TabPiece p{.title = "Anything", .name = "Guitar"};
  std::map<int, Beats> free;  // from where on a string is
  for (int id = 1; id <= count; ++id) {
    Note n = test::anyNote(random, id);
    n.free.reset(), n.readings.clear(), n.why.clear();
    n.origin = Origin::set, n.certainty = 1.0, n.voice = 0;
    n.at = std::max(free[n.place.string], Beats(std::abs(n.at.top()) % 40, 2));
    n.length = Beats(1 + static_cast<std::int64_t>(random() % 8), 4);
    free[n.place.string] = n.end();
    p.notes.push_back(n);
  }
  putInOrder(p.notes);
  Beats end(0);
  for (std::size_t i = 0; i < p.notes.size(); ++i)
    p.notes[i].id = static_cast<int>(i) + 1, end = std::max(end, p.notes[i].end());
  p.barLines = {Beats(0)};
  while (p.barLines.back() < end) p.barLines.push_back(p.barLines.back() + Beats(4));
  return p;
}

TEST(AnyNote, KeepsItsPlaceTimeAndBendThroughMidi) {
  std::mt19937 random(4);
  const auto folder = test::freshFolder("any-midi");
  for (int round = 0; round < 40; ++round) {
    const TabPiece p = anyPiece(random, 30);
    ASSERT_TRUE(writeMidi({p}, folder / "a.mid").ok());
    const auto midi = readMidi(folder / "a.mid");
    ASSERT_TRUE(midi.ok()) << midi.problem();
    const TabPiece back = tabPieceOf(midi->voices[0], p.guitar, midi->bar);
    ASSERT_EQ(back.notes.size(), p.notes.size()) << round;
    for (std::size_t i = 0; i < p.notes.size(); ++i) {
      const Note &is = back.notes[i], &was = p.notes[i];
      EXPECT_EQ(is.at, was.at) << round << " " << i;
      EXPECT_EQ(is.place, was.place) << round << " " << i;
      EXPECT_EQ(is.harmonic, was.harmonic) << round << " " << i;
      // A bend and a dive at once are one curve of the wheel; a click is over before it is bent.
      if (was.tone != Tone::dead && !was.dive && was.bend && was.bend->size && was.bend->size->value >= 4) {
        ASSERT_TRUE(is.bend.has_value()) << round << " " << i;
        EXPECT_NEAR(is.bend->size->value, was.bend->size->value, 0.2) << round << " " << i;
      }
    }
  }
}

TEST(AnyNote, ComesBackFromJamsAsItWas) {
  std::mt19937 random(5);
  auto loaded = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  ASSERT_TRUE(loaded.ok());
  const TakeLists lists{loaded->study, loaded->study.takes[0], nullptr};
  for (int round = 0; round < 20; ++round) {
    const TabPiece p = anyPiece(random, 40);
    const auto back = readJams(writeJams(lists, {p}));
    ASSERT_TRUE(back.ok()) << back.problem();
    std::vector<Note> read;
    for (const auto& n : back->notes) {
      ASSERT_TRUE(n.written.has_value());
      read.push_back(*n.written);
    }
    putInOrder(read);
    ASSERT_EQ(read.size(), p.notes.size());
    for (std::size_t i = 0; i < read.size(); ++i) {
      read[i].id = p.notes[i].id;
      EXPECT_EQ(read[i], p.notes[i]) << round << " " << i;
    }
  }
}

TEST(AnyNote, IsCompiledByLilyPondWithoutAWarning) {
  std::mt19937 random(6);
  const auto folder = test::freshFolder("any-lilypond");
  const TabPiece p = anyPiece(random, 60);
  std::ofstream(folder / "a.ly") << writeLilyPond({p});
  ASSERT_EQ(test::run("cd " + folder.string() + " && lilypond -s -dno-print-pages a.ly 2>errors"), 0)
      << test::contentOf(folder / "errors");
  EXPECT_THAT(test::contentOf(folder / "errors"), testing::Not(testing::HasSubstr("barcheck")));
  const auto midi = readMidi(folder / "a.midi");
  ASSERT_TRUE(midi.ok()) << midi.problem();
}

}  // namespace
}  // namespace ear
