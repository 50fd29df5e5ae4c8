// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/export.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <smf.h>

#include <cmath>
#include <cstdlib>
#include <fstream>
#include <random>
#include <set>
#include <sstream>

#include "core/exchange/facts.h"
#include "core/exchange/jams.h"
#include "core/exchange/lilypond.h"
#include "core/exchange/midi_file.h"
#include "core/exchange/midi_tab.h"
#include "core/study/grid.h"
#include "core/study/parts.h"
#include "core/study/study_file.h"
#include "core/study/time_map.h"
#include "core/study/validity.h"
#include "spoilt.h"
#include "support/decisions.h"
#include "support/phrases.h"
#include "support/programs.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::contentOf;
using testing::AllOf;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::Not;
using testing::SizeIs;

/// The demo, and a folder to write to.
class Exports : public testing::Test {
 protected:
  void SetUp() override {
    auto loaded = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
    ASSERT_TRUE(loaded.ok());
    study_ = loaded->study;
    folder_ = test::freshFolder("exports");
  }
  TakeLists lists() const { return {study_, study_.takes[0], &test::demoFindings("studio")}; }
  std::filesystem::path written(const char* format, const ExportChoice& choice = {}) {
    const ExportFormat* f = exportFormat(format);
    const auto file = folder_ / (std::string("demo") + std::string(f->ending));
    const auto done = exportTake(lists(), *f, choice, file);
    EXPECT_TRUE(done.ok()) << done.problem();
    if (done) losses_ = *done;
    return file;
  }
  std::vector<TabPiece> pieces(const std::string& phrase = {}) const {
    return tabPiecesOf(study_, study_.takes[0], &test::demoFindings("studio"), "", phrase);
  }

  Study study_;
  std::filesystem::path folder_;
  std::vector<std::string> losses_;
};

/// Pitch and start in hundredths of a quarter.
using Sounds = std::set<std::pair<long, int>>;

Sounds soundsOf(const std::vector<TabPiece>& pieces) {
  Sounds sounds;
  for (const TabPiece& p : pieces)
    for (const Note& n : p.notes) sounds.insert({std::lround(n.at.value() * 100), soundingKey(p.guitar, n)});
  return sounds;
}

Sounds soundsOf(const MidiFile& midi) {
  Sounds sounds;
  for (const auto& voice : midi.voices)
    for (const MidiNote& n : voice.notes) sounds.insert({std::lround(n.at.value() * 100), n.midi});
  return sounds;
}

TEST_F(Exports, MidiHoldsThePitchesTimesStringsAndBends) {
  const auto file = written("midi");
  const auto midi = readMidi(file);
  ASSERT_TRUE(midi.ok()) << midi.problem();
  EXPECT_EQ(soundsOf(*midi), soundsOf(pieces()));
  ASSERT_THAT(midi->voices, SizeIs(2));
  EXPECT_EQ(midi->voices[1].name, "Right guitar");
  const TabPiece right = pieces()[1];
  int bends = 0;
  for (const Note& n : right.notes) {
    const auto& notes = midi->voices[1].notes;
    const auto found = std::find_if(notes.begin(), notes.end(), [&](const MidiNote& m) {
      return m.at == n.at && m.midi == right.guitar.pitch(n.place);
    });
    ASSERT_NE(found, notes.end());
    EXPECT_EQ(found->channel, 5 - n.place.string) << "a channel for each string, the highest first";
    if (!n.bend || !n.bend->size) continue;
    ++bends;
    EXPECT_NEAR(found->most.value, n.bend->size->value, 0.2);
  }
  EXPECT_EQ(bends, 3);
}

