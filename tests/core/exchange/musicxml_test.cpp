// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/musicxml.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cstdlib>
#include <fstream>
#include <random>
#include <set>

#include <pugixml.hpp>

#include "core/exchange/midi_file.h"
#include "core/exchange/musicxml_words.h"
#include "core/study/study_file.h"
#include "spoilt.h"
#include "support/phrases.h"
#include "support/programs.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

const Tuning kOpenD = {{38, 45, 50, 54, 57, 62}};

TabPiece piece(std::vector<Note> notes, int bars = 4) {
  TabPiece p{.title = "Copper Weather", .name = "Right guitar"};
  putInOrder(notes);
  for (std::size_t i = 0; i < notes.size(); ++i) notes[i].id = static_cast<int>(i) + 1;
  p.notes = std::move(notes);
  p.barLines.clear();
  for (int bar = 0; bar <= bars; ++bar) p.barLines.emplace_back(4 * bar);
  return p;
}

/// A piece with all that a file can hold.
TabPiece richPiece() {
  using test::note;
  Note bent = note(1, 3, 14, 0, 2), hammered = note(2, 4, 15, 2, Beats(1, 2)),
       pulled = note(3, 4, 12, Beats(5, 2), Beats(1, 2));
  Note slid = note(4, 4, 14, 3), held = note(5, 0, 3, 4, 6), triplet = note(6, 2, 5, 10, Beats(1, 3));
  bent.bend = Bend{Cents(190), true, true, 0};
  bent.vibrato = Vibrato{Vibrato::Kind::wide, Hertz(5.5), Cents(40)};
  hammered.attack = Attack::hammeredOn, pulled.attack = Attack::pulledOff, slid.attack = Attack::slidInto;
  held.voice = 1, held.letRing = true;
  TabPiece p = piece({bent, hammered, pulled, slid, held, triplet, note(7, 2, 7, Beats(31, 3), Beats(1, 3)),
                      note(8, 2, 9, Beats(32, 3), Beats(1, 3)), note(9, 5, 0, 12, Beats(7, 2))});
  p.guitar = {.tuning = kOpenD, .capo = {2, 0}, .offset = Cents(12), .frets = 24};
  p.key = Key{PitchClass(3), Mode::minor};
  p.tempo = Bpm(104);
  p.swing = {1.6, SwingLevel::sixteenths};
  p.barLines = {Beats(0), Beats(4), Beats(11), Beats(14), Beats(18)};
  p.firstBar = 37;
  p.marks = {{Beats(0), "D solo"}, {Beats(11), "answer & <end>"}};
  p.chords = {{Beats(0), *parseChord("Ebm7")}, {Beats(6), *parseChord("B/F#")}};
  return p;
}

void expectSame(const TabPiece& read, const TabPiece& written) {
  EXPECT_EQ(read.title, written.title);
  EXPECT_EQ(read.name, written.name);
  EXPECT_EQ(read.guitar, written.guitar);
  EXPECT_EQ(read.barLines, written.barLines);
  EXPECT_EQ(read.firstBar, written.firstBar);
  EXPECT_EQ(read.key, written.key);
  EXPECT_EQ(read.tempo, written.tempo);
  EXPECT_EQ(read.swing, written.swing);
  EXPECT_EQ(read.marks, written.marks);
  EXPECT_EQ(read.chords, written.chords);
  ASSERT_EQ(read.notes.size(), written.notes.size());
  for (std::size_t i = 0; i < read.notes.size(); ++i) EXPECT_EQ(read.notes[i], written.notes[i]) << "note " << i;
}

std::filesystem::path file(const std::string& name, const std::string& text) {
  const auto path = test::freshFolder("musicxml") / name;
  std::ofstream(path) << text;
  return path;
}

TEST(MusicXml, HoldsAllThatAPieceDoes) {
  const TabPiece written = richPiece();
  const std::string xml = writeMusicXml({written});
  const auto read = readMusicXml(xml);
  ASSERT_TRUE(read.ok()) << read.problem();
  ASSERT_THAT(*read, SizeIs(1));
  expectSame(read->front(), written);
  EXPECT_THAT(read->front().notKept, IsEmpty());
  EXPECT_TRUE(writeMusicXml(*read) == xml) << "written again it is the same to the byte";
}

