// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <pugixml.hpp>
#include <sstream>
#include <utility>

#include "core/base/text.h"
#include "core/engraving/rhythm_row.h"
#include "core/exchange/musicxml.h"
#include "core/exchange/musicxml_elements.h"
#include "core/exchange/musicxml_hands.h"
#include "core/exchange/musicxml_words.h"
#include "core/exchange/repeated_bars.h"
#include "core/theory/fingering.h"

namespace ear {
namespace {

using pugi::xml_node;

using musicxml::add;
using musicxml::plainNumber;

const char* typeName(int part) {
  switch (part) {
    case 1:
      return "whole";
    case 2:
      return "half";
    case 4:
      return "quarter";
    case 8:
      return "eighth";
    case 16:
      return "16th";
    case 32:
      return "32nd";
    default:
      return "64th";
  }
}

/// The smallest number of parts of a quarter note in which every place and length is whole.
int divisionsOf(const std::vector<TabPiece>& pieces) {
  std::int64_t parts = 16;  // ties are cut down to sixty-fourths
  const auto take = [&](Beats b) {
    const std::int64_t wanted = std::lcm(parts, b.bottom());
    if (wanted <= 100'000) parts = wanted;
  };
  for (const TabPiece& p : pieces) {
    for (const Note& n : p.notes) take(n.at), take(n.length);
    for (const Beats line : p.barLines) take(line);
  }
  return static_cast<int>(parts);
}

/// A voice of a piece on both of its staves.
struct Voice {
  int number = 0;
  RhythmRow row;
  std::map<Beats, std::vector<const Note*>> moments;  // the lowest string first
};

class Part {
 public:
  Part(xml_node part, const TabPiece& piece, const std::vector<Beats>& bars, const WrittenBars& written, int divisions)
      : part_(part),
        piece_(piece),
        bars_(bars),
        written_(written),
        divisions_(divisions),
        flats_(piece.key && musicxml::fifthsOf(*piece.key) < 0) {
    std::map<int, std::vector<Note>> byVoice;
    for (const Note& n : piece.notes) byVoice[n.voice].push_back(n);
    for (const auto& [number, notes] : byVoice) voices_.push_back({number, rhythmOf(notes, bars), {}});
    std::map<int, const Note*> before;  // on each string
    for (const Note& n : piece.notes) {
      for (Voice& v : voices_)
        if (v.number == n.voice) v.moments[n.at].push_back(&n);
      const Note* led = before[n.place.string];
      const bool leads = n.attack == Attack::hammeredOn || n.attack == Attack::pulledOff ||
                         (n.attack == Attack::slidInto && !n.slidFrom);
      if (leads && led != nullptr) leadsOn_[led->id] = &n, led_.insert({n.id, led});
      before[n.place.string] = &n;
    }
    for (const auto& [at, chord] : piece.chords)
      if (std::string name = chordName(chord, Spelling::sharps); !grips_.contains(name))
        grips_.emplace(std::move(name), usualShapes(piece.guitar, chord, 1));
  }

  void write() {
    std::optional<std::size_t> before;
    for (const WrittenBar& w : written_.bars) {
      const std::size_t bar = w.bar;
      xml_node measure = part_.append_child("measure");
      measure.append_attribute("number") = piece_.firstBar + static_cast<int>(bar);
      if (bar == 0) measure.append_attribute("implicit") = piece_.firstBar == 0 ? "yes" : "no";
      writeLineBefore(measure, w);
      writeAttributes(measure, bar, std::exchange(before, bar));
      writeDirections(measure, bar, w.afterJump);
      bool first = true;
      for (const int staff : {1, 2})
        for (std::size_t v = 0; v < std::max<std::size_t>(1, voices_.size()); ++v) {
          const Voice* voice = v < voices_.size() ? &voices_[v] : nullptr;
          if (v > 0 && isSilent(*voice, bar)) continue;
          if (!first) add(measure.append_child("backup"), "duration", units(length(bar)));
          first = false;
          writeVoice(measure, bar, voice, staff, static_cast<int>(v) + (staff == 1 ? 1 : 5));
        }
      writeLineBehind(measure, w);
    }
  }

 private:
  bool isSilent(const Voice& voice, std::size_t bar) const {
    return std::none_of(voice.row.pieces.begin(), voice.row.pieces.end(),
                        [&](const RhythmPiece& p) { return !p.rest && p.at >= bars_[bar] && p.at < bars_[bar + 1]; });
  }
  Beats length(std::size_t bar) const { return bars_[bar + 1] - bars_[bar]; }
  int units(Beats length) const { return static_cast<int>(std::llround(length.value() * divisions_)); }

  static xml_node writeEnding(xml_node line, int number, const char* type) {
    xml_node ending = line.append_child("ending");
    ending.append_attribute("number") = number;
    ending.append_attribute("type") = type;
    return ending;
  }

  static void writeLineBefore(xml_node measure, const WrittenBar& w) {
    if (!w.startsRepeat && !w.startsEnding) return;
    xml_node line = measure.append_child("barline");
    line.append_attribute("location") = "left";
    if (w.startsRepeat) add(line, "bar-style", "heavy-light");
    if (w.startsEnding) writeEnding(line, w.ending, "start");
    if (w.startsRepeat) line.append_child("repeat").append_attribute("direction") = "forward";
  }

  static void writeLineBehind(xml_node measure, const WrittenBar& w) {
    if (w.times == 0 && !w.endsEnding) return;
    xml_node line = measure.append_child("barline");
    line.append_attribute("location") = "right";
    if (w.times > 0) add(line, "bar-style", "light-heavy");
    if (w.endsEnding) writeEnding(line, w.ending, w.times > 0 ? "stop" : "discontinue");
    if (w.times == 0) return;
    xml_node repeat = line.append_child("repeat");
    repeat.append_attribute("direction") = "backward";
    if (w.times > 2) repeat.append_attribute("times") = w.times;
  }

  /// @param before  the bar that stands before it on paper
  void writeAttributes(xml_node measure, std::size_t bar, std::optional<std::size_t> before) const {
    if (before && length(bar) == length(*before)) return;
    xml_node attributes = measure.append_child("attributes");
    if (bar == 0) {
      add(attributes, "divisions", divisions_);
      xml_node key = attributes.append_child("key");
      add(key, "fifths", piece_.key ? musicxml::fifthsOf(*piece_.key) : 0);
      if (piece_.key) add(key, "mode", piece_.key->mode == Mode::minor ? "minor" : "major");
    }
    xml_node time = attributes.append_child("time");
    add(time, "beats", static_cast<int>(length(bar).top()));
    add(time, "beat-type", static_cast<int>(4 * length(bar).bottom()));
    if (bar > 0) return;
    add(attributes, "staves", 2);
    xml_node clef = attributes.append_child("clef");
    clef.append_attribute("number") = 1;
    add(clef, "sign", "G"), add(clef, "line", 2), add(clef, "clef-octave-change", -1);
    clef = attributes.append_child("clef");
    clef.append_attribute("number") = 2;
    add(clef, "sign", "TAB"), add(clef, "line", 5);
    xml_node details = attributes.append_child("staff-details");
    details.append_attribute("number") = 2;
    add(details, "staff-lines", piece_.guitar.strings());
    for (int s = 0; s < piece_.guitar.strings(); ++s) {
      const auto step = musicxml::stepOf(piece_.guitar.tuning.strings[static_cast<std::size_t>(s)], flats_);
      xml_node tuning = details.append_child("staff-tuning");
      tuning.append_attribute("line") = s + 1;
      add(tuning, "tuning-step", std::string(1, step.letter));
      if (step.alter != 0) add(tuning, "tuning-alter", step.alter);
      add(tuning, "tuning-octave", step.octave);
    }
    if (piece_.guitar.capo.fret > 0) add(details, "capo", piece_.guitar.capo.fret);
  }

  /// Marks, the tempo and the chords that fall into a bar, each as far into it as it stands.
  /// @param afterJump  a chord that goes on is said again, as another one may have been played before
  void writeDirections(xml_node measure, std::size_t bar, bool afterJump) const {
    const auto inBar = [&](Beats at) { return at >= bars_[bar] && at < bars_[bar + 1]; };
    const auto offset = [&](xml_node to, Beats at) {
      if (at > bars_[bar]) add(to, "offset", units(at - bars_[bar]));
    };
    if (bar == 0 && piece_.tempo) {
      xml_node direction = measure.append_child("direction");
      direction.append_attribute("placement") = "above";
      xml_node metronome = direction.append_child("direction-type").append_child("metronome");
      add(metronome, "beat-unit", "quarter");
      add(metronome, "per-minute", plainNumber(piece_.tempo->value));
      direction.append_child("sound").append_attribute("tempo") = plainNumber(piece_.tempo->value).c_str();
    }
    if (bar == 0 && piece_.swing.ratio != 1.0) writeSwing(measure);
    for (const auto& [at, name] : piece_.marks) {
      if (!inBar(at) || name.empty()) continue;
      xml_node direction = measure.append_child("direction");
      direction.append_attribute("placement") = "above";
      add(direction.append_child("direction-type"), "rehearsal", name);
      offset(direction, at);
    }
    std::optional<Chord> held;
    for (const auto& [at, chord] : piece_.chords)
      if (at <= bars_[bar]) held = chord;
    const auto starts = [&](const auto& c) { return c.first == bars_[bar]; };
    if (afterJump && held && std::none_of(piece_.chords.begin(), piece_.chords.end(), starts))
      writeChord(measure, *held);
    for (const auto& [at, chord] : piece_.chords)
      if (inBar(at)) offset(writeChord(measure, chord), at);
  }

  /// In whole numbers, as the format has it; the exact ratio stands among the miscellaneous fields.
  void writeSwing(xml_node measure) const {
    constexpr int kOf = 100;
    const int first = static_cast<int>(std::lround(piece_.swing.ratio * kOf)), common = std::gcd(first, kOf);
    xml_node swing = measure.append_child("sound").append_child("swing");
    add(swing, "first", first / common);
    add(swing, "second", kOf / common);
    add(swing, "swing-type", piece_.swing.level == SwingLevel::sixteenths ? "16th" : "eighth");
  }

  xml_node writeChord(xml_node measure, const Chord& chord) const {
    const auto name = [&](xml_node to, const char* step, const char* alter, PitchClass pc) {
      const auto is = musicxml::stepOf(pc.value, flats_);
      add(to, step, std::string(1, is.letter));
      if (is.alter != 0) add(to, alter, is.alter);
    };
    xml_node harmony = measure.append_child("harmony");
    name(harmony.append_child("root"), "root-step", "root-alter", chord.root);
    xml_node kind = add(harmony, "kind", std::string(musicxml::kindOf(*chord.type)));
    kind.append_attribute("text") = std::string(chord.type->symbol).c_str();
    if (chord.bass && *chord.bass != chord.root)
      name(harmony.append_child("bass"), "bass-step", "bass-alter", *chord.bass);
    writeFrame(harmony, chord);
    return harmony;
  }

  /// The usual grip of a chord on this guitar, frets counted from the capo.
  void writeFrame(xml_node harmony, const Chord& chord) const {
    const auto known = grips_.find(chordName(chord, Spelling::sharps));
    if (known == grips_.end() || known->second.empty()) return;
    constexpr int kFrets = 4;
    const Fingering& grip = known->second.front();
    const int first = grip.grip.high <= kFrets ? 1 : grip.grip.low;
    xml_node frame = harmony.append_child("frame");
    add(frame, "frame-strings", piece_.guitar.strings());
    add(frame, "frame-frets", std::max(kFrets, grip.grip.high - first + 1));
    if (first > 1) add(frame, "first-fret", first);
    for (const FretPosition& place : grip.places) {
      xml_node note = frame.append_child("frame-note");
      add(note, "string", piece_.guitar.strings() - place.string);
      add(note, "fret", place.fret);
    }
  }

  void writeRest(xml_node measure, Beats from, Beats to, int staff, int voice, bool whole) const {
    if (from >= to) return;
    if (!whole && voice != 1 && voice != 5) {  // a second voice is silent without signs
      xml_node forward = measure.append_child("forward");
      add(forward, "duration", units(to - from));
      add(forward, "voice", voice), add(forward, "staff", staff);
      return;
    }
    for (const TiedPiece& piece :
         whole ? std::vector<TiedPiece>{{from, to - from, {}}} : tiedPieces(from, to - from, bars_)) {
      xml_node note = measure.append_child("note");
      xml_node rest = note.append_child("rest");
      if (whole) rest.append_attribute("measure") = "yes";
      add(note, "duration", units(piece.length));
      add(note, "voice", voice);
      writeValue(note, piece.value);
      add(note, "staff", staff);
    }
  }

  static void writeValue(xml_node note, const std::optional<NoteValue>& value) {
    if (!value) return;
    add(note, "type", typeName(value->part));
    for (int d = 0; d < value->dots; ++d) note.append_child("dot");
    if (value->tuple == value->inTimeOf) return;
    xml_node change = note.append_child("time-modification");
    add(change, "actual-notes", value->tuple);
    add(change, "normal-notes", value->inTimeOf);
  }

  void writeVoice(xml_node measure, std::size_t bar, const Voice* voice, int staff, int number) const {
    const Beats from = bars_[bar], to = bars_[bar + 1];
    Beats at = from;
    if (voice != nullptr)
      for (std::size_t i = 0; i < voice->row.pieces.size(); ++i) {
        const RhythmPiece& piece = voice->row.pieces[i];
        if (piece.at < from || piece.at >= to) continue;
        writeRest(measure, at, piece.at, staff, number, false);
        writePiece(measure, *voice, i, staff, number);
        at = piece.at + piece.length;
      }
    writeRest(measure, at, to, staff, number, at == from);
  }

  void writePiece(xml_node measure, const Voice& voice, std::size_t i, int staff, int number) const {
    const auto& pieces = voice.row.pieces;
    if (pieces[i].rest) return writeRest(measure, pieces[i].at, pieces[i].at + pieces[i].length, staff, number, false);
    // The moment that the piece belongs to began at the first piece of its tie.
    std::size_t first = i, last = i;
    while (first > 0 && pieces[first].tied) --first;
    while (last + 1 < pieces.size() && pieces[last + 1].tied) ++last;
    const auto moment = voice.moments.find(pieces[first].at);
    if (moment == voice.moments.end()) return;
    const Beats written = pieces[last].at + pieces[last].length - pieces[first].at;
    bool chord = false;
    for (const Note* n : moment->second) {
      xml_node note = measure.append_child("note");
      if (chord) note.append_child("chord");
      writeNote(note, *n, voice.row, i, {first, last}, written, staff, number, chord);
      chord = true;
    }
  }

  void writeNote(xml_node note, const Note& n, const RhythmRow& row, std::size_t i,
                 std::pair<std::size_t, std::size_t> tie, Beats written, int staff, int voice, bool chord) const {
    const RhythmPiece& piece = row.pieces[i];
    const bool starts = i == tie.first, ends = i == tie.second;
    const auto step = musicxml::stepOf(piece_.guitar.pitch(n.place), flats_);
    xml_node pitch = note.append_child("pitch");
    add(pitch, "step", std::string(1, step.letter));
    if (step.alter != 0) add(pitch, "alter", step.alter);
    add(pitch, "octave", step.octave);
    add(note, "duration", units(piece.length));
    if (!starts) note.append_child("tie").append_attribute("type") = "stop";
    if (!ends) note.append_child("tie").append_attribute("type") = "start";
    add(note, "voice", voice);
    writeValue(note, piece.value);
    if (n.tone == Tone::dead) add(note, "notehead", "x");
    if (n.tone == Tone::ghost) add(note, "notehead", "normal").append_attribute("parentheses") = "yes";
    add(note, "staff", staff);
    if (!chord)
      for (const Beam& b : row.beams) {
        if (i < b.first || i > b.last) continue;
        const char* how = b.first == b.last ? (b.backward ? "backward hook" : "forward hook")
                          : i == b.first    ? "begin"
                          : i == b.last     ? "end"
                                            : "continue";
        add(note, "beam", how).append_attribute("number") = b.level;
      }
    xml_node notations = note.append_child("notations");
    if (!starts) notations.append_child("tied").append_attribute("type") = "stop";
    if (!ends) notations.append_child("tied").append_attribute("type") = "start";
    if (n.letRing && ends) notations.append_child("tied").append_attribute("type") = "let-ring";
    if (!chord)
      for (const Tuplet& t : row.tuplets) {
        if (i == t.first) notations.append_child("tuplet").append_attribute("type") = "start";
        if (i == t.last && t.first != t.last) notations.append_child("tuplet").append_attribute("type") = "stop";
      }
    if (staff == 2) {
      const auto leads = leadsOn_.find(n.id);
      const Note* to = leads == leadsOn_.end() ? nullptr : leads->second;
      musicxml::HandMarks{n, led_.contains(n.id), to, piece_.guitar.strings(), written}.write(notations, starts);
    }
    if (!notations.first_child()) note.remove_child(notations);
    if (n.palmMuted && staff == 2) add(note.append_child("play"), "mute", "palm");
  }

  xml_node part_;
  const TabPiece& piece_;
  const std::vector<Beats>& bars_;
  const WrittenBars& written_;
  int divisions_;
  bool flats_;
  std::vector<Voice> voices_;
  std::map<int, const Note*> leadsOn_;                   // by id: the note that is hammered, pulled or slid to from it
  std::map<int, const Note*> led_;                       // by id: the note that leads to it
  std::map<std::string, std::vector<Fingering>> grips_;  // by the chord's name; none or the usual one
};

void miscellaneous(xml_node to, const char* name, const std::string& text) {
  add(to, "miscellaneous-field", text).append_attribute("name") = name;
}

}  // namespace

std::string writeMusicXml(const std::vector<TabPiece>& pieces, bool withRepeats) {
  pugi::xml_document document;
  xml_node declaration = document.append_child(pugi::node_declaration);
  declaration.append_attribute("version") = "1.0";
  declaration.append_attribute("encoding") = "UTF-8";
  xml_node score = document.append_child("score-partwise");
  score.append_attribute("version") = "4.0";
  if (pieces.empty()) return {};
  const TabPiece& first = pieces.front();
  add(score.append_child("work"), "work-title", first.title);
  xml_node identification = score.append_child("identification");
  add(identification.append_child("encoding"), "software", "Inner Ear");
  xml_node more = identification.append_child("miscellaneous");
  miscellaneous(more, "reference-cents", plainNumber(first.guitar.offset.value));
  miscellaneous(more, "swing-ratio", plainNumber(first.swing.ratio));
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const std::string part = "P" + std::to_string(i + 1);
    miscellaneous(more, (part + "-frets").c_str(), std::to_string(pieces[i].guitar.frets));
    if (pieces[i].guitar.capo.strings != 0)
      miscellaneous(more, (part + "-capo-strings").c_str(), std::to_string(pieces[i].guitar.capo.strings));
  }
  // The longest piece tells how far the bars go; of one song they are the same.
  const auto longest = std::max_element(pieces.begin(), pieces.end(), [](const TabPiece& a, const TabPiece& b) {
    return a.barLines.back() < b.barLines.back();
  });
  xml_node list = score.append_child("part-list");
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    xml_node part = list.append_child("score-part");
    part.append_attribute("id") = ("P" + std::to_string(i + 1)).c_str();
    add(part, "part-name", pieces[i].name.empty() ? "Guitar" : pieces[i].name);
  }
  const int divisions = divisionsOf(pieces);
  const auto& bars = longest->barLines;
  const WrittenBars written = withRepeats ? repeatedBars(pieces, bars) : allBars(bars.size() - 1);
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    xml_node part = score.append_child("part");
    part.append_attribute("id") = ("P" + std::to_string(i + 1)).c_str();
    Part(part, pieces[i], bars, written, divisions).write();
  }
  std::ostringstream out;
  document.save(out, " ", pugi::format_indent, pugi::encoding_utf8);
  return out.str();
}

}  // namespace ear