/// By libsmf, which knows nothing of our reader: metre, marks, and each note at its second of the recording by the
/// tempo of every bar and the place that the file says it begins at.
TEST_F(Exports, MidiRunsBesideTheRecording) {
  const auto file = written("midi");
  smf_t* smf = smf_load(file.string().c_str());
  ASSERT_NE(smf, nullptr);
  EXPECT_NEAR(smf_get_tempo_by_number(smf, 0)->microseconds_per_quarter_note, 60e6 / 104, 3000);
  EXPECT_EQ(smf_get_tempo_by_number(smf, 0)->numerator, 4);
  double start = -1;
  std::vector<double> struck;
  for (smf_event_t* event = smf_get_next_event(smf); event != nullptr; event = smf_get_next_event(smf)) {
    const unsigned char* bytes = event->midi_buffer;
    if (bytes[0] == 0xFF && bytes[1] == 0x54) {
      EXPECT_EQ(event->time_pulses, 0);
      EXPECT_EQ(bytes[3] & 0x60, 0x60) << "thirty frames a second";
      start = 3600 * (bytes[3] & 0x1F) + 60 * bytes[4] + bytes[5] + (bytes[6] + bytes[7] / 100.0) / 30;
    }
    if ((bytes[0] & 0xF0) == 0x90) struck.push_back(event->time_seconds);
  }
  smf_delete(smf);
  ASSERT_GE(start, 0);
  std::vector<double> recorded;
  const auto back = readJams(contentOf(written("jams")));
  ASSERT_TRUE(back.ok());
  for (const auto& n : back->notes) recorded.push_back(n.span.start.value);
  std::sort(struck.begin(), struck.end());
  ASSERT_EQ(struck.size(), recorded.size());
  // Within a bar the beats of a recording are not quite even.
  for (std::size_t i = 0; i < struck.size(); ++i) EXPECT_NEAR(start + struck[i], recorded[i], 0.03) << i;
  EXPECT_THAT(contentOf(file), AllOf(HasSubstr("Copper Weather"), HasSubstr("Solo, the call"), HasSubstr("D")));
}

TEST_F(Exports, EachBarHasTheTempoOfTheRecording) {
  const TabPiece piece = pieces().front();
  ASSERT_EQ(piece.tempos.size() + 1, piece.barLines.size());
  const TimeMap map(gridOf(study_.takes[0], &test::demoFindings("studio")), {});
  double at = piece.start.value;
  EXPECT_NEAR(at, map.timeAt(0).value, 1e-9);
  for (std::size_t bar = 0; bar < piece.tempos.size(); ++bar) {
    at += 60 / piece.tempos[bar].second.value * (piece.barLines[bar + 1] - piece.barLines[bar]).value();
    ASSERT_NEAR(at, map.timeAt(piece.barLines[bar + 1]).value, 1e-6) << "bar " << bar + 1;
  }
}

/// Whatever the recording does, bars of any length and a tempo that wanders: by libsmf's own map of the tempo each bar
/// of the file begins when it began on the recording.
TEST(Midi, FollowsAnyBars) {
  std::mt19937 random(5);
  const auto folder = test::freshFolder("any-bars");
  for (int round = 0; round < 20; ++round) {
    Study s;
    Take take;
    take.id = "take1", take.duration = Seconds(300);
    Grid grid;
    double t = 0.5 + static_cast<double>(random() % 100) / 50;
    for (int bar = 0; bar < 40; ++bar)
      for (int beat = 0, beats = 2 + static_cast<int>(random() % 4); beat < beats; ++beat) {
        grid.push_back({Seconds(t), beat == 0, false});
        t += 0.35 + static_cast<double>(random() % 100) / 400;
      }
    grid.push_back({Seconds(t), true, false});
    take.grid = test::decided(Shared<Grid>(grid), Origin::set);
    s.takes.push_back(take);
    const TimeMap map(grid, {});
    std::vector<Note> notes;  // one at each bar line
    std::vector<double> recorded;
    for (int bar = 1; bar <= 30; ++bar) {
      const Beats at = *map.beatsOf({bar, Beats(0)});
      notes.push_back(test::note(bar, 3, bar % 12, at, 1));
      recorded.push_back(map.timeAt(at).value);
    }
    Phrase phrase = test::phrase("p", notes, "take1", partsOf(s, s.takes[0], nullptr).front().id);
    phrase.span = {map.timeAt(0), map.timeAt(notes.back().at + Beats(1))};
    s.phrases.push_back(phrase);
    const auto pieces = tabPiecesOf(s, s.takes[0], nullptr);
    ASSERT_THAT(pieces, SizeIs(1));
    ASSERT_TRUE(writeMidi(pieces, folder / "a.mid").ok());
    smf_t* smf = smf_load((folder / "a.mid").c_str());
    ASSERT_NE(smf, nullptr);
    std::vector<double> struck;
    for (smf_event_t* event = smf_get_next_event(smf); event != nullptr; event = smf_get_next_event(smf))
      if ((event->midi_buffer[0] & 0xF0) == 0x90) struck.push_back(event->time_seconds);
    smf_delete(smf);
    ASSERT_EQ(struck.size(), recorded.size());
    for (std::size_t i = 0; i < struck.size(); ++i)
      EXPECT_NEAR(pieces.front().start.value + struck[i], recorded[i], 0.001) << round << " bar " << i + 1;
  }
}