TEST(MusicXml, HoldsAnyNoteThatAStudyMayHold) {
  std::mt19937 random(61);
  for (int round = 0; round < 30; ++round) {
    std::vector<Note> notes;
    for (int id = 1; id <= 40; ++id) {
      Note n = test::anyNote(random, id);
      // What a piece does not hold.
      n.free.reset(), n.readings.clear(), n.why.clear();
      n.origin = Origin::set, n.certainty = 1.0;
      n.at = Beats(std::abs(n.at.top()) % 100, n.at.bottom());
      // Of one voice no two notes stand on one string at once.
      if (std::none_of(notes.begin(), notes.end(),
                       [&](const Note& o) { return o.at == n.at && o.place.string == n.place.string; }))
        notes.push_back(n);
    }
    const TabPiece written = piece(notes, 40);
    const std::string xml = writeMusicXml({written});
    const auto read = readMusicXml(xml);
    ASSERT_TRUE(read.ok()) << read.problem();
    ASSERT_EQ(read->front().notes.size(), written.notes.size());
    for (std::size_t i = 0; i < written.notes.size(); ++i) {
      Note n = read->front().notes[i], expected = written.notes[i];
      // The upper of two voices is the first, also where only the lower one is there.
      if (std::none_of(written.notes.begin(), written.notes.end(), [](const Note& o) { return o.voice == 0; }))
        n.voice = 1;
      EXPECT_EQ(n, expected) << "round " << round << " note " << i;
    }
    EXPECT_TRUE(writeMusicXml(*read) == xml) << round;
    if (round < 5) {
      EXPECT_TRUE(test::isValidMusicXml(xml)) << "round " << round;
    }
  }
}

TEST(MusicXml, IsValidAgainstThePublishedSchema) {
  EXPECT_TRUE(test::isValidMusicXml(writeMusicXml({richPiece()})));
  EXPECT_TRUE(test::isValidMusicXml(writeMusicXml({richPiece(), richPiece()})));
  EXPECT_FALSE(test::isValidMusicXml("<score-partwise><nonsense/></score-partwise>")) << "the check can fail";
}

/// Read by musicxml2ly, set by LilyPond and played into a MIDI file: pitches and times of an independent reader.
TEST(MusicXml, SoundsTheSameToAnIndependentReader) {
  TabPiece written = piece(
      {test::note(1, 3, 7, 0, Beats(1, 2)), test::note(2, 3, 9, Beats(1, 2), Beats(1, 2)), test::note(3, 4, 8, 1, 3),
       test::note(4, 0, 3, 4, 2), test::note(5, 5, 3, 4, 2), test::note(6, 2, 5, 6, Beats(2, 3)),
       test::note(7, 2, 7, Beats(20, 3), Beats(2, 3)), test::note(8, 2, 9, Beats(22, 3), Beats(2, 3))},
      2);
  written.guitar.tuning = kOpenD;
  const auto folder = test::freshFolder("reader");
  std::ofstream(folder / "piece.musicxml") << writeMusicXml({written});
  ASSERT_EQ(test::run("cd " + folder.string() +
                      " && musicxml2ly -m -o piece.ly piece.musicxml && lilypond -dno-print-pages piece.ly"),
            0);
  const auto midi =
      readMidi(std::filesystem::exists(folder / "piece.midi") ? folder / "piece.midi" : folder / "piece-1.midi");
  ASSERT_TRUE(midi.ok()) << midi.problem();
  std::set<std::pair<double, int>> heard, expected;
  for (const auto& voice : midi->voices)
    for (const MidiNote& n : voice.notes) heard.insert({std::round(n.at.value() * 100), n.midi});
  for (const Note& n : written.notes) expected.insert({std::round(n.at.value() * 100), written.guitar.pitch(n.place)});
  EXPECT_EQ(heard, expected);
  const std::string ly = test::contentOf(folder / "piece.ly");
  // On the staff of tab it writes the string behind each note.
  for (const char* string : {"\\2", "\\3", "\\4", "\\6"}) EXPECT_THAT(ly, HasSubstr(string));
}

/// MusicXML 4.0, element "swing": whole numbers for the first and the second of a pair, and which notes they are.
TEST(MusicXml, SwingIsSaidAsTheFormatSaysIt) {
  TabPiece p = richPiece();
  p.swing = {1.5, SwingLevel::sixteenths};
  const std::string xml = writeMusicXml({p});
  pugi::xml_document document;
  ASSERT_TRUE(document.load_string(xml.c_str()));
  const auto swing = document.select_node("//measure[1]/sound/swing").node();
  EXPECT_EQ(swing.child("first").text().as_int(), 3);
  EXPECT_EQ(swing.child("second").text().as_int(), 2);
  EXPECT_STREQ(swing.child("swing-type").text().as_string(), "16th");
  // Read from another program's file, which has no field of ours.
  std::string other = xml;
  const auto field = other.find("name=\"swing-ratio\"");
  other.replace(field, 18, "name=\"something\"");
  EXPECT_EQ(readMusicXml(other)->front().swing, p.swing);
  p.swing = {};
  EXPECT_THAT(writeMusicXml({p}), testing::Not(HasSubstr("<swing>")));
}

