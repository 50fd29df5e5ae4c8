// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/midi_file.h"

#include <glib.h>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <smf.h>

#include <fstream>
#include <memory>
#include <random>

#include "core/writing/file_notes.h"
#include "spoilt.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::SizeIs;

std::vector<std::byte> bytes(std::initializer_list<int> values) {
  std::vector<std::byte> list;
  for (const int v : values) list.push_back(static_cast<std::byte>(v));
  return list;
}

/// A file that another library writes: the given events of each track, with their ticks at 480 to the quarter.
struct Event {
  int tick, status, first, second;
};
std::vector<std::byte> written(const std::vector<std::vector<Event>>& tracks) {
  const std::unique_ptr<smf_t, decltype(&smf_delete)> smf(smf_new(), smf_delete);
  EXPECT_EQ(smf_set_ppqn(smf.get(), 480), 0);
  for (const auto& events : tracks) {
    smf_track_t* track = smf_track_new();
    smf_add_track(smf.get(), track);
    for (const Event& e : events)
      smf_track_add_event_pulses(track, smf_event_new_from_bytes(e.status, e.first, e.second), e.tick);
  }
  const auto file = test::freshFolder("midi") / "a.mid";
  EXPECT_EQ(smf_save(smf.get(), file.c_str()), 0);
  std::ifstream in(file, std::ios::binary);
  const std::string text(std::istreambuf_iterator<char>(in), {});
  const auto raw = std::as_bytes(std::span(text));
  return {raw.begin(), raw.end()};
}

/// Notes of a track one after the other, each of a quarter less some ticks, from a tick on.
std::vector<Event> quarters(std::initializer_list<int> notes, int from = 0, int channel = 0) {
  std::vector<Event> events;
  for (const int n : notes) {
    events.push_back({from, 0x90 | channel, n, 90});
    events.push_back({from + 440, 0x80 | channel, n, 0});
    from += 480;
  }
  return events;
}

// The example of type 0 in the standard (RP-001, appendix 1), from memory: an arpeggio on three channels with running
// status, at 96 ticks to the quarter.
TEST(MidiFile, TheExampleOfTheStandardIsRead) {
  const auto file = readMidi(
      bytes({0x4D, 0x54, 0x68, 0x64, 0,    0,    0,    6,    0,    0,    0,    1,    0,    0x60, 0x4D, 0x54, 0x72,
             0x6B, 0,    0,    0,    0x3B, 0,    0xFF, 0x58, 4,    4,    2,    0x18, 8,    0,    0xFF, 0x51, 3,
             7,    0xA1, 0x20, 0,    0xC0, 5,    0,    0xC1, 0x2E, 0,    0xC2, 0x46, 0,    0x92, 0x30, 0x60, 0,
             0x3C, 0x60, 0x60, 0x91, 0x43, 0x40, 0x60, 0x90, 0x4C, 0x20, 0x81, 0x40, 0x82, 0x30, 0x40, 0,    0x3C,
             0x40, 0,    0x81, 0x43, 0x40, 0,    0x80, 0x4C, 0x40, 0,    0xFF, 0x2F, 0}));
  ASSERT_TRUE(file.ok()) << file.problem();
  EXPECT_EQ(file->bar, Rational(4));
  ASSERT_THAT(file->voices, SizeIs(3));
  EXPECT_EQ(file->voices[0].name, "channel 1");
  EXPECT_THAT(file->voices[0].notes, ElementsAre(MidiNote{2, 2, 76, 0, {}, {}, {}}));
  EXPECT_THAT(file->voices[1].notes, ElementsAre(MidiNote{1, 3, 67, 1, {}, {}, {}}));
  EXPECT_THAT(file->voices[2].notes, ElementsAre(MidiNote{0, 4, 48, 2, {}, {}, {}}, MidiNote{0, 4, 60, 2, {}, {}, {}}));
}