/// The harmonic series: touched over 12, 7 and 5 a string sounds its second, third and fourth partial, over 4 the
/// fifth.
TEST(Harmonics, SoundTheirPartialInEveryFileAndKeepTheirPlace) {
  const Guitar guitar;
  TabPiece p{.title = "Bells", .name = "Guitar", .barLines = {Beats(0), Beats(4), Beats(8)}};
  const auto touched = [](int id, int string, int fret, Beats at) {
    Note n = test::note(id, string, fret, at);
    n.harmonic = PlayedHarmonic{};
    return n;
  };
  p.notes = {touched(1, 0, 12, 0), touched(2, 1, 7, 1),    touched(3, 2, 7, 1),   touched(4, 5, 5, 2),
             touched(5, 5, 4, 3),  test::note(6, 3, 2, 4), test::note(7, 3, 5, 5)};
  p.notes[5].harmonic = PlayedHarmonic{PlayedHarmonic::Kind::tapped, 14};
  p.notes[6].harmonic = PlayedHarmonic{PlayedHarmonic::Kind::pinch, 0};
  const Sounds expected = {{0, 52}, {100, 64}, {100, 69}, {200, 88}, {300, 92}, {400, 69}, {500, 60}};
  const auto folder = test::freshFolder("harmonics");
  ASSERT_TRUE(writeMidi({p}, folder / "a.mid").ok());
  const auto midi = readMidi(folder / "a.mid");
  ASSERT_TRUE(midi.ok()) << midi.problem();
  EXPECT_EQ(soundsOf(*midi), expected);
  const TabPiece back = tabPieceOf(midi->voices[0], guitar, midi->bar);
  ASSERT_EQ(back.notes.size(), p.notes.size());
  for (std::size_t i = 0; i < p.notes.size(); ++i) {
    EXPECT_EQ(back.notes[i].place, p.notes[i].place) << i;
    EXPECT_EQ(back.notes[i].harmonic, p.notes[i].harmonic) << i;
  }
  std::vector<TabPiece> natural = {p};
  natural[0].notes.resize(5);
  std::ofstream(folder / "a.ly") << writeLilyPond(natural);
  ASSERT_EQ(test::run("cd " + folder.string() + " && lilypond -dno-print-pages a.ly"), 0) << writeLilyPond(natural);
  const auto played = readMidi(folder / "a.midi");
  ASSERT_TRUE(played.ok()) << played.problem();
  Sounds naturals = expected;
  std::erase_if(naturals, [](const auto& sound) { return sound.first >= 400; });
  EXPECT_EQ(soundsOf(*played), naturals);
  EXPECT_THAT(csvOfNotes({p}), HasSubstr("Guitar,1,3,1,1,5,88,"));
}

TEST(Harmonics, WordsThatPutThemNowhereArePassedOver) {
  MidiVoice voice{"track 1",
                  {{0, 1, 64, 0, {}, {}, {}, "harmonic: string 1 fret 99 natural\nla la\n"},
                   {1, 1, 66, 0, {}, {}, {}, "harmonic: string 2 fret 5 natural\n"},
                   {2, 1, 67, 0, {}, {}, {}, "harmonic: string 1 fret\n"}}};
  const TabPiece p = tabPieceOf(voice, {}, 4);
  ASSERT_THAT(p.notes, SizeIs(3));
  for (const Note& n : p.notes) EXPECT_FALSE(n.harmonic.has_value());
  EXPECT_EQ(p.notes[2].place, (FretPosition{5, 3}));
}