TEST(MusicXml, PacksAndUnpacks) {
  const auto folder = test::freshFolder("mxl");
  const std::string xml = writeMusicXml({richPiece()});
  ASSERT_TRUE(writeMxl(xml, folder / "a.mxl").ok());
  ASSERT_TRUE(writeMxl(xml, folder / "b.mxl").ok());
  const auto read = readMusicXmlFile(folder / "a.mxl");
  ASSERT_TRUE(read.ok()) << read.problem();
  expectSame(read->front(), richPiece());
  EXPECT_EQ(test::run("cmp " + (folder / "a.mxl").string() + " " + (folder / "b.mxl").string()), 0);
  EXPECT_LT(std::filesystem::file_size(folder / "a.mxl"), xml.size() / 3);
}

TEST(MusicXml, PlacesNotesThatHaveNoStringAndJoinsTies) {
  const auto read = readMusicXml(R"(<?xml version="1.0"?><score-partwise version="3.1">
    <part-list><score-part id="P1"><part-name>Guitar</part-name></score-part></part-list><part id="P1">
    <measure number="1"><attributes><divisions>2</divisions><time><beats>2</beats><beat-type>4</beat-type></time></attributes>
      <note><pitch><step>C</step><octave>4</octave></pitch><duration>2</duration><voice>1</voice></note>
      <note><pitch><step>E</step><alter>-1</alter><octave>4</octave></pitch><duration>2</duration><tie type="start"/><voice>1</voice></note></measure>
    <measure number="2"><note><pitch><step>E</step><alter>-1</alter><octave>4</octave></pitch><duration>1</duration><tie type="stop"/><voice>1</voice></note>
      <note><grace/><pitch><step>D</step><octave>4</octave></pitch><voice>1</voice></note>
      <note><rest/><duration>3</duration><voice>1</voice></note></measure></part></score-partwise>)");
  ASSERT_TRUE(read.ok()) << read.problem();
  const TabPiece& p = read->front();
  ASSERT_THAT(p.notes, SizeIs(2));
  EXPECT_EQ(p.guitar.pitch(p.notes[0].place), 60);
  EXPECT_EQ(p.guitar.pitch(p.notes[1].place), 63);
  EXPECT_EQ(p.notes[1].length, Beats(3, 2));
  EXPECT_THAT(p.barLines, ElementsAre(Beats(0), Beats(2), Beats(4)));
  EXPECT_THAT(p.notKept, testing::UnorderedElementsAre(HasSubstr("Grace notes"), HasSubstr("placed where")));
}

/// Bars of one whole note each, on the open A string, the fret being the number of the bar.
std::string bars(const std::vector<std::pair<std::string, std::string>>& lines) {
  std::string text =
      "<score-partwise><part-list><score-part id='P1'><part-name>G</part-name></score-part></part-list>"
      "<part id='P1'>";
  for (std::size_t i = 0; i < lines.size(); ++i) {
    const int midi = 45 + static_cast<int>(i) + 1;
    const auto step = musicxml::stepOf(midi, false);
    text += "<measure number='" + std::to_string(i + 1) + "'>" + lines[i].first;
    if (i == 0) text += "<attributes><divisions>1</divisions></attributes>";
    text += "<note><pitch><step>" + std::string(1, step.letter) + "</step><alter>" + std::to_string(step.alter) +
            "</alter><octave>" + std::to_string(step.octave) +
            "</octave></pitch><duration>4</duration><voice>1</voice><notations><technical><string>5</string><fret>" +
            std::to_string(i + 1) + "</fret></technical></notations></note>" + lines[i].second + "</measure>";
  }
  return text + "</part></score-partwise>";
}

std::vector<int> played(const std::vector<std::pair<std::string, std::string>>& lines) {
  const auto read = readMusicXml(bars(lines));
  EXPECT_TRUE(read.ok()) << read.problem();
  std::vector<int> frets;
  for (const Note& n : read->front().notes) frets.push_back(n.place.fret);
  EXPECT_EQ(read->front().barLines.size(), frets.size() + 1);
  return frets;
}

