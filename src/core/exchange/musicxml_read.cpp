// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <map>
#include <numeric>
#include <pugixml.hpp>
#include <set>

#include "core/base/text.h"
#include "core/exchange/musicxml.h"
#include "core/exchange/musicxml_repeats.h"
#include "core/exchange/musicxml_words.h"
#include "core/phrase/phrase.h"
#include "core/phrase/placing.h"

namespace ear {
namespace {

using pugi::xml_node;

constexpr std::size_t kMostNotes = 20'000;  // of a part, as of a phrase
constexpr std::size_t kMostBars = 10'000;
constexpr int kMostStrings = 12;

std::string textOf(const xml_node& node) {
  return asUtf8(node.text().get());
}

/// Without what the decimal point adds or takes.
Cents sizeOf(double semitones) {
  return Cents(std::round(std::abs(semitones) * 1e6) / 1e4);
}

int whole(const xml_node& node, int otherwise, int low, int high) {
  return node ? std::clamp(node.text().as_int(otherwise), low, high) : otherwise;
}

/// A note as it stands in the file, before ties are joined and places are found.
struct Raw {
  Note note;
  int midi = 0;
  std::string voice;
  int staff = 1;
  bool placed = false;
  bool tieStop = false, tieStart = false;
  Beats heldTo{};      ///< as its elements say; `note.length` may be known more exactly
  bool exact = false;  ///< it is
};

class PartReader {
 public:
  PartReader(xml_node part, std::set<std::string>& losses) : part_(part), losses_(losses) {}

