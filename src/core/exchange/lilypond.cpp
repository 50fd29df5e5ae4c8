// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/lilypond.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <sstream>

#include "core/base/text.h"
#include "core/engraving/rhythm_row.h"
#include "core/engraving/tab_score.h"
#include "core/exchange/musicxml_words.h"
#include "core/theory/harmonic.h"

namespace ear {
namespace {

std::string quoted(const std::string& text) {
  std::string out = "\"";
  for (const char c : text) {
    if (c == '"' || c == '\\') out += '\\';
    out += c == '\n' ? ' ' : c;
  }
  return out + "\"";
}

/// In English names: "ef'" for E flat above middle C.
std::string pitchName(int midi, bool flats) {
  const auto step = musicxml::stepOf(midi, flats);
  std::string name(1, static_cast<char>(step.letter - 'A' + 'a'));
  if (step.alter != 0) name += step.alter < 0 ? "f" : "s";
  for (int o = 3; o < step.octave; ++o) name += '\'';
  for (int o = step.octave; o < 3; ++o) name += ',';
  return name;
}

std::string valueName(const NoteValue& value) {
  return std::to_string(value.part) + std::string(static_cast<std::size_t>(value.dots), '.');
}

/// A length that is no single value is scaled: "1*5/28".
std::string lengthName(const std::optional<NoteValue>& value, Beats length) {
  if (value) return valueName(*value);
  const Beats whole = length * Beats(1, 4);
  return "1*" + std::to_string(whole.top()) + "/" + std::to_string(whole.bottom());
}

/// "ef1:m7/+df", as chords are written in chord mode; the bare root where it has no word for the kind.
std::string chordMode(const Chord& chord, const std::string& length, bool flats) {
  static const std::map<std::string_view, const char*> kKinds = {
      {"maj", ""},       {"min", ":m"},     {"7", ":7"},       {"maj7", ":maj7"},     {"min7", ":m7"},
      {"dim", ":dim"},   {"aug", ":aug"},   {"dim7", ":dim7"}, {"hdim7", ":m7.5-"},   {"minmaj7", ":m7+"},
      {"maj6", ":6"},    {"min6", ":m6"},   {"9", ":9"},       {"maj9", ":maj9"},     {"min9", ":m9"},
      {"sus2", ":sus2"}, {"sus4", ":sus4"}, {"5", ":1.5"},     {"sus4(b7)", ":7sus4"}};
  const auto name = [&](PitchClass pc) {
    std::string pitch = pitchName(48 + pc.value, flats);
    pitch.erase(pitch.find_last_not_of("',") + 1);
    return pitch;
  };
  const auto kind = kKinds.find(chord.type->harte);
  std::string text = name(chord.root) + length + (kind == kKinds.end() ? "" : kind->second);
  if (chord.bass && *chord.bass != chord.root) text += "/+" + name(*chord.bass);
  return text;
}

bool isNatural(const Note& n) {
  return n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::natural;
}

/// The fret over which every note of a moment is touched for a harmonic that speaks there; else 0.
int touchedFret(const std::vector<const Note*>& notes) {
  const int fret = notes.front()->place.fret;
  const bool all =
      std::all_of(notes.begin(), notes.end(), [&](const Note* n) { return isNatural(*n) && n->place.fret == fret; });
  return all && harmonicAbove(fret) ? fret : 0;
}

class Writer {
 public:
  Writer(std::ostream& out, const TabPiece& piece, const std::vector<Beats>& bars)
      : out_(out), piece_(piece), bars_(bars), flats_(piece.key && musicxml::fifthsOf(*piece.key) < 0) {
    std::map<int, const Note*> before;
    for (const Note& n : piece.notes) {
      if (const Note* led = before[n.place.string]; led != nullptr) {
        if (n.attack == Attack::hammeredOn || n.attack == Attack::pulledOff)
          slursFrom_.insert(led->id), slursTo_.insert(n.id);
        if (n.attack == Attack::slidInto && !n.slidFrom) slidesFrom_.insert(led->id);
      }
      before[n.place.string] = &n;
    }
  }