// Gould 2011, "Behind Bars", p. 233 ff. (repeats, first and second endings); from memory.
TEST(MusicXml, RepeatsAndEndingsAreWrittenOut) {
  const std::string open = "<barline location='left'><repeat direction='forward'/></barline>",
                    close = "<barline location='right'><repeat direction='backward'/></barline>",
                    thrice = "<barline location='right'><repeat direction='backward' times='3'/></barline>";
  const auto ending = [](const std::string& numbers) {
    return "<barline location='left'><ending number='" + numbers + "' type='start'/></barline>";
  };
  const std::string stop = "<barline location='right'><ending number='1' type='stop'/></barline>",
                    back =
                        "<barline location='right'><ending number='1' type='stop'/>"
                        "<repeat direction='backward'/></barline>";
  EXPECT_THAT(played({{"", ""}, {open, close}, {"", ""}}), ElementsAre(1, 2, 2, 3));
  EXPECT_THAT(played({{"", close}, {"", close}, {"", ""}}), ElementsAre(1, 1, 2, 2, 3)) << "from the last one on";
  EXPECT_THAT(played({{open, thrice}, {"", ""}}), ElementsAre(1, 1, 1, 2));
  EXPECT_THAT(played({{open, ""}, {ending("1"), back}, {ending("2"), stop}, {"", ""}}), ElementsAre(1, 2, 1, 3, 4));
  EXPECT_THAT(played({{open, ""}, {ending("1, 2"), back}, {ending("3"), stop}, {open, close}}),
              ElementsAre(1, 2, 1, 2, 1, 3, 4, 4));
  const auto read = readMusicXml(bars({{"", close}}));
  EXPECT_THAT(read->front().notKept, ElementsAre(HasSubstr("written out")));
  EXPECT_THAT(readMusicXml(bars({{"<sound dacapo='yes'/>", ""}}))->front().notKept,
              ElementsAre(HasSubstr("without going there")));
  EXPECT_THAT(readMusicXml(bars({{"", ""}}))->front().notKept, IsEmpty());
}

/// Repeats and endings of any make, in the order in which the signs say that they are played.
TEST(MusicXml, AnyRepeatsAreWrittenOutInTheirOrder) {
  std::mt19937 random(77);
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  for (int round = 0; round < 200; ++round) {
    std::vector<std::pair<std::string, std::string>> lines;  // what stands before and behind each bar
    std::vector<int> expected;
    const auto bar = [&] {
      lines.emplace_back();
      return static_cast<int>(lines.size());
    };
    for (int part = 0, parts = pick(1, 4); part < parts; ++part) {
      if (pick(0, 2) == 0) {  // played once
        for (int i = 0, count = pick(1, 3); i < count; ++i) expected.push_back(bar());
        continue;
      }
      std::vector<int> shared;
      for (int i = 0, count = pick(1, 2); i < count; ++i) shared.push_back(bar());
      lines[static_cast<std::size_t>(shared.front()) - 1].first =
          "<barline location='left'><repeat direction='forward'/></barline>";
      const int times = pick(2, 3);
      if (pick(0, 1) == 0) {
        lines.back().second =
            "<barline location='right'><repeat direction='backward' times='" + std::to_string(times) + "'/></barline>";
        for (int time = 0; time < times; ++time) expected.insert(expected.end(), shared.begin(), shared.end());
        continue;
      }
      for (int time = 1; time <= times; ++time) {
        std::vector<int> ending;
        ending.push_back(bar());
        const std::string number = "<ending number='" + std::to_string(time) + "' type='";
        lines[static_cast<std::size_t>(ending.front()) - 1].first =
            "<barline location='left'>" + number + "start'/></barline>";
        lines.back().second = "<barline location='right'>" + number +
                              (time < times ? "stop'/><repeat direction='backward'/>" : "discontinue'/>") +
                              "</barline>";
        expected.insert(expected.end(), shared.begin(), shared.end());
        expected.insert(expected.end(), ending.begin(), ending.end());
      }
    }
    ASSERT_EQ(played(lines), expected) << round << " " << bars(lines);
  }
}