TEST(MidiFile, TracksOfAnotherWriterAreVoicesAndThoseWithoutNotesAreLeftOut) {
  const auto file = readMidi(written({{{0, 0xB0, 7, 100}}, quarters({60, 62}), quarters({40}, 960, 5)}));
  ASSERT_TRUE(file.ok()) << file.problem();
  ASSERT_THAT(file->voices, SizeIs(2));
  EXPECT_EQ(file->voices[0].name, "track 2");
  EXPECT_EQ(file->voices[0].notes[1], (MidiNote{1, Rational(440, 480), 62, 0, {}, {}, {}}));
  EXPECT_EQ(file->voices[1].notes[0], (MidiNote{2, Rational(440, 480), 40, 5, {}, {}, {}}));
}

TEST(MidiFile, TheWheelIsReadInTheRangeTheFileDeclares) {
  const auto up = [](int tick, int cents, int range) {
    const int value = std::min(16383, 8192 + 8192 * cents / range);
    return Event{tick, 0xE0, value & 0x7F, value >> 7};
  };
  std::vector<Event> usual = {{0, 0x90, 60, 90}, up(100, 200, 200), up(300, 0, 200), {400, 0x80, 60, 0}};
  const auto plain = readMidi(written({usual}));
  EXPECT_NEAR(plain->voices[0].notes[0].most.value, 200, 1);
  EXPECT_NEAR(plain->voices[0].notes[0].after.value, 0, 1);
  std::vector<Event> wide = {{0, 0xB0, 101, 0}, {0, 0xB0, 100, 0}, {0, 0xB0, 6, 12},
                             up(0, 300, 1200),  {0, 0x90, 60, 90}, {400, 0x80, 60, 0}};
  const auto declared = readMidi(written({wide}));
  EXPECT_NEAR(declared->voices[0].notes[0].before.value, 300, 1) << "bent before it is struck";
}

TEST(MidiFile, ANoteStruckAgainEndsAndOneThatIsNeverLetGoLasts) {
  const auto file = readMidi(
      written({{{0, 0x90, 60, 90}, {240, 0x90, 60, 90}, {480, 0x90, 64, 0}, {960, 0x90, 62, 9}, {1200, 0x80, 62, 0}}}));
  ASSERT_TRUE(file.ok());
  ASSERT_THAT(file->voices[0].notes, SizeIs(3));
  EXPECT_EQ(file->voices[0].notes[0].length, Rational(1, 2));
  EXPECT_EQ(file->voices[0].notes[1].length, Rational(2)) << "to the end";
}

TEST(MidiFile, WhatIsNoneIsRefusedWithAReason) {
  const auto why = [](const std::vector<std::byte>& b) { return readMidi(b).problem(); };
  EXPECT_THAT(why({}), HasSubstr("no MIDI file"));
  EXPECT_THAT(why(bytes({'R', 'I', 'F', 'F', 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0})), HasSubstr("no MIDI file"));
  auto file = written({quarters({60, 62})});
  auto frames = file, several = file, cut = file;
  frames[12] = std::byte{0xE7};
  EXPECT_THAT(why(frames), HasSubstr("film frames"));
  several[9] = std::byte{2};
  EXPECT_THAT(why(several), HasSubstr("several pieces"));
  cut.resize(cut.size() - 9);
  EXPECT_THAT(why(cut), HasSubstr("cut off or damaged"));
  EXPECT_THAT(why(written({{{0, 0xB0, 7, 100}}})), HasSubstr("no notes"));
  EXPECT_THAT(readMidi(std::filesystem::path("/no/such.mid")).problem(), HasSubstr("cannot be opened"));
}