  void voice(int number) {
    std::vector<Note> notes;
    for (const Note& n : piece_.notes)
      if (n.voice == number) notes.push_back(n);
    const RhythmRow row = rhythmOf(notes, bars_);
    std::map<Beats, std::vector<const Note*>> moments;
    for (const Note& n : piece_.notes)
      if (n.voice == number) moments[n.at].push_back(&n);
    Beats at = bars_.front(), start = at;
    std::size_t bar = 0;
    for (std::size_t i = 0; i < row.pieces.size(); ++i) {
      const RhythmPiece& piece = row.pieces[i];
      rest(at, piece.at, bar);
      toBar(piece.at, bar);
      for (const Tuplet& t : row.tuplets)
        if (t.first == i && piece.value)
          out_ << "\\tuplet " << piece.value->tuple << "/" << piece.value->inTimeOf << " { ";
      if (!piece.tied) start = piece.at;
      const bool tiedOn = i + 1 < row.pieces.size() && row.pieces[i + 1].tied;
      if (const auto moment = moments.find(start); piece.rest || moment == moments.end())
        out_ << "r" << lengthName(piece.value, piece.length);
      else
        chord(moment->second, piece, tiedOn, !piece.tied);
      for (const Tuplet& t : row.tuplets)
        if (t.last == i && piece.value) out_ << " }";
      out_ << ' ';
      at = piece.at + piece.length;
    }
    rest(at, bars_.back(), bar);
    out_ << "\n";
  }

  void chordNames() {
    Beats at = bars_.front();
    std::optional<Chord> now;
    const auto put = [&](Beats until) {
      if (until <= at) return;
      const std::string length = lengthName({}, until - at);
      if (!now)
        out_ << "s" << length << ' ';
      else
        out_ << chordMode(*now, length, flats_) << ' ';
      at = until;
    };
    for (const auto& [from, chord] : piece_.chords) {
      if (from >= bars_.back()) break;
      put(from);
      now = chord;
    }
    put(bars_.back());
    out_ << "\n";
  }

 private:
  void toBar(Beats at, std::size_t& bar) {
    while (bar + 1 < bars_.size() && bars_[bar] <= at) {
      const Beats length = bars_[bar + 1] - bars_[bar];
      out_ << (bar == 0 ? "" : "|\n") << "  % bar " << piece_.firstBar + static_cast<int>(bar) << "\n  ";
      if (bar == 0 || length != bars_[bar] - bars_[bar - 1])
        out_ << "\\time " << length.top() << "/" << 4 * length.bottom() << " ";
      for (const auto& [where, name] : piece_.marks)
        if (where >= bars_[bar] && where < bars_[bar + 1]) out_ << "\\mark " << quoted(name) << " ";
      ++bar;
    }
  }

  void rest(Beats from, Beats to, std::size_t& bar) {
    if (from >= to) return;
    for (const TiedPiece& piece : tiedPieces(from, to - from, bars_)) {
      toBar(piece.at, bar);
      out_ << "r" << lengthName(piece.value, piece.length) << ' ';
    }
  }

  void chord(const std::vector<const Note*>& notes, const RhythmPiece& piece, bool tiedOn, bool starts) {
    // Touched over one fret all of them are written from the open string, and sound their partial.
    const int over = touchedFret(notes);
    if (over > 0) out_ << "\\harmonicByFret #" << over << ' ';
    out_ << '<';
    bool first = true, ring = false, mute = false, slurFrom = false, slurTo = false, slide = false;
    std::string words;
    for (const Note* n : notes) {
      out_ << (first ? "" : " ");
      first = false;
      if (n->tone == Tone::dead) out_ << "\\deadNote ";
      if (n->tone == Tone::ghost) out_ << "\\parenthesize ";
      const int midi = over > 0 ? piece_.guitar.open(n->place.string) : piece_.guitar.pitch(n->place);
      out_ << pitchName(midi, flats_) << "\\" << piece_.guitar.strings() - n->place.string;
      if (over == 0 && isNatural(*n)) out_ << "\\harmonic";
      ring = ring || n->letRing, mute = mute || n->palmMuted;
      slurFrom = slurFrom || slursFrom_.contains(n->id), slurTo = slurTo || slursTo_.contains(n->id);
      slide = slide || slidesFrom_.contains(n->id);
      if (!starts) continue;
      const auto word = [&](const std::string& text) { words += (words.empty() ? "" : ", ") + text; };
      if (n->bend && n->bend->size)
        word(std::string(n->bend->before ? "bent " : "bend ") + bendMark({}, *n->bend->size) +
             (n->bend->released ? " and back" : ""));
      if (n->vibrato) word("~");
      if (n->attack == Attack::tapped) word("tap");
    }
    out_ << '>' << lengthName(piece.value, piece.length);
    if (tiedOn) out_ << '~';
    if (slurTo && starts) out_ << ')';
    if (slurFrom && !tiedOn) out_ << '(';
    if (slide && !tiedOn) out_ << "\\glissando";
    if (ring && !tiedOn) out_ << "\\laissezVibrer";
    if (mute && starts) word("palm", words);
    if (!words.empty()) out_ << "^" << quoted(words);
  }
  static void word(const std::string& text, std::string& words) { words += (words.empty() ? "" : ", ") + text; }