TEST(MusicXml, ChordsCarryAGripThatSoundsThem) {
  TabPiece p = richPiece();
  p.chords = {{Beats(0), *parseChord("D")}, {Beats(4), *parseChord("Bm")}};
  pugi::xml_document document;
  ASSERT_TRUE(document.load_string(writeMusicXml({p}).c_str()));
  int frames = 0;
  for (const auto& found : document.select_nodes("//harmony")) {
    const auto frame = found.node().child("frame");
    ASSERT_TRUE(frame) << "frame " << frames;
    std::set<int> sounding;
    for (const auto note : frame.children("frame-note")) {
      const FretPosition place{6 - note.child("string").text().as_int(), note.child("fret").text().as_int()};
      sounding.insert(PitchClass(p.guitar.pitch(place)).value);
      EXPECT_LT(place.fret, frame.child("first-fret").text().as_int(1) + frame.child("frame-frets").text().as_int());
    }
    const Chord& chord = p.chords[static_cast<std::size_t>(frames++)].second;
    EXPECT_TRUE(sounding.contains(chord.root.value));
    EXPECT_EQ(sounding.size(), 3U) << "a triad and nothing else";
    for (const int interval : {chord.type == chordType("m") ? 3 : 4, 7})
      EXPECT_TRUE(sounding.contains(PitchClass(chord.root.value + interval).value)) << interval;
  }
  EXPECT_EQ(frames, 2);
}

TEST(MusicXml, RefusesWhatIsNone) {
  EXPECT_THAT(readMusicXml("").problem(), HasSubstr("no XML"));
  EXPECT_THAT(readMusicXml("<score-partwise>\n<part>\n</score-partwise>").problem(), HasSubstr("in line 3"));
  EXPECT_THAT(readMusicXml("<html/>").problem(), HasSubstr("no MusicXML"));
  EXPECT_THAT(readMusicXml("<score-timewise/>").problem(), HasSubstr("partwise"));
  EXPECT_THAT(readMusicXml("<score-partwise/>").problem(), HasSubstr("no notes"));
  EXPECT_THAT(readMusicXmlFile("/no/such/file.mxl").problem(), HasSubstr("cannot be read"));
  EXPECT_THAT(readMusicXmlFile(file("damaged.mxl", "PK\x03\x04 and no more")).problem(), HasSubstr("damaged"));
}

/// Spoilt files give a reason or notes that a study may hold, and never end the program.
TEST(MusicXml, StandsDamagedFiles) {
  const std::string whole = writeMusicXml({richPiece()});
  std::mt19937 random(7);
  int read = 0;
  for (Trials trials(3000); trials.next();) {
    const std::string text = spoilt(whole, random);
    const auto pieces = readMusicXml(text);
    if (!pieces) {
      EXPECT_FALSE(pieces.problem().empty());
      continue;
    }
    ++read;
    for (const TabPiece& p : *pieces)
      for (const Note& n : p.notes) {
        EXPECT_GT(n.length, Beats(0));
        EXPECT_TRUE(n.at.sane() && n.length.sane() && n.end().sane());
        EXPECT_GE(n.place.string, 0);
        EXPECT_LT(n.place.string, p.guitar.strings());
      }
  }
  EXPECT_GT(read, 150) << "many of them can still be read";
}

TEST(TabPieces, OfTheDemoStandInTheBarsOfTheRecording) {
  const auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  ASSERT_TRUE(demo.ok());
  const Take& take = demo->study.takes[0];
  const Findings& found = test::demoFindings("studio");
  const auto all = tabPiecesOf(demo->study, take, &found);
  ASSERT_THAT(all, SizeIs(2));
  EXPECT_EQ(all[0].barLines, all[1].barLines) << "guitars of one song stand in the same bars";
  const auto right = tabPiecesOf(demo->study, take, &found, "take1-right").front();
  EXPECT_EQ(right.firstBar, 1);
  EXPECT_EQ(right.guitar.tuning.strings.front(), 39);
  ASSERT_THAT(right.notes, SizeIs(19 + 9 + 10 + 19)) << "the repeat is written out";
  const auto call = tabPiecesOf(demo->study, take, &found, "", "phrase2").front();
  EXPECT_EQ(call.firstBar, 37);
  EXPECT_EQ(call.name, "Solo, the call");
  ASSERT_THAT(call.notes, SizeIs(9));
  EXPECT_EQ(call.notes.front().at, Beats(0));
  EXPECT_EQ(call.barLines.size(), 3U);
  EXPECT_THAT(tabPiecesOf(demo->study, take, nullptr, "nobody"), IsEmpty());
  const auto read = readMusicXml(writeMusicXml({right}));
  ASSERT_TRUE(read.ok()) << read.problem();
  // Measured values are written to six places.
  TabPiece rounded = right;
  EXPECT_NEAR(read->front().guitar.offset.value, right.guitar.offset.value, 1e-6);
  EXPECT_NEAR(read->front().tempo->value, right.tempo->value, 1e-6);
  rounded.guitar.offset = read->front().guitar.offset, rounded.tempo = read->front().tempo;
  expectSame(read->front(), rounded);
}

}  // namespace
}  // namespace ear