/// Compiled by LilyPond and played into a MIDI file of its own.
TEST_F(Exports, LilyPondSetsAndSoundsTheSame) {
  const auto file = written("lilypond", {"", "phrase2"});
  ASSERT_EQ(std::system(("cd " + folder_.string() + " && lilypond -s demo.ly >errors 2>&1").c_str()), 0)
      << contentOf(folder_ / "errors");
  EXPECT_THAT(contentOf(folder_ / "errors"), Not(HasSubstr("warning"))) << "bars are full";
  EXPECT_GT(std::filesystem::file_size(folder_ / "demo.pdf"), 5000U);
  const auto midi = readMidi(folder_ / "demo.midi");
  ASSERT_TRUE(midi.ok()) << midi.problem();
  const Sounds heard = soundsOf(*midi), expected = soundsOf(pieces("phrase2"));
  for (const auto& sound : expected) EXPECT_TRUE(heard.contains(sound)) << sound.first << " " << sound.second;
}

TEST(LilyPond, StandsTupletsOddBarsAndTwoVoices) {
  TabPiece p{.title = "Odd \"bars\"", .name = "Guitar"};
  p.notes = {test::note(1, 3, 7, 0, Beats(1, 3)), test::note(2, 3, 9, Beats(1, 3), Beats(1, 3)),
             test::note(3, 4, 8, Beats(2, 3), Beats(1, 3)), test::note(4, 5, 3, 1, Beats(9, 2)),
             test::note(5, 0, 3, 0, 7)};
  p.notes[4].voice = 1;
  p.barLines = {Beats(0), Beats(3), Beats(13, 2), Beats(8)};
  p.chords = {{Beats(1), *parseChord("F#m7b5")}, {Beats(4), *parseChord("Bb/D")}};
  p.key = Key{PitchClass(10), Mode::major};
  const auto folder = test::freshFolder("lilypond");
  std::ofstream(folder / "a.ly") << writeLilyPond({p});
  ASSERT_EQ(std::system(("cd " + folder.string() + " && lilypond -s a.ly >errors 2>&1").c_str()), 0)
      << contentOf(folder / "errors") << writeLilyPond({p});
  const auto midi = readMidi(folder / "a.midi");
  ASSERT_TRUE(midi.ok());
  const Sounds heard = soundsOf(*midi);
  for (const auto& sound : soundsOf({p})) EXPECT_TRUE(heard.contains(sound)) << sound.first << " " << sound.second;
}

TEST_F(Exports, MidiComesBackAsTheSameTab) {
  const auto midi = readMidi(written("midi"));
  ASSERT_TRUE(midi.ok());
  const auto all = pieces();
  for (std::size_t i = 0; i < all.size(); ++i) {
    const TabPiece back = tabPieceOf(midi->voices[i], all[i].guitar, midi->bar);
    ASSERT_EQ(back.notes.size(), all[i].notes.size());
    for (std::size_t k = 0; k < back.notes.size(); ++k) {
      const Note &is = back.notes[k], &was = all[i].notes[k];
      EXPECT_EQ(is.place, was.place);
      EXPECT_EQ(is.at, was.at);
      EXPECT_EQ(is.bend.has_value(), was.bend.has_value());
      if (is.bend && was.bend) {
        EXPECT_EQ(is.bend->size, was.bend->size);
        EXPECT_EQ(is.bend->before, was.bend->before);
      }
    }
  }
  // Without channels of strings they are placed.
  MidiVoice plain = midi->voices[1];
  for (MidiNote& n : plain.notes) n.channel = 0;
  const TabPiece placed = tabPieceOf(plain, all[1].guitar, midi->bar);
  ASSERT_EQ(placed.notes.size(), all[1].notes.size());
  EXPECT_THAT(placed.notKept, ElementsAre(HasSubstr("placed where")));
  EXPECT_EQ(placed.barLines[1], Beats(4));
}

