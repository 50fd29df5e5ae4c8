// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/note_value.h"

#include <algorithm>
#include <array>
#include <utility>

namespace ear {
namespace {

constexpr std::array kParts = {1, 2, 4, 8, 16, 32, 64};
constexpr std::array<std::pair<int, int>, 4> kTuplets = {{{3, 2}, {5, 4}, {6, 4}, {7, 4}}};

/// 1, 3/2, 7/4.
Beats dotted(int dots) {
  return {(2 << dots) - 1, 1 << dots};
}

Beats nextWhole(Beats place) {
  return place.floor() + 1;
}

/// A note that starts between beats and goes on beyond the next one hides where that is; but for the plain syncope, a
/// beat long from half a beat on.
bool hidesABeat(Beats at, Beats length) {
  const Beats within = at - Beats(at.floor());
  if (within == Beats(1, 2) && length == Beats(1)) return false;
  return within != Beats(0) && at + length > nextWhole(at);
}

void cut(std::vector<TiedPiece>& pieces, Beats at, Beats length, BeatUnit unit) {
  const auto value = valueOf(length, unit);
  const bool hides = hidesABeat(at, length);
  if (value && (value->tuple > 1 || !hides)) {
    pieces.push_back({at, length, value});
    return;
  }
  if (hides) {
    const Beats first = nextWhole(at) - at;
    cut(pieces, at, first, unit);
    cut(pieces, at + first, length - first, unit);
    return;
  }
  // The greatest plain value, and the rest tied to it.
  for (const int part : kParts) {
    const NoteValue plain{.part = part};
    if (lengthOf(plain, unit) >= length) continue;
    pieces.push_back({at, lengthOf(plain, unit), plain});
    cut(pieces, at + lengthOf(plain, unit), length - lengthOf(plain, unit), unit);
    return;
  }
  pieces.push_back({at, length, std::nullopt});
}

}  // namespace

Beats lengthOf(const NoteValue& value, BeatUnit unit) {
  return Beats(unit.part, value.part) * dotted(value.dots) * Beats(value.inTimeOf, value.tuple);
}

std::optional<NoteValue> valueOf(Beats length, BeatUnit unit) {
  const auto among = [&](int tuple, int inTimeOf, int mostDots) -> std::optional<NoteValue> {
    for (int dots = 0; dots <= mostDots; ++dots)
      for (const int part : kParts)
        if (const NoteValue v{part, dots, tuple, inTimeOf}; lengthOf(v, unit) == length) return v;
    return std::nullopt;
  };
  if (const auto plain = among(1, 1, 2)) return plain;
  for (const auto& [tuple, inTimeOf] : kTuplets)
    if (const auto v = among(tuple, inTimeOf, 0)) return v;
  return std::nullopt;
}

std::string noteValueName(const NoteValue& value) {
  static constexpr std::array kNames = {"whole note", "half note",     "quarter",     "eighth",
                                        "sixteenth",  "thirty-second", "sixty-fourth"};
  const auto at = std::find(kParts.begin(), kParts.end(), value.part) - kParts.begin();
  std::string name = kNames[static_cast<std::size_t>(at)];
  if (value.dots > 0) name = (value.dots == 1 ? "dotted " : "double-dotted ") + name;
  if (value.tuple == 3) return name + " triplet";
  return value.tuple > 1 ? name + " of " + std::to_string(value.tuple) : name;
}

std::vector<TiedPiece> tiedPieces(Beats at, Beats length, std::span<const Beats> barLines, BeatUnit unit) {
  std::vector<TiedPiece> pieces;
  const Beats end = at + length;
  for (auto line = std::upper_bound(barLines.begin(), barLines.end(), at); line != barLines.end() && *line < end;
       at = *line++)
    cut(pieces, at, *line - at, unit);
  cut(pieces, at, end - at, unit);
  return pieces;
}

}  // namespace ear
