// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/tuning.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <map>
#include <optional>
#include <sstream>

namespace ear {
namespace {

constexpr int kLowestString = 23, kHighestString = 76;  // B0 of a five-string bass to E5
constexpr int kTensionSteps = 2;                        // semitones up from which tension is a matter
constexpr int kSlackSteps = -6;

const std::vector<Tuning>& standards() {
  static const std::vector<Tuning> kStandards = {
      {{28, 33, 38, 43}},                  // four strings: a bass
      {{23, 28, 33, 38, 43}},              // five-string bass
      {{40, 45, 50, 55, 59, 64}},          //
      {{35, 40, 45, 50, 55, 59, 64}},      // seven
      {{30, 35, 40, 45, 50, 55, 59, 64}},  // eight
  };
  return kStandards;
}

const Tuning* standardOf(std::size_t strings) {
  for (const Tuning& t : standards())
    if (t.count() == strings) return &t;
  return nullptr;
}

std::string ordinal(std::size_t fromLowest, std::size_t count) {
  return "string " + std::to_string(count - fromLowest);
}

/// The pitch of a class nearest to a string's standard pitch; of two equally near the lower one.
int nearestTo(int standard, PitchClass pc) {
  const int up = PitchClass(pc.value - standard).value;
  return up < 6 ? standard + up : standard + up - 12;
}

/// "-2 0 0 +1": semitones alone; empty where anything else is written.
std::optional<std::vector<int>> readShifts(std::string_view text) {
  std::vector<int> shifts;
  std::istringstream words{std::string(text)};
  for (std::string word; words >> word;) {
    const bool sign = word[0] == '+' || word[0] == '-';
    const std::string_view digits = std::string_view(word).substr(sign ? 1 : 0);
    if (digits.empty() || digits.size() > 2 || digits.find_first_not_of("0123456789") != std::string_view::npos)
      return std::nullopt;
    const int by = std::stoi(std::string(digits));
    shifts.push_back(word[0] == '-' ? -by : by);
  }
  return shifts.empty() ? std::nullopt : std::optional(shifts);
}

Outcome<Tuning> shiftedBy(const Tuning& standard, const std::vector<int>& shifts) {
  if (shifts.size() != standard.count())
    return Problem{"These are shifts of " + std::to_string(shifts.size()) + " strings for " +
                   std::to_string(standard.count()) + ". Write one for each string, from low to high, 0 for none."};
  Tuning tuning = standard;
  for (std::size_t i = 0; i < shifts.size(); ++i) {
    int& pitch = tuning.strings[i];
    pitch += shifts[i];
    if (pitch < kLowestString || pitch > kHighestString)
      return Problem{"A string shifted by " + std::to_string(shifts[i]) +
                     " semitones lies outside of what a guitar string can be tuned to (B0 to E5)."};
  }
  return tuning;
}

}  // namespace

const Tuning& standardTuning() {
  return *standardOf(6);
}

std::span<const NamedTuning> tuningCatalogue() {
  static const std::vector<NamedTuning> kCatalogue = {
      {"standard", {{40, 45, 50, 55, 59, 64}}},
      {"all a semitone down", {{39, 44, 49, 54, 58, 63}}},
      {"dropped D", {{38, 45, 50, 55, 59, 64}}},
      {"all a whole tone down", {{38, 43, 48, 53, 57, 62}}},
      {"dropped D, all a semitone down", {{37, 44, 49, 54, 58, 63}}},
      {"dropped C", {{36, 43, 48, 53, 57, 62}}},
      {"all three semitones down", {{37, 42, 47, 52, 56, 61}}},
      {"dropped B", {{35, 42, 47, 52, 56, 61}}},
      {"all four semitones down", {{36, 41, 46, 51, 55, 60}}},
      {"all five semitones down", {{35, 40, 45, 50, 54, 59}}},
      {"all a semitone up", {{41, 46, 51, 56, 60, 65}}},
      {"all a whole tone up", {{42, 47, 52, 57, 61, 66}}},
      {"double dropped D", {{38, 45, 50, 55, 59, 62}}},
      {"D suspended fourth", {{38, 45, 50, 55, 57, 62}}},
      {"open D", {{38, 45, 50, 54, 57, 62}}},
      {"open D minor", {{38, 45, 50, 53, 57, 62}}},
      {"open E", {{40, 47, 52, 56, 59, 64}}},
      {"open E minor", {{40, 47, 52, 55, 59, 64}}},
      {"open G", {{38, 43, 50, 55, 59, 62}}},
      {"open G minor", {{38, 43, 50, 55, 58, 62}}},
      {"open A", {{40, 45, 52, 57, 61, 64}}},
      {"open A minor", {{40, 45, 52, 57, 60, 64}}},
      {"open C", {{36, 43, 48, 55, 60, 64}}},
      {"open C sixth", {{36, 45, 48, 55, 60, 64}}},
      {"open C minor", {{36, 43, 48, 55, 60, 63}}},
      {"open D flat", {{37, 44, 49, 53, 56, 61}}},
      {"open F", {{41, 45, 48, 53, 60, 65}}},
      {"open B flat", {{38, 46, 50, 53, 58, 65}}},
      {"G suspended fourth", {{38, 43, 50, 55, 60, 62}}},
      {"C with second", {{36, 43, 50, 55, 60, 62}}},
      {"low C", {{36, 43, 50, 55, 57, 62}}},
      {"C major ninth", {{36, 43, 50, 55, 59, 64}}},
      {"open G sixth", {{38, 43, 50, 55, 59, 64}}},
      {"open D sixth", {{38, 45, 50, 54, 59, 62}}},
      {"open D major seventh", {{38, 45, 50, 54, 57, 61}}},
      {"third string down", {{40, 45, 50, 54, 59, 64}}},
      {"all fourths", {{40, 45, 50, 55, 60, 65}}},
      {"all fifths", {{36, 43, 50, 57, 64, 71}}},
      {"fifths with a high G", {{36, 43, 50, 57, 64, 67}}},
      {"low four an octave up", {{52, 57, 62, 67, 59, 64}}},
      {"A suspended second", {{40, 45, 52, 57, 59, 64}}},
      {"F A C G C E", {{41, 45, 48, 55, 60, 64}}},
      {"D A E A C♯ D", {{38, 45, 52, 57, 61, 62}}},
      {"bass, four strings", {{28, 33, 38, 43}}},
      {"bass, dropped D", {{26, 33, 38, 43}}},
      {"baritone, four strings", {{50, 55, 59, 64}}},
      {"bass, five strings", {{23, 28, 33, 38, 43}}},
      {"open G, five strings", {{43, 50, 55, 59, 62}}},
      {"seven strings", {{35, 40, 45, 50, 55, 59, 64}}},
      {"seven strings, dropped A", {{33, 40, 45, 50, 55, 59, 64}}},
      {"eight strings", {{30, 35, 40, 45, 50, 55, 59, 64}}},
      {"eight strings, dropped E", {{28, 35, 40, 45, 50, 55, 59, 64}}},
  };
  return kCatalogue;
}

std::string tuningName(const Tuning& tuning) {
  for (const auto& named : tuningCatalogue())
    if (named.tuning == tuning) return std::string(named.name);
  return tuningLetters(tuning, Spelling::sharps);
}

std::string tuningLetters(const Tuning& tuning, Spelling spelling, bool octaves) {
  std::string text;
  for (const int pitch : tuning.strings)
    text +=
        (text.empty() ? "" : " ") + (octaves ? noteName(pitch, spelling) : pitchClassName(PitchClass(pitch), spelling));
  return text;
}

std::vector<int> shiftsFromStandard(const Tuning& tuning) {
  std::vector<int> shifts;
  const Tuning* standard = standardOf(tuning.count());
  for (std::size_t i = 0; standard != nullptr && i < tuning.count(); ++i)
    shifts.push_back(tuning.strings[i] - standard->strings[i]);
  return shifts;
}

int commonShift(const Tuning& tuning) {
  std::map<int, int> counts;
  for (const int shift : shiftsFromStandard(tuning)) ++counts[shift];
  for (const auto& [shift, count] : counts)
    if (count >= 4) return shift;
  return 0;
}

Outcome<Tuning> parseTuning(std::string_view text, std::size_t strings) {
  const Tuning* standard = standardOf(strings);
  if (standard == nullptr) return Problem{"A guitar here has 4 to 8 strings."};
  if (const auto shifts = readShifts(text)) return shiftedBy(*standard, *shifts);
  struct Name {
    PitchClass pc;
    std::optional<int> midi;
  };
  std::vector<Name> names;
  std::string_view rest = text;
  while (true) {
    while (!rest.empty() && (rest.front() == ' ' || rest.front() == ',' || rest.front() == '-')) rest.remove_prefix(1);
    if (rest.empty()) break;
    const std::string_view before = rest;
    const auto pc = takePitchClass(rest);
    if (!pc)
      return Problem{"“" + std::string(before) +
                     "” does not start with a note name. Write the strings from low to high, such as D A D G B E."};
    Name name{*pc, {}};
    if (!rest.empty() && rest.front() >= '0' && rest.front() <= '9') {
      const int octave = rest.front() - '0';
      rest.remove_prefix(1);
      // A name such as B#3 counts in the octave of its letter.
      name.midi = parsePitch(before.substr(0, before.size() - rest.size()));
      if (!name.midi) name.midi = 12 * (octave + 1) + pc->value;
    }
    names.push_back(name);
  }
  if (names.size() != strings)
    return Problem{"These are " + std::to_string(names.size()) + " names for " + std::to_string(strings) +
                   " strings. Write one for each string, from low to high."};
  Tuning tuning;
  for (std::size_t i = 0; i < strings; ++i) {
    const int pitch = names[i].midi ? *names[i].midi : nearestTo(standard->strings[i], names[i].pc);
    if (pitch < kLowestString || pitch > kHighestString)
      return Problem{noteName(pitch, Spelling::sharps) +
                     " lies outside of what a guitar string can be tuned to (B0 to E5)."};
    tuning.strings.push_back(pitch);
  }
  return tuning;
}

std::vector<std::string> cautions(const Tuning& tuning) {
  std::vector<std::string> out;
  const auto shifts = shiftsFromStandard(tuning);
  for (std::size_t i = 0; i < shifts.size(); ++i) {
    const std::string who = ordinal(i, tuning.count()) + " (" + noteName(tuning.strings[i], Spelling::sharps) + ")";
    if (shifts[i] >= kTensionSteps)
      out.push_back("A standard " + who + " is " + std::to_string(shifts[i]) +
                    " semitones up: " + std::to_string(std::lround(100 * (relativeTension(shifts[i]) - 1))) +
                    " % more tension. A capo, lighter strings or shifted playback are safer.");
    if (shifts[i] <= kSlackSteps)
      out.push_back("A standard " + who + " is " + std::to_string(-shifts[i]) +
                    " semitones down: it will be slack; a heavier string suits it better.");
  }
  for (std::size_t i = 0; i + 1 < tuning.count(); ++i)
    if (tuning.strings[i] >= tuning.strings[i + 1])
      out.push_back("The " + ordinal(i, tuning.count()) +
                    " is not lower than the next one: check the order, low to high.");
  return out;
}

bool isGuitar(const Tuning& tuning, const Capo& capo) {
  return standardOf(tuning.count()) != nullptr && capo.fret >= 0 && capo.fret <= 12 &&
         std::all_of(tuning.strings.begin(), tuning.strings.end(),
                     [](int pitch) { return pitch >= kLowestString && pitch <= kHighestString; });
}

double relativeTension(int semitones) {
  return std::exp2(semitones / 6.0);
}

}  // namespace ear