TEST_F(Exports, JamsHoldsAllThatIsKnownAndComesBack) {
  const std::string text = contentOf(written("jams"));
  const auto back = readJams(text);
  ASSERT_TRUE(back.ok()) << back.problem();
  const Findings& found = test::demoFindings("studio");
  EXPECT_EQ(back->title, "Copper Weather");
  EXPECT_EQ(back->key, found.key->readings.front().key);
  EXPECT_NEAR(back->tempo->value, found.rhythm->tempo.front().tempo.value, 1e-6);
  ASSERT_EQ(back->beats.size(), found.rhythm->beats.size());
  EXPECT_NEAR(back->beats[5].time.value, found.rhythm->beats[5].value, 1e-9);
  EXPECT_EQ(std::count_if(back->beats.begin(), back->beats.end(), [](const Beat& b) { return b.bar; }),
            static_cast<std::ptrdiff_t>(found.rhythm->downbeats.size()));
  ASSERT_EQ(back->chords.size(), found.chords.size());
  for (std::size_t i = 0; i < found.chords.size(); ++i) EXPECT_EQ(back->chords[i].chord, found.chords[i].chord) << i;
  EXPECT_THAT(back->form, SizeIs(7));
  EXPECT_THAT(back->notKept, testing::IsEmpty());
  // The notes with their places, at their times of the recording.
  const auto all = pieces();
  std::size_t count = 0;
  for (const TabPiece& p : all) {
    count += p.notes.size();
    for (const Note& n : p.notes) {
      const bool there = std::any_of(back->notes.begin(), back->notes.end(), [&](const JamsContent::HeardNote& h) {
        return h.guitar == p.name && h.written && h.written->at == n.at && h.written->place == n.place &&
               h.written->length == n.length && h.written->bend == n.bend && h.written->attack == n.attack &&
               h.written->finger == n.finger && h.written->vibrato.has_value() == n.vibrato.has_value();
      });
      EXPECT_TRUE(there) << p.name << " " << n.at.text();
    }
  }
  EXPECT_EQ(back->notes.size(), count);
  EXPECT_NEAR(back->notes.front().span.start.value, 0.35, 0.05);
  EXPECT_THAT(text, HasSubstr("\"origin\": \"measured\""));
}

TEST_F(Exports, JamsHoldsThePitchOfAVoice) {
  TakeLists with = lists();
  with.pitch = {{Seconds(1.0), Hertz(196.0)}, {Seconds(1.01), std::nullopt}, {Seconds(1.02), Hertz(220.5)}};
  const auto back = readJams(writeJams(with, {}));
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->pitch, with.pitch);
  EXPECT_THAT(back->notKept, testing::IsEmpty());
  EXPECT_THAT(writeJams(lists(), {}), Not(HasSubstr("pitch_contour"))) << "nobody measured one";
}

TEST_F(Exports, FactsOfAJamsFileAreTakenAsSetForTheRecording) {
  const auto known = readFacts(written("jams"));
  ASSERT_TRUE(known.has_value());
  EXPECT_FALSE(readFacts(written("musicxml")).has_value());
  Study s = study_;
  const std::string id = s.takes[0].id;
  const Findings& found = test::demoFindings("studio");
  const auto taken = takeFacts(s, id, *known);
  ASSERT_TRUE(taken.ok()) << taken.problem();
  EXPECT_THAT(*taken, HasSubstr(std::to_string(found.rhythm->beats.size()) + " beats"));
  EXPECT_THAT(*taken, HasSubstr("7 sections, the key"));
  const Take& take = *std::as_const(s).take(id);
  EXPECT_EQ(take.grid->value->size(), found.rhythm->beats.size());
  EXPECT_EQ(take.grid->origin, Origin::set);
  EXPECT_EQ(take.key->value, found.key->readings.front().key);
  EXPECT_EQ(take.form->value->front().letter, found.form.front().letter);
  EXPECT_EQ(take.chords->size(), found.chords.size());
  EXPECT_EQ(faultOf(s), std::nullopt) << "a study may hold all of it";
  // A file of another song, all of it behind this recording's end.
  JamsContent late;
  late.beats = {{Seconds(5000)}, {Seconds(5001)}};
  EXPECT_THAT(takeFacts(s, id, late).problem(), HasSubstr("belongs to this take"));
  // Beats that stand twice, chords that overlap: of those that do, the later one holds.
  JamsContent odd;
  odd.beats = {{Seconds(1), true}, {Seconds(1.001)}, {Seconds(2)}, {Seconds(3)}};
  odd.chords = {{{Seconds(1), Seconds(3)}, parseChord("C")}, {{Seconds(2), Seconds(4)}, parseChord("G")}};
  ASSERT_TRUE(takeFacts(s, id, odd).ok());
  EXPECT_EQ(faultOf(s), std::nullopt);
  EXPECT_THAT(*std::as_const(s).take(id)->grid->value, SizeIs(3));
  EXPECT_EQ((*std::as_const(s).take(id)->chords)[0].span.end, Seconds(2));
}