  TabPiece read() {
    piece_.barLines = {Beats(0)};
    for (const xml_node measure : musicxml::playedMeasures(part_, kMostBars + 1, losses_)) {
      if (piece_.barLines.size() > kMostBars || raws_.size() > kMostNotes) {
        losses_.insert("What lies behind its first 20 000 notes or 10 000 bars was left out.");
        break;
      }
      if (piece_.barLines.size() == 1) {
        const int number = measure.attribute("number").as_int(1);
        piece_.firstBar = std::clamp(number, 0, 100'000);
      }
      readMeasure(measure);
    }
    if (piece_.barLines.size() < 2) piece_.barLines.push_back(Beats(4));
    finish();
    return std::move(piece_);
  }

 private:
  Beats units(const xml_node& node) const {
    return Beats(std::clamp(node.text().as_llong(), 0LL, 10'000'000LL), divisions_);
  }

  void readMeasure(const xml_node& measure) {
    const Beats start = piece_.barLines.back();
    Beats at = start, reached = start, chordAt = start;
    for (const xml_node child : measure.children()) {
      const std::string_view name = child.name();
      if (name == "attributes") {
        readAttributes(child);
      } else if (name == "backup") {
        at = std::max(start, at - units(child.child("duration")));
      } else if (name == "forward") {
        at += units(child.child("duration"));
      } else if (name == "direction") {
        readDirection(child, at);
      } else if (name == "harmony") {
        readHarmony(child, at);
      } else if (name == "sound") {
        readSound(child);
      } else if (name == "note") {
        if (child.child("grace")) {
          losses_.insert("Grace notes are left out.");
          continue;
        }
        const Beats length = units(child.child("duration"));
        if (child.child("chord"))
          readNote(child, chordAt, length);
        else {
          chordAt = at;
          readNote(child, at, length);
          at += length;
        }
      }
      if (!at.sane()) at = start;
      reached = std::max(reached, at);
    }
    // A bar that says nothing of its length is as long as its time signature.
    const Beats end = start + (reached > start ? reached - start : barLength_);
    piece_.barLines.push_back(end.sane() ? end : Beats(start.floor() + 4));
  }

  void readAttributes(const xml_node& attributes) {
    if (const xml_node d = attributes.child("divisions")) divisions_ = whole(d, 1, 1, 100'000);
    // No signs and no mode are what is written where no key is known.
    if (const xml_node key = attributes.child("key"); key && !piece_.key && key.child("fifths"))
      if (const int fifths = whole(key.child("fifths"), 0, -7, 7); fifths != 0 || key.child("mode"))
        piece_.key = musicxml::keyOf(fifths, textOf(key.child("mode")) == "minor" ? Mode::minor : Mode::major);
    if (const xml_node time = attributes.child("time"); time && time.child("beats")) {
      const int beats = whole(time.child("beats"), 4, 1, 64), type = whole(time.child("beat-type"), 4, 1, 64);
      barLength_ = Beats(4 * beats, type);
    }
    for (const xml_node clef : attributes.children("clef"))
      if (textOf(clef.child("sign")) == "TAB") tabStaff_ = clef.attribute("number").as_int(1);
    for (const xml_node details : attributes.children("staff-details")) readTuning(details);
    if (const xml_node transpose = attributes.child("transpose"))
      transposed_ = std::clamp(transpose.child("chromatic").text().as_int(), -24, 24) +
                    12 * std::clamp(transpose.child("octave-change").text().as_int(), -3, 3);
  }

  void readTuning(const xml_node& details) {
    std::map<int, int> strings;  // by line, the lowest first
    for (const xml_node tuning : details.children("staff-tuning")) {
      const std::string letter = textOf(tuning.child("tuning-step"));
      if (letter.size() != 1 || letter[0] < 'A' || letter[0] > 'G') continue;
      strings[std::clamp(tuning.attribute("line").as_int(), 1, kMostStrings)] = musicxml::midiOf(
          {letter[0], whole(tuning.child("tuning-alter"), 0, -2, 2), whole(tuning.child("tuning-octave"), 3, 0, 8)});
    }
    Tuning tuning;
    for (const auto& [line, midi] : strings) tuning.strings.push_back(midi);
    Capo capo = piece_.guitar.capo;
    if (const xml_node node = details.child("capo")) capo.fret = whole(node, 0, 0, 24);
    if (strings.empty()) tuning = piece_.guitar.tuning;
    if (isGuitar(tuning, capo))
      piece_.guitar.tuning = tuning, piece_.guitar.capo = capo;
    else
      losses_.insert("A tuning that no guitar here can have was read as standard tuning.");
  }

  void readSound(const xml_node& sound) {
    if (const double tempo = sound.attribute("tempo").as_double(); tempo >= 20 && tempo <= 400 && !piece_.tempo)
      piece_.tempo = Bpm(tempo);
    const xml_node swing = sound.child("swing");
    if (const int second = whole(swing.child("second"), 0, 0, 1000); second > 0) {
      piece_.swing.ratio = static_cast<double>(whole(swing.child("first"), 1, 1, 5000)) / second;
      if (textOf(swing.child("swing-type")) == "16th") piece_.swing.level = SwingLevel::sixteenths;
    }
  }

  Beats placeOf(const xml_node& node, Beats at) const {
    const Beats place =
        at + Beats(std::clamp(node.child("offset").text().as_llong(), -1'000'000LL, 1'000'000LL), divisions_);
    return std::max(piece_.barLines.back(), place.sane() ? place : at);
  }

  void readDirection(const xml_node& direction, Beats at) {
    readSound(direction.child("sound"));
    for (const xml_node type : direction.children("direction-type"))
      for (const xml_node mark : type.children("rehearsal"))
        if (const std::string text = shortened(textOf(mark), 200); !text.empty())
          piece_.marks.emplace_back(placeOf(direction, at), text);
  }

  static std::optional<PitchClass> pitchClassOf(const xml_node& node, const char* step, const char* alter) {
    const std::string letter = textOf(node.child(step));
    if (letter.size() != 1 || letter[0] < 'A' || letter[0] > 'G') return std::nullopt;
    return PitchClass(musicxml::midiOf({letter[0], whole(node.child(alter), 0, -2, 2), 4}));
  }

  void readHarmony(const xml_node& harmony, Beats at) {
    const auto root = pitchClassOf(harmony.child("root"), "root-step", "root-alter");
    const ChordType* type = musicxml::typeOf(textOf(harmony.child("kind")));
    if (type == nullptr) type = chordType(harmony.child("kind").attribute("text").as_string());
    if (!root || type == nullptr) {
      losses_.insert("A chord whose kind is not known here was left out.");
      return;
    }
    Chord chord{*root, type, pitchClassOf(harmony.child("bass"), "bass-step", "bass-alter")};
    piece_.chords.emplace_back(placeOf(harmony, at), chord);
  }

  void readNote(const xml_node& from, Beats at, Beats length) {
    if (from.child("rest") || from.child("cue")) return;
    if (length <= Beats(0) || !(at + length).sane()) return;
    Raw raw;
    raw.voice = textOf(from.child("voice"));
    raw.staff = whole(from.child("staff"), 1, 1, 16);
    raw.note.at = at, raw.note.length = length;
    const xml_node pitch = from.child("pitch");
    const std::string letter = textOf(pitch.child("step"));
    if (letter.size() == 1 && letter[0] >= 'A' && letter[0] <= 'G')
      raw.midi = std::clamp(
          musicxml::midiOf({letter[0], whole(pitch.child("alter"), 0, -2, 2), whole(pitch.child("octave"), 4, -1, 9)}) +
              transposed_,
          0, 127);
    else if (!from.child("notations").child("technical").child("fret")) {
      losses_.insert("Notes without a pitch are left out.");
      return;
    }
    for (const xml_node tie : from.children("tie")) {
      raw.tieStop = raw.tieStop || std::strcmp(tie.attribute("type").as_string(), "stop") == 0;
      raw.tieStart = raw.tieStart || std::strcmp(tie.attribute("type").as_string(), "start") == 0;
    }
    const xml_node head = from.child("notehead");
    if (textOf(head) == "x") raw.note.tone = Tone::dead;
    if (head.attribute("parentheses").as_bool()) raw.note.tone = Tone::ghost;
    if (textOf(from.child("play").child("mute")) == "palm") raw.note.palmMuted = true;
    for (const xml_node notations : from.children("notations")) readNotations(notations, raw);
    raw.heldTo = at + length;
    raw.exact = raw.note.length != length;
    raws_.push_back(std::move(raw));
  }

  void readNotations(const xml_node& notations, Raw& raw) {
    Note& n = raw.note;
    for (const xml_node child : notations.children()) {
      const std::string_view name = child.name();
      const std::string_view type = child.attribute("type").as_string();
      if (name == "tied" && type == "let-ring") n.letRing = true;
      if ((name == "slide" || name == "glissando") && type == "stop") n.attack = Attack::slidInto;
      if (name == "ornaments") {
        if (child.child("wavy-line")) n.vibrato = Vibrato{};
        if (const xml_node t = child.child("tremolo")) n.tremolo = Tremolo{1 << whole(t, 3, 0, 6)};
      }
      if (name == "articulations") {
        n.staccato = n.staccato || child.child("staccato");
        if (child.child("scoop")) n.attack = Attack::slidFromBelow;
        if (child.child("plop")) n.attack = Attack::slidFromAbove;
        if (child.child("doit")) n.ending = Ending::slidUp;
        if (child.child("falloff")) n.ending = Ending::slidDown;
      }
      if (name == "technical") readTechnical(child, raw);
    }
  }

  void readTechnical(const xml_node& technical, Raw& raw) {
    Note& n = raw.note;
    const int strings = piece_.guitar.strings();
    if (technical.child("string") && technical.child("fret")) {
      const int string = strings - whole(technical.child("string"), 1, 1, kMostStrings);
      const int fret = whole(technical.child("fret"), 0, 0, 36);
      if (string >= 0 && fret <= 30) n.place = {string, fret}, raw.placed = true;
    }
    const auto stops = [&](const char* name) {
      for (const xml_node e : technical.children(name))
        if (std::strcmp(e.attribute("type").as_string(), "stop") == 0) return true;
      return false;
    };
    if (stops("hammer-on")) n.attack = Attack::hammeredOn;
    if (stops("pull-off")) n.attack = Attack::pulledOff;
    if (technical.child("tap")) n.attack = Attack::tapped;
    if (technical.child("down-bow")) n.picking = Picking::down;
    if (technical.child("up-bow")) n.picking = Picking::up;
    if (const std::string pluck = textOf(technical.child("pluck")); pluck.size() == 1)
      if (const auto* at = std::strchr("pima", pluck[0]))
        n.picking = static_cast<Picking>(static_cast<int>(Picking::thumb) + (at - std::strchr("pima", 'p')));
    if (const std::string finger = textOf(technical.child("fingering")); finger.size() == 1)
      n.finger = finger == "T" || finger == "t"         ? Finger::thumb
                 : finger[0] >= '1' && finger[0] <= '4' ? static_cast<Finger>(finger[0] - '0')
                                                        : Finger::unsaid;
    for (const xml_node bend : technical.children("bend")) readBend(bend, n);
    if (const xml_node harmonic = technical.child("harmonic"))
      n.harmonic = PlayedHarmonic{
          harmonic.child("artificial") ? PlayedHarmonic::Kind::tapped : PlayedHarmonic::Kind::natural, 0};
    for (const xml_node other : technical.children("other-technical")) musicxml::readLeftover(textOf(other), n);
  }

  static void readBend(const xml_node& bend, Note& n) {
    const double semitones = std::clamp(bend.child("bend-alter").text().as_double(), -24.0, 24.0);
    if (bend.child("release")) {
      if (!n.bend) n.bend = Bend{sizeOf(semitones), true};
      n.bend->released = true;
      return;
    }
    if (n.bend || !std::isfinite(semitones)) return;
    n.bend = Bend{sizeOf(semitones)};
    n.bend->before = static_cast<bool>(bend.child("pre-bend"));
  }

  /// Of several staves one: the tab, else the first. Ties are joined, voices numbered, places found.
  void finish() {
    int staff = tabStaff_;
    const auto on = [&](int s) {
      return std::any_of(raws_.begin(), raws_.end(), [&](const Raw& r) { return r.staff == s; });
    };
    if (staff == 0 || !on(staff)) staff = on(1) || raws_.empty() ? 1 : raws_.front().staff;
    std::erase_if(raws_, [&](const Raw& r) { return r.staff != staff; });
    std::stable_sort(raws_.begin(), raws_.end(), [](const Raw& a, const Raw& b) { return a.note.at < b.note.at; });
    std::vector<std::string> voices;
    for (const Raw& r : raws_)
      if (std::find(voices.begin(), voices.end(), r.voice) == voices.end()) voices.push_back(r.voice);
    std::sort(voices.begin(), voices.end());
    if (voices.size() > 2) losses_.insert("Voices beyond the second were put into the second.");
    std::vector<Raw> joinedNotes;
    std::map<std::pair<int, std::string>, std::size_t> open;  // by pitch and voice: what a tie leads on from
    for (Raw& r : raws_) {
      const std::pair key{r.placed ? 1000 + 100 * r.note.place.string + r.note.place.fret : r.midi, r.voice};
      const auto tied = open.find(key);
      if (r.tieStop && tied != open.end() && joinedNotes[tied->second].heldTo == r.note.at) {
        Raw& whole = joinedNotes[tied->second];
        whole.heldTo = r.heldTo;
        if (!whole.exact) whole.note.length = whole.heldTo - whole.note.at;
        whole.note.letRing = whole.note.letRing || r.note.letRing;
        if (!r.tieStart) open.erase(tied);
        continue;
      }
      const auto place = std::find(voices.begin(), voices.end(), r.voice) - voices.begin();
      r.note.voice = static_cast<int>(std::min<std::ptrdiff_t>(1, place));
      if (r.tieStart) open[key] = joinedNotes.size();
      joinedNotes.push_back(r);
    }
    placeAll(joinedNotes);
    for (Raw& r : joinedNotes)
      if (r.placed) piece_.notes.push_back(r.note);
    putInOrder(piece_.notes);
    for (std::size_t i = 0; i < piece_.notes.size(); ++i) piece_.notes[i].id = static_cast<int>(i) + 1;
  }

  void placeAll(std::vector<Raw>& raws) {
    std::vector<NoteToPlace> line;
    std::vector<std::size_t> open;
    int moment = -1;
    for (std::size_t i = 0; i < raws.size(); ++i) {
      if (i == 0 || raws[i].note.at != raws[i - 1].note.at) ++moment;
      NoteToPlace n{.midi = raws[i].midi, .moment = moment};
      if (raws[i].placed)
        n.fixed = raws[i].note.place, n.midi = piece_.guitar.pitch(raws[i].note.place);
      else
        open.push_back(i);
      n.bent = raws[i].note.bend.has_value();
      line.push_back(n);
    }
    if (open.empty()) return;
    losses_.insert("Notes without a string and a fret were placed where they lie best under the hand.");
    const LinePlacing way = placeLine(piece_.guitar, line, {}, 1).front();
    std::size_t at = 0;
    for (std::size_t i = 0; i < raws.size(); ++i) {
      if (std::find(way.unplayable.begin(), way.unplayable.end(), i) != way.unplayable.end()) {
        losses_.insert("Notes that the guitar cannot reach were left out.");
        raws[i].placed = false;
        continue;
      }
      raws[i].note.place = way.places[at++];
      raws[i].placed = true;
    }
  }

  xml_node part_;
  std::set<std::string>& losses_;
  TabPiece piece_;
  std::vector<Raw> raws_;
  int divisions_ = 1;
  Beats barLength_ = 4;
  int tabStaff_ = 0;
  int transposed_ = 0;
};

}  // namespace

Outcome<std::vector<TabPiece>> readMusicXml(std::string_view text) {
  constexpr std::size_t kMostBytes = 32U << 20U;
  if (text.size() > kMostBytes) return Problem{"The file is larger than 32 MB: no lesson needs so much."};
  pugi::xml_document document;
  const auto result = document.load_buffer(text.data(), text.size());
  if (!result) {
    const auto line =
        1 + std::count(text.begin(),
                       text.begin() + std::min<std::ptrdiff_t>(result.offset, static_cast<std::ptrdiff_t>(text.size())),
                       '\n');
    return Problem{"This is no XML that can be read: " + std::string(result.description()) + " in line " +
                   std::to_string(line) + ". Export it again from the program it comes from."};
  }
  const xml_node score = document.child("score-partwise");
  if (!score)
    return Problem{document.child("score-timewise")
                       ? "This MusicXML is ordered by bars. Export it “partwise”, as most programs do by themselves."
                       : "This is no MusicXML: there is no score in it."};
  std::map<std::string, std::string> names;
  for (const xml_node part : score.child("part-list").children("score-part"))
    names[part.attribute("id").as_string()] = shortened(textOf(part.child("part-name")), 200);
  const std::string title =
      shortened(textOf(score.child("work").child("work-title") ? score.child("work").child("work-title")
                                                               : score.child("movement-title")),
                500);
  std::map<std::string, std::string> fields;
  for (const xml_node field : score.child("identification").child("miscellaneous").children("miscellaneous-field"))
    fields[field.attribute("name").as_string()] = textOf(field);
  const auto number = [&](const std::string& name, double otherwise) {
    const auto field = fields.find(name);
    if (field == fields.end()) return otherwise;
    const double value = std::strtod(field->second.c_str(), nullptr);
    return std::isfinite(value) ? value : otherwise;
  };
  std::vector<TabPiece> pieces;
  for (const xml_node part : score.children("part")) {
    const std::string id = part.attribute("id").as_string();
    std::set<std::string> losses;
    TabPiece piece = PartReader(part, losses).read();
    piece.title = title;
    piece.name = names[id];
    piece.guitar.offset = Cents(std::clamp(number("reference-cents", 0), -50.0, 50.0));
    piece.guitar.frets = static_cast<int>(std::clamp(number(id + "-frets", 22), 12.0, 36.0));
    const auto strings = static_cast<std::uint16_t>(std::clamp(number(id + "-capo-strings", 0), 0.0, 65535.0));
    if (isGuitar(piece.guitar.tuning, {piece.guitar.capo.fret, strings})) piece.guitar.capo.strings = strings;
    piece.swing.ratio = std::clamp(number("swing-ratio", piece.swing.ratio), 1.0, 5.0);
    piece.notKept.assign(losses.begin(), losses.end());
    if (!piece.notes.empty()) pieces.push_back(std::move(piece));
  }
  if (pieces.empty()) return Problem{"There are no notes for a guitar in this MusicXML."};
  return pieces;
}

}  // namespace ear
