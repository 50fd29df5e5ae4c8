// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/chord.h"

#include <algorithm>
#include <array>
#include <cctype>

namespace ear {
namespace {

template <int... Tones>
constexpr std::array<int, sizeof...(Tones)> kTones = {Tones...};

// Oddities rank names of the same notes as guitarists prefer them (common practice, no source): Am7 before C6, and a
// suspended fourth on one root before a suspended second on another.
constexpr std::array kTypes = {
    ChordType{"", "maj", kTones<0, 4, 7>, 0.0},
    ChordType{"m", "min", kTones<0, 3, 7>, 0.0},
    ChordType{"5", "5", kTones<0, 7>, 0.2},
    ChordType{"7", "7", kTones<0, 4, 7, 10>, 0.2},
    ChordType{"m7", "min7", kTones<0, 3, 7, 10>, 0.2},
    ChordType{"maj7", "maj7", kTones<0, 4, 7, 11>, 0.3},
    ChordType{"sus4", "sus4", kTones<0, 5, 7>, 0.4},
    ChordType{"sus2", "sus2", kTones<0, 2, 7>, 0.5},
    ChordType{"6", "maj6", kTones<0, 4, 7, 9>, 0.6},
    ChordType{"m6", "min6", kTones<0, 3, 7, 9>, 0.7},
    ChordType{"dim", "dim", kTones<0, 3, 6>, 0.5},
    ChordType{"aug", "aug", kTones<0, 4, 8>, 0.5},
    ChordType{"m7♭5", "hdim7", kTones<0, 3, 6, 10>, 0.6},
    ChordType{"dim7", "dim7", kTones<0, 3, 6, 9>, 0.6},
    ChordType{"m(maj7)", "minmaj7", kTones<0, 3, 7, 11>, 0.7},
    ChordType{"7sus4", "sus4(b7)", kTones<0, 5, 7, 10>, 0.6},
    ChordType{"7sus2", "sus2(b7)", kTones<0, 2, 7, 10>, 1.2},
    ChordType{"add9", "maj(9)", kTones<0, 4, 7, 14>, 0.6},
    ChordType{"m(add9)", "min(9)", kTones<0, 3, 7, 14>, 0.8},
    ChordType{"add11", "maj(11)", kTones<0, 4, 7, 17>, 1.0},
    ChordType{"m(add11)", "min(11)", kTones<0, 3, 7, 17>, 1.1},
    ChordType{"9", "9", kTones<0, 4, 7, 10, 14>, 0.7},
    ChordType{"m9", "min9", kTones<0, 3, 7, 10, 14>, 0.7},
    ChordType{"maj9", "maj9", kTones<0, 4, 7, 11, 14>, 0.8},
    ChordType{"9sus4", "sus4(b7,9)", kTones<0, 5, 7, 10, 14>, 1.0},
    ChordType{"6/9", "maj6(9)", kTones<0, 4, 7, 9, 14>, 0.9},
    ChordType{"m6/9", "min6(9)", kTones<0, 3, 7, 9, 14>, 1.2},
    ChordType{"7♯9", "7(#9)", kTones<0, 4, 7, 10, 15>, 0.9},
    ChordType{"7♭9", "7(b9)", kTones<0, 4, 7, 10, 13>, 1.0},
    ChordType{"7♭5", "7(b5,*5)", kTones<0, 4, 6, 10>, 1.1},
    ChordType{"aug7", "aug(b7)", kTones<0, 4, 8, 10>, 1.0},
    ChordType{"maj7♯11", "maj7(#11)", kTones<0, 4, 7, 11, 18>, 1.2},
    ChordType{"maj7♭5", "maj7(b5,*5)", kTones<0, 4, 6, 11>, 1.5},
    ChordType{"maj7♯5", "aug(7)", kTones<0, 4, 8, 11>, 1.4},
    ChordType{"7♯11", "7(#11)", kTones<0, 4, 7, 10, 18>, 1.2},
    ChordType{"aug9", "aug(b7,9)", kTones<0, 4, 8, 10, 14>, 1.5},
    ChordType{"9♭5", "9(b5,*5)", kTones<0, 4, 6, 10, 14>, 1.6},
    ChordType{"11", "11", kTones<0, 4, 7, 10, 14, 17>, 1.3},
    ChordType{"m11", "min11", kTones<0, 3, 7, 10, 14, 17>, 1.2},
    ChordType{"maj11", "maj11", kTones<0, 4, 7, 11, 14, 17>, 1.6},
    ChordType{"13", "13", kTones<0, 4, 7, 10, 14, 21>, 1.2},
    ChordType{"m13", "min13", kTones<0, 3, 7, 10, 14, 21>, 1.5},
    ChordType{"maj13", "maj13", kTones<0, 4, 7, 11, 14, 21>, 1.5},
    ChordType{"m(maj9)", "minmaj7(9)", kTones<0, 3, 7, 11, 14>, 1.4},
};

/// Spellings that players use for the same kind, after the root. Signs are # and b, letters as typed.
constexpr std::array kSynonyms = {
    std::pair{"M", ""},
    std::pair{"maj", ""},
    std::pair{"major", ""},
    std::pair{"-", "m"},
    std::pair{"min", "m"},
    std::pair{"minor", "m"},
    std::pair{"mi", "m"},
    std::pair{"-7", "m7"},
    std::pair{"min7", "m7"},
    std::pair{"mi7", "m7"},
    std::pair{"M7", "maj7"},
    std::pair{"ma7", "maj7"},
    std::pair{"Δ", "maj7"},
    std::pair{"Δ7", "maj7"},
    std::pair{"major7", "maj7"},
    std::pair{"sus", "sus4"},

    std::pair{"min6", "m6"},
    std::pair{"-6", "m6"},
    std::pair{"°", "dim"},
    std::pair{"o", "dim"},
    std::pair{"+", "aug"},
    std::pair{"#5", "aug"},
    std::pair{"ø", "m7b5"},
    std::pair{"ø7", "m7b5"},
    std::pair{"-7b5", "m7b5"},
    std::pair{"min7b5", "m7b5"},
    std::pair{"°7", "dim7"},
    std::pair{"o7", "dim7"},
    std::pair{"mM7", "m(maj7)"},
    std::pair{"mmaj7", "m(maj7)"},
    std::pair{"m/maj7", "m(maj7)"},
    std::pair{"-maj7", "m(maj7)"},
    std::pair{"mMaj7", "m(maj7)"},
    std::pair{"7sus", "7sus4"},
    std::pair{"sus7", "7sus4"},
    std::pair{"(add9)", "add9"},
    std::pair{"add2", "add9"},
    std::pair{"madd9", "m(add9)"},
    std::pair{"add4", "add11"},
    std::pair{"(add11)", "add11"},
    std::pair{"madd11", "m(add11)"},
    std::pair{"min9", "m9"},
    std::pair{"-9", "m9"},
    std::pair{"M9", "maj9"},
    std::pair{"9sus", "9sus4"},
    std::pair{"69", "6/9"},
    std::pair{"6add9", "6/9"},
    std::pair{"m69", "m6/9"},
    std::pair{"7(#9)", "7#9"},
    std::pair{"7(b9)", "7b9"},
    std::pair{"7-5", "7b5"},
    std::pair{"+7", "aug7"},
    std::pair{"7#5", "aug7"},
    std::pair{"7+5", "aug7"},
    std::pair{"M7#11", "maj7#11"},
    std::pair{"M7b5", "maj7b5"},
    std::pair{"M7#5", "maj7#5"},
    std::pair{"augmaj7", "maj7#5"},
    std::pair{"9#5", "aug9"},
    std::pair{"+9", "aug9"},
    std::pair{"min11", "m11"},
    std::pair{"min13", "m13"},
    std::pair{"M13", "maj13"},
    std::pair{"mmaj9", "m(maj9)"},
    std::pair{"mM9", "m(maj9)"},
    std::pair{"power", "5"},
    std::pair{"5(no3)", "5"},
    std::pair{"no3", "5"},
};

/// ♯ and ♭ become # and b; blanks go.
std::string plainSigns(std::string_view text) {
  std::string out;
  for (std::size_t i = 0; i < text.size();) {
    if (text.substr(i).starts_with("♯"))
      out += '#', i += std::string_view("♯").size();
    else if (text.substr(i).starts_with("♭"))
      out += 'b', i += std::string_view("♭").size();
    else if (text[i] == ' ')
      ++i;
    else
      out += text[i++];
  }
  return out;
}

const ChordType* typeFrom(std::string_view suffix) {
  for (const auto& [typed, symbol] : kSynonyms)
    if (suffix == typed) suffix = symbol;
  for (const ChordType& type : kTypes)
    if (plainSigns(type.symbol) == suffix) return &type;
  return nullptr;
}

std::string_view degreeOf(const Chord& chord) {
  static constexpr std::array<std::string_view, 12> kDegrees = {"1",  "b2", "2",  "b3", "3",  "4",
                                                                "b5", "5",  "b6", "6",  "b7", "7"};
  return kDegrees[static_cast<std::size_t>(PitchClass(chord.bass->value - chord.root.value).value)];
}

}  // namespace

std::span<const ChordType> chordTypes() {
  return kTypes;
}

const ChordType* chordType(std::string_view symbol) {
  return typeFrom(plainSigns(symbol));
}

bool Chord::minor() const {
  const auto& t = type->tones;
  return std::find(t.begin(), t.end(), 3) != t.end() && std::find(t.begin(), t.end(), 4) == t.end();
}

std::string chordName(const Chord& chord, Spelling spelling) {
  std::string name = pitchClassName(chord.root, spelling) + std::string(chord.type->symbol);
  if (chord.bass) name += "/" + pitchClassName(*chord.bass, spelling);
  return name;
}

std::string harteLabel(const Chord& chord) {
  std::string label = sharpName(chord.root) + ":" + std::string(chord.type->harte);
  if (chord.bass) label += "/" + std::string(degreeOf(chord));
  return label;
}

std::optional<Chord> parseChord(std::string_view text) {
  std::string plain = plainSigns(text);
  std::string_view rest = plain;
  const auto root = takePitchClass(rest);
  if (!root) return std::nullopt;
  Chord chord{.root = *root, .type = typeFrom(rest), .bass = {}};
  if (chord.type == nullptr) {  // what follows the last stroke is a bass note, unless the whole is a name such as 6/9
    const auto stroke = rest.rfind('/');
    if (stroke == std::string_view::npos) return std::nullopt;
    std::string_view under = rest.substr(stroke + 1);
    const auto bass = takePitchClass(under);
    chord.type = typeFrom(rest.substr(0, stroke));
    if (!bass || !under.empty() || chord.type == nullptr) return std::nullopt;
    if (*bass != chord.root) chord.bass = bass;
  }
  return chord;
}

std::vector<PitchClass> notesOf(const Chord& chord) {
  std::vector<PitchClass> notes;
  for (const int tone : chord.type->tones) notes.emplace_back(chord.root.value + tone);
  if (chord.bass && std::find(notes.begin(), notes.end(), *chord.bass) == notes.end())
    notes.insert(notes.begin(), *chord.bass);
  return notes;
}

Chord transposed(const Chord& chord, int semitones) {
  Chord moved = chord;
  moved.root = PitchClass(chord.root.value + semitones);
  if (chord.bass) moved.bass = PitchClass(chord.bass->value + semitones);
  return moved;
}

}  // namespace ear
