// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/repeated_bars.h"

#include <algorithm>
#include <utility>

namespace ear {
namespace {

/// A bar with all that sounds in it, counted from its start.
struct Content {
  Beats length;
  std::vector<std::vector<Note>> notes{};                      // of each guitar
  std::vector<std::vector<std::pair<Beats, Chord>>> chords{};  // the first one may have begun before
  bool operator==(const Content&) const = default;

  bool silent() const {
    return std::all_of(notes.begin(), notes.end(), [](const auto& of) { return of.empty(); });
  }
};

std::vector<Content> contentsOf(const std::vector<TabPiece>& pieces, const std::vector<Beats>& lines) {
  std::vector<Content> bars(lines.size() - 1);
  for (std::size_t i = 0; i < bars.size(); ++i) bars[i].length = lines[i + 1] - lines[i];
  const auto barAt = [&](Beats at) {
    const auto after = std::upper_bound(lines.begin(), lines.end(), at) - lines.begin();
    return static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(after - 1, 0, std::ssize(bars) - 1));
  };
  for (const TabPiece& piece : pieces) {
    for (Content& bar : bars) bar.notes.emplace_back(), bar.chords.emplace_back();
    for (Note n : piece.notes) {
      n.id = 0;
      const std::size_t first = barAt(n.at);
      for (std::size_t i = first; i < bars.size() && (i == first || lines[i] < n.end()); ++i) {
        Note within = n;
        within.at -= lines[i];
        bars[i].notes.back().push_back(std::move(within));
      }
    }
    auto next = piece.chords.begin();
    const Chord* held = nullptr;
    for (std::size_t i = 0; i < bars.size(); ++i) {
      auto& in = bars[i].chords.back();
      if (held != nullptr && (next == piece.chords.end() || next->first > lines[i])) in.emplace_back(Beats(0), *held);
      for (; next != piece.chords.end() && next->first < lines[i + 1]; held = &next++->second)
        in.emplace_back(next->first - lines[i], next->second);
      // One that is said again while it goes on is no other chord.
      in.erase(std::unique(in.begin(), in.end(), [](const auto& a, const auto& b) { return a.second == b.second; }),
               in.end());
    }
  }
  return bars;
}

/// What stands between signs.
struct Repeat {
  std::size_t length = 0;  ///< bars of one time, with its ending
  std::size_t shared = 0;  ///< of them, before an ending
  int times = 0;

  std::size_t spares() const { return static_cast<std::size_t>(std::max(0, times - 1)) * shared; }
};

class Search {
 public:
  Search(const std::vector<TabPiece>& pieces, const std::vector<Beats>& lines)
      : bars_(contentsOf(pieces, lines)), torn_(lines.size(), false) {
    for (const TabPiece& piece : pieces)
      for (const Note& n : piece.notes)
        for (auto line = std::upper_bound(lines.begin(), lines.end(), n.at); line != lines.end() && *line < n.end();
             ++line)
          torn_[static_cast<std::size_t>(line - lines.begin())] = true;
    // Equal bars have one number, so that they are compared once.
    for (std::size_t i = 0; i < bars_.size(); ++i)
      number_.push_back(static_cast<std::size_t>(std::find(bars_.begin(), bars_.end(), bars_[i]) - bars_.begin()));
  }

  /// The repeat at a bar that spares most, of equal ones the shortest.
  Repeat best(std::size_t from) const {
    constexpr std::size_t kLeast = 2;
    Repeat best;
    for (std::size_t length = 1; from + 2 * length <= bars_.size(); ++length) {
      // Bars that stand in a repeat are of one length, so that no sign of the metre stands within.
      if (bars_[from + length - 1].length != bars_[from].length) break;
      const Repeat r = at(from, length);
      if (r.spares() >= kLeast && r.spares() > best.spares()) best = r;
    }
    return best;
  }

 private:
  Repeat at(std::size_t from, std::size_t length) const {
    if (torn_[from] || torn_[from + length] || silent(from, length)) return {};
    const auto sharedWith = [&](std::size_t other) {
      std::size_t shared = 0;
      while (shared < length && number_[from + shared] == number_[other + shared]) ++shared;
      return shared;
    };
    int times = 1;
    for (std::size_t next = from + length; next + length <= bars_.size() && !torn_[next + length]; next += length) {
      if (sharedWith(next) < length) break;
      ++times;
    }
    if (times > 1) return {length, length, times};
    const std::size_t other = from + length, shared = sharedWith(other);
    const bool ends = 2 * shared > length && !torn_[from + shared] && !torn_[other + shared] && !torn_[other + length];
    for (std::size_t i = 0; i < length; ++i)
      if (bars_[other + i].length != bars_[from].length) return {};
    return ends && !silent(from, shared) ? Repeat{length, shared, 2} : Repeat{};
  }

  bool silent(std::size_t from, std::size_t count) const {
    const auto first = bars_.begin() + static_cast<std::ptrdiff_t>(from);
    return std::all_of(first, first + static_cast<std::ptrdiff_t>(count), [](const Content& c) { return c.silent(); });
  }

  std::vector<Content> bars_;
  std::vector<bool> torn_;  // a note sounds across this line
  std::vector<std::size_t> number_;
};

/// Names that stand in a bar, counted from its start.
std::vector<std::pair<Beats, std::string>> marksIn(const std::vector<TabPiece>& pieces, const std::vector<Beats>& lines,
                                                   std::size_t bar) {
  std::vector<std::pair<Beats, std::string>> marks;
  for (const TabPiece& piece : pieces)
    for (const auto& [at, name] : piece.marks)
      if (at >= lines[bar] && at < lines[bar + 1]) marks.emplace_back(at - lines[bar], name);
  return marks;
}

}  // namespace

WrittenBars allBars(std::size_t count) {
  WrittenBars all;
  for (std::size_t i = 0; i < count; ++i) all.bars.push_back({.bar = i});
  return all;
}

WrittenBars repeatedBars(const std::vector<TabPiece>& pieces, const std::vector<Beats>& lines) {
  if (lines.size() < 2) return {};
  const Search search(pieces, lines);
  WrittenBars written;
  const std::size_t count = lines.size() - 1;
  bool jumped = false;
  for (std::size_t at = 0; at < count;) {
    const Repeat r = search.best(at);
    if (r.times < 2) {
      written.bars.push_back({.bar = at++, .afterJump = std::exchange(jumped, false)});
      continue;
    }
    const bool ends = r.shared < r.length;
    for (std::size_t i = 0; i < r.length; ++i) {
      WrittenBar bar{.bar = at + i, .startsRepeat = i == 0, .afterJump = i == 0};
      if (i + 1 == r.length) bar.times = r.times;
      if (i >= r.shared) bar.ending = 1, bar.startsEnding = i == r.shared, bar.endsEnding = i + 1 == r.length;
      written.bars.push_back(bar);
    }
    for (std::size_t i = r.shared; ends && i < r.length; ++i)
      written.bars.push_back({.bar = at + r.length + i,
                              .ending = 2,
                              .startsEnding = i == r.shared,
                              .endsEnding = i + 1 == r.length,
                              .afterJump = i == r.shared});
    const std::size_t end = at + r.length * static_cast<std::size_t>(r.times);
    for (std::size_t later = at + r.length; later < end; ++later) {
      const std::size_t within = (later - at) % r.length;
      if (within < r.shared && marksIn(pieces, lines, later) != marksIn(pieces, lines, at + within))
        written.marksLost = written.marksLost || !marksIn(pieces, lines, later).empty();
    }
    at = end, jumped = true;
  }
  return written;
}

}  // namespace ear
