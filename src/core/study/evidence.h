// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

namespace ear {

/// On what a decision rests: what happened, with its numbers. It is kept as that fact and worked into a sentence when
/// it is shown, so that it can be said in any language.
struct Evidence {
  enum class Kind {
    none,
    words,  ///< a sentence as it stands: of an earlier file, or worked out of a measurement just now
    setByHand,
    correctedByHand,
    takenFromReadings,
    readFromFile,
    confirmedByEar,
    halfTempo,
    doubleTempo,
    barsMoved,
    barsSet,
    beatsHeld,
    beatsTapped,  ///< numbers: how many, and beats a minute
    beatsFollow,  ///< numbers: how many held ones they follow
  };

  Kind kind = Kind::none;
  std::vector<double> numbers{};
  std::string sentence{};  ///< of Kind::words

  Evidence() = default;
  Evidence(Kind k, std::vector<double> n = {})
      : kind(k), numbers(std::move(n)) {}  // NOLINT(google-explicit-constructor)
  Evidence(const std::string& words)       // NOLINT(google-explicit-constructor)
      : kind(words.empty() ? Kind::none : Kind::words), sentence(words) {}
  Evidence(const char* words) : Evidence(std::string(words)) {}  // NOLINT(google-explicit-constructor)
  bool operator==(const Evidence&) const = default;
};

/// "12 beats tapped, 104.2 a minute."; empty without evidence.
std::string sentenceOf(const Evidence& evidence);

/// How many numbers a kind has.
std::size_t numbersOf(Evidence::Kind kind);

}  // namespace ear