TEST(MidiFile, TextsStandBesideTheNotesOfTheirMomentAndStayFew) {
  const auto textEvents = [](int times) {
    std::vector<std::byte> track;
    for (int i = 0; i < times; ++i)
      for (const std::byte b : bytes({0, 0xFF, 0x01, 3, 'l', 'a', '!'})) track.push_back(b);
    for (const std::byte b :
         bytes({0, 0x90, 60, 90, 0x60, 0x80, 60, 0, 0, 0x90, 62, 90, 0x60, 0x80, 62, 0, 0, 0xFF, 0x2F, 0}))
      track.push_back(b);
    std::vector<std::byte> file = bytes({'M', 'T', 'h', 'd', 0, 0, 0, 6, 0, 0, 0, 1, 0, 0x60, 'M', 'T', 'r', 'k'});
    const auto size = track.size();
    for (const int shift : {24, 16, 8, 0}) file.push_back(static_cast<std::byte>(size >> shift & 0xFFU));
    file.insert(file.end(), track.begin(), track.end());
    return file;
  };
  const auto two = readMidi(textEvents(2));
  ASSERT_TRUE(two.ok()) << two.problem();
  EXPECT_EQ(two->voices[0].notes[0].words, "la!\nla!\n");
  EXPECT_EQ(two->voices[0].notes[1].words, "") << "of another moment";
  const auto many = readMidi(textEvents(100'000));
  ASSERT_TRUE(many.ok()) << many.problem();
  EXPECT_LT(many->voices[0].notes[0].words.size(), 3'000U);
}

TEST(MidiFile, DamagedFilesEndInAReasonOrInSaneNotes) {
  std::mt19937 random(20261129);
  const auto whole = written({quarters({60, 62, 64, 65}), quarters({40, 43}, 240, 3)});
  int read = 0;
  for (Trials trials(20000); trials.next();) {
    auto damaged = whole;
    for (unsigned k = 0; k <= random() % 4; ++k) damaged[random() % damaged.size()] = static_cast<std::byte>(random());
    if (random() % 4 == 0) damaged.resize(random() % damaged.size());
    const auto file = readMidi(damaged);
    if (!file) {
      ASSERT_FALSE(file.problem().empty());
      continue;
    }
    ++read;
    for (const MidiVoice& v : file->voices) {
      ASSERT_FALSE(v.notes.empty());
      for (const MidiNote& n : v.notes) ASSERT_TRUE(n.at.sane() && n.length.sane() && n.length > Rational(0));
      ASSERT_LE(suggestionsOf(v, 0, {}).size(), v.notes.size());
    }
  }
  EXPECT_GT(read, 1000) << "many a byte does no harm";
}

TEST(FileNotes, ArePlacedOnTheNeckFromTheirFirstBarOn) {
  auto events = quarters({64, 67, 69}, 4 * 480 + 8);  // a hair late, in the second bar
  const auto file = readMidi(written({events}));
  const MidiVoice& voice = file->voices[0];
  const Rational from = firstBarOf(voice, file->bar);
  EXPECT_EQ(from, Rational(4));
  const auto found = suggestionsOf(voice, from, {});
  ASSERT_THAT(found, SizeIs(3));
  for (int i = 0; i < 3; ++i) {
    const Note& n = found[static_cast<std::size_t>(i)].note;
    EXPECT_EQ(n.at, Beats(i)) << "on the raster";
    EXPECT_EQ(Guitar{}.pitch(n.place), voice.notes[static_cast<std::size_t>(i)].midi);
    EXPECT_EQ(n.origin, Origin::measured);
  }
  EXPECT_EQ(found[0].note.length, Beats(1)) << "the gap of a twelfth is how it was played";
}

TEST(FileNotes, TheWheelBecomesABendAndANoteTooLowIsLeftOut) {
  std::vector<Event> events = {{0, 0x90, 67, 90}, {120, 0xE0, 0x7F, 0x7F}, {470, 0x80, 67, 0}, {480, 0xE0, 0, 64}};
  for (const Event& e : quarters({20, 69}, 480)) events.push_back(e);
  const auto found = suggestionsOf(readMidi(written({events}))->voices[0], 0, {});
  ASSERT_THAT(found, SizeIs(2));
  ASSERT_TRUE(found[0].note.bend.has_value());
  EXPECT_NEAR(found[0].note.bend->size->value, 200, 1);
  EXPECT_FALSE(found[0].note.bend->released);
  EXPECT_FALSE(found[1].note.bend.has_value());
  EXPECT_EQ(found[1].note.at, Beats(2));
}

}  // namespace
}  // namespace ear