  std::ostream& out_;
  const TabPiece& piece_;
  const std::vector<Beats>& bars_;
  bool flats_;
  std::set<int> slursFrom_, slursTo_, slidesFrom_;  // ids
};

std::string letters(std::size_t i) {
  return std::string(1, static_cast<char>('A' + i % 26));
}

}  // namespace

std::string writeLilyPond(const std::vector<TabPiece>& pieces) {
  std::ostringstream out;
  if (pieces.empty()) return {};
  const TabPiece& first = pieces.front();
  const auto longest = std::max_element(pieces.begin(), pieces.end(), [](const TabPiece& a, const TabPiece& b) {
    return a.barLines.back() < b.barLines.back();
  });
  out << "\\version \"2.24.0\"\n\\language \"english\"\n\\header { title = " << quoted(first.title)
      << " tagline = ##f }\n\n";
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const TabPiece& p = pieces[i];
    Writer writer(out, p, longest->barLines);
    const bool flats = p.key && musicxml::fifthsOf(*p.key) < 0;
    for (const int v : {0, 1}) {
      if (v == 1 && std::none_of(p.notes.begin(), p.notes.end(), [](const Note& n) { return n.voice == 1; })) continue;
      out << "guitar" << letters(i) << (v == 0 ? "Upper" : "Lower") << " = {\n  ";
      if (p.key)
        out << "\\key " << pitchName(48 + p.key->tonic.value, flats)
            << (p.key->mode == Mode::minor ? " \\minor" : " \\major") << "\n  ";
      if (p.tempo) out << "\\tempo 4 = " << std::lround(p.tempo->value) << "\n";
      writer.voice(v);
      out << "}\n\n";
    }
  }
  if (!first.chords.empty()) {
    out << "harmonies = \\chordmode {\n  ";
    Writer(out, first, longest->barLines).chordNames();
    out << "}\n\n";
  }
  out << "\\score {\n  <<\n";
  if (!first.chords.empty()) out << "    \\new ChordNames { \\harmonies }\n";
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const TabPiece& p = pieces[i];
    const bool two = std::any_of(p.notes.begin(), p.notes.end(), [](const Note& n) { return n.voice == 1; });
    const std::string upper = "\\guitar" + letters(i) + "Upper", lower = "\\guitar" + letters(i) + "Lower";
    out << "    \\new Staff \\with { instrumentName = " << quoted(p.name)
        << " \\omit StringNumber } << \\clef \"treble_8\" ";
    out << (two ? "\\new Voice { \\voiceOne " + upper + " } \\new Voice { \\voiceTwo " + lower + " }" : upper)
        << " >>\n";
    out << "    \\new TabStaff \\with { stringTunings = \\stringTuning <";
    // With the capo on, as frets are counted from it.
    for (int s = 0; s < p.guitar.strings(); ++s) out << (s > 0 ? " " : "") << pitchName(p.guitar.open(s), false);
    out << "> } << ";
    out << (two ? "\\new TabVoice { \\voiceOne " + upper + " } \\new TabVoice { \\voiceTwo " + lower + " }" : upper)
        << " >>\n";
  }
  out << "  >>\n  \\layout { }\n  \\midi { }\n}\n";
  return out.str();
}

}  // namespace ear
