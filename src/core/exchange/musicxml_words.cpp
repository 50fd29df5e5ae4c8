// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/musicxml_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <sstream>
#include <utility>

#include "core/base/text.h"

namespace ear::musicxml {
namespace {

constexpr std::array<std::pair<std::string_view, std::string_view>, 20> kKinds = {{{"maj", "major"},
                                                                                   {"min", "minor"},
                                                                                   {"7", "dominant"},
                                                                                   {"maj7", "major-seventh"},
                                                                                   {"min7", "minor-seventh"},
                                                                                   {"dim", "diminished"},
                                                                                   {"aug", "augmented"},
                                                                                   {"hdim7", "half-diminished"},
                                                                                   {"dim7", "diminished-seventh"},
                                                                                   {"minmaj7", "major-minor"},
                                                                                   {"maj6", "major-sixth"},
                                                                                   {"min6", "minor-sixth"},
                                                                                   {"9", "dominant-ninth"},
                                                                                   {"maj9", "major-ninth"},
                                                                                   {"min9", "minor-ninth"},
                                                                                   {"sus2", "suspended-second"},
                                                                                   {"sus4", "suspended-fourth"},
                                                                                   {"11", "dominant-11th"},
                                                                                   {"13", "dominant-13th"},
                                                                                   {"5", "power"}}};

/// Fifths of the major keys by tonic.
constexpr std::array kFifths = {0, -5, 2, -3, 4, -1, 6, 1, -4, 3, -2, 5};

// By Ending; slides have elements of their own.
constexpr std::array<std::string_view, 6> kEndings = {"", "", "", "pulled", "choked", "faded"};

std::string number(double value) {
  std::string text = fixed(value, 4);
  text.erase(text.find_last_not_of('0') + 1);
  if (text.ends_with('.')) text.pop_back();
  return text;
}

}  // namespace

int fifthsOf(const Key& key) {
  const int tonic = key.mode == Mode::major ? key.tonic.value : (key.tonic.value + 3) % 12;
  const int fifths = kFifths[static_cast<std::size_t>(tonic)];
  return tonic == 6 && spellingOf(key) == Spelling::flats ? -6 : fifths;
}

Key keyOf(int fifths, Mode mode) {
  const PitchClass major(7 * std::clamp(fifths, -7, 7));
  return {mode == Mode::major ? major : PitchClass(major.value + 9), mode};
}

Step stepOf(int midi, bool flats) {
  static constexpr std::array<char, 12> kSharps = {'C', 'C', 'D', 'D', 'E', 'F', 'F', 'G', 'G', 'A', 'A', 'B'};
  static constexpr std::array<char, 12> kFlats = {'C', 'D', 'D', 'E', 'E', 'F', 'G', 'G', 'A', 'A', 'B', 'B'};
  static constexpr std::array<bool, 12> kBlack = {false, true,  false, true,  false, false,
                                                  true,  false, true,  false, true,  false};
  const auto pc = static_cast<std::size_t>(((midi % 12) + 12) % 12);
  return {flats ? kFlats[pc] : kSharps[pc], kBlack[pc] ? (flats ? -1 : 1) : 0, (midi - static_cast<int>(pc)) / 12 - 1};
}

int midiOf(const Step& step) {
  static constexpr std::array kLetters = {9, 11, 0, 2, 4, 5, 7};  // A ... G
  const int letter = std::clamp(step.letter - 'A', 0, 6);
  return 12 * (step.octave + 1) + kLetters[static_cast<std::size_t>(letter)] + step.alter;
}

std::string_view kindOf(const ChordType& type) {
  const auto known = std::find_if(kKinds.begin(), kKinds.end(), [&](const auto& k) { return k.first == type.harte; });
  return known == kKinds.end() ? "other" : known->second;
}

const ChordType* typeOf(std::string_view kind) {
  for (const auto& [harte, name] : kKinds)
    if (name == kind)
      for (const ChordType& type : chordTypes())
        if (type.harte == harte) return &type;
  return nullptr;
}

std::string leftoverOf(const Note& n, Beats written) {
  std::vector<std::string> words;
  const auto flag = [&](bool on, const char* word) {
    if (on) words.emplace_back(word);
  };
  const auto value = [&](const char* word, const std::string& is) { words.push_back(std::string(word) + "=" + is); };
  if (n.length != written) value("length", n.length.text());
  flag(n.barred, "barre");
  flag(n.keptDown, "kept");
  flag(n.picking == Picking::hybrid, "hybrid");
  flag(n.picking == Picking::slap, "slap");
  flag(n.attack == Attack::raked, "raked");
  if (n.slidFrom) value("slid-from", std::to_string(*n.slidFrom));
  flag(n.attack == Attack::slidInto && !n.slidFrom, "slid");
  flag(n.attack == Attack::hammeredOn, "hammered");
  flag(n.attack == Attack::pulledOff, "pulled");
  if (n.bend) {
    flag(!n.bend->size, "bend-open");
    flag(!n.bend->size && n.bend->before, "bend-before");
    flag(!n.bend->size && n.bend->released, "bend-released");
    if (n.bend->again > 0) value("again", std::to_string(n.bend->again));
  }
  if (n.vibrato) {
    if (n.vibrato->kind != Vibrato::Kind::finger)
      words.emplace_back(n.vibrato->kind == Vibrato::Kind::wide ? "vibrato-wide" : "vibrato-bar");
    if (n.vibrato->rate) value("vibrato-rate", number(n.vibrato->rate->value));
    if (n.vibrato->width) value("vibrato-width", number(n.vibrato->width->value));
  }
  if (n.dive) {
    value("dive", n.dive->depth ? number(n.dive->depth->value) : "open");
    flag(n.dive->back, "dive-back");
  }
  if (n.trill) {
    value("trill", std::to_string(n.trill->fret));
    if (n.trill->rate) value("trill-rate", number(n.trill->rate->value));
  }
  if (n.harmonic && n.harmonic->kind != PlayedHarmonic::Kind::natural)
    value(n.harmonic->kind == PlayedHarmonic::Kind::pinch ? "pinch" : "touched", std::to_string(n.harmonic->node));
  if (n.tremolo) value("tremolo", std::to_string(n.tremolo->strokesInBeat));
  flag(n.bar == SlideBar::atFret, "slide-bar");
  flag(n.bar == SlideBar::lifted, "slide-bar-lifted");
  flag(n.feedback, "feedback");
  if (const auto ending = kEndings[static_cast<std::size_t>(n.ending)]; !ending.empty())
    value("ends", std::string(ending));
  return joined(words, " ");
}

void readLeftover(std::string_view text, Note& n) {
  std::istringstream words{std::string(text)};
  for (std::string word; words >> word;) {
    const auto equals = word.find('=');
    const std::string is = equals == std::string::npos ? "" : word.substr(equals + 1);
    word.resize(std::min(equals, word.size()));
    const int whole = std::clamp(std::atoi(is.c_str()), 0, 1000);
    const double size = std::clamp(std::strtod(is.c_str(), nullptr), 0.0, 4800.0);
    if (word == "length") {
      char* end = nullptr;
      const long top = std::strtol(is.c_str(), &end, 10);
      const long bottom = *end == '/' ? std::strtol(end + 1, nullptr, 10) : 1;
      if (top > 0 && top < 100'000 && bottom > 0 && bottom <= 10'000) n.length = Beats(top, bottom);
    }
    if (word == "barre") n.barred = true;
    if (word == "kept") n.keptDown = true;
    if (word == "hybrid") n.picking = Picking::hybrid;
    if (word == "slap") n.picking = Picking::slap;
    if (word == "raked") n.attack = Attack::raked;
    if (word == "slid-from") n.attack = Attack::slidInto, n.slidFrom = std::min(whole, 30);
    if (word == "slid") n.attack = Attack::slidInto;
    if (word == "hammered") n.attack = Attack::hammeredOn;
    if (word == "pulled") n.attack = Attack::pulledOff;
    if (word.starts_with("bend-") && !n.bend) n.bend = Bend{};
    if (word == "bend-before") n.bend->before = true;
    if (word == "bend-released") n.bend->released = true;
    if (word == "again" && n.bend) n.bend->again = whole;
    if (word.starts_with("vibrato-") && !n.vibrato) n.vibrato = Vibrato{};
    if (word == "vibrato-wide") n.vibrato->kind = Vibrato::Kind::wide;
    if (word == "vibrato-bar") n.vibrato->kind = Vibrato::Kind::bar;
    if (word == "vibrato-rate" && size > 0) n.vibrato->rate = Hertz(std::min(size, 20.0));
    if (word == "vibrato-width" && size > 0) n.vibrato->width = Cents(size);
    if (word == "dive") n.dive = Dive{is == "open" ? Size{} : Size(Cents(size))};
    if (word == "dive-back" && n.dive) n.dive->back = true;
    if (word == "trill") n.trill = Trill{std::min(whole, 30), {}};
    if (word == "trill-rate" && n.trill && size > 0) n.trill->rate = Hertz(std::min(size, 40.0));
    if (word == "pinch") n.harmonic = PlayedHarmonic{PlayedHarmonic::Kind::pinch, std::min(whole, 40)};
    if (word == "touched") n.harmonic = PlayedHarmonic{PlayedHarmonic::Kind::tapped, std::min(whole, 40)};
    if (word == "tremolo") n.tremolo = Tremolo{std::min(whole, 64)};
    if (word == "slide-bar") n.bar = SlideBar::atFret;
    if (word == "slide-bar-lifted") n.bar = SlideBar::lifted;
    if (word == "feedback") n.feedback = true;
    if (word == "ends")
      for (std::size_t i = 0; i < kEndings.size(); ++i)
        if (!kEndings[i].empty() && kEndings[i] == is) n.ending = static_cast<Ending>(i);
  }
}

}  // namespace ear::musicxml