TEST(Jams, RefusesWhatIsNoneAndStandsDamage) {
  EXPECT_THAT(readJams("{\n\n").problem(), HasSubstr("line 3"));
  EXPECT_THAT(readJams("[]").problem(), HasSubstr("no JAMS"));
  EXPECT_THAT(readJams("{}").problem(), HasSubstr("no JAMS"));
  const auto odd = readJams(R"({"annotations": [{"namespace": "mood_thayer", "data": [{"time": 0}]},
    {"namespace": "note_midi", "data": [{"time": 1, "duration": 0.5, "value": 60.2}, {"time": "x"}, 7]},
    {"namespace": "chord", "data": [{"time": 0, "duration": 1, "value": "X:strange"}]}]})");
  ASSERT_TRUE(odd.ok()) << odd.problem();
  EXPECT_THAT(odd->notes, SizeIs(1));
  EXPECT_THAT(odd->notKept, SizeIs(2));
}

TEST_F(Exports, DamagedJamsGivesAReasonOrSaneContent) {
  const std::string whole = contentOf(written("jams"));
  std::mt19937 random(11);
  for (Trials trials(300); trials.next();) {
    const auto content = readJams(spoilt(whole, random));
    if (!content) continue;
    for (const auto& n : content->notes) EXPECT_GT(n.span.length(), Seconds(0));
    Study s = study_;
    static_cast<void>(takeFacts(s, s.takes[0].id, *content));
    EXPECT_EQ(faultOf(s, &study_), std::nullopt);
  }
}

TEST_F(Exports, ListsSayWhatIsKnownAndHowSure) {
  const std::string labels = contentOf(written("labels"));
  EXPECT_THAT(labels, HasSubstr("83.4"));
  EXPECT_THAT(labels, HasSubstr("\tSolo, the call\n"));
  const std::string table = contentOf(written("csv"));
  EXPECT_THAT(table, AllOf(HasSubstr("what,start_s,end_s,bar,value,origin,certainty\r\n"), HasSubstr("bar line,"),
                           HasSubstr(",measured,"), HasSubstr("chord,"), HasSubstr("key,0.000,115.627,,E♭ minor,")));
  const std::string notes = contentOf(written("notes"));
  EXPECT_EQ(std::count(notes.begin(), notes.end(), '\n'), 1 + 32 + 19 + 9 + 10 + 19);
  EXPECT_THAT(notes, HasSubstr("Right guitar,37,1,3/2,3,14,"));
  const std::string chart = contentOf(written("chordpro"));
  EXPECT_THAT(chart, AllOf(HasSubstr("{title: Copper Weather}\n{key: Ebm}\n{tempo: 104}\n{time: 4/4}"),
                           HasSubstr("{start_of_grid: label=\"D\"}\n| Ebm | Bmaj7 | Abm7 | Bb7 |\n"),
                           HasSubstr("| Ebm | ? |")));
}

TEST_F(Exports, SayWhatTheyCouldNotHold) {
  written("musicxml", {"", "phrase3"});
  EXPECT_THAT(losses_, testing::Contains(HasSubstr("several levels")));
  const auto none = exportTake(lists(), *exportFormat("midi"), {"", "phrase9"}, folder_ / "none.mid");
  EXPECT_THAT(none.problem(), HasSubstr("no written notes"));
  EXPECT_FALSE(std::filesystem::exists(folder_ / "none.mid"));
  EXPECT_FALSE(exportTake(lists(), *exportFormat("musicxml"), {}, "/no/such/folder/a.musicxml").ok());
  EXPECT_FALSE(exportTake(lists(), *exportFormat("midi"), {}, "/no/such/folder/a.mid").ok());
  EXPECT_EQ(exportFormat("nothing"), nullptr);
}

}  // namespace
}  // namespace ear
