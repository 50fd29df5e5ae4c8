// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/running_order.h"

#include <algorithm>
#include <cctype>
#include <utility>

namespace ear {
namespace {

constexpr Seconds kReach{4.0};     // for a bar line near a cut
constexpr Seconds kShortest{0.2};  // section

std::string wordOf(const Section& s) {
  std::string word = s.name.empty() ? s.letter : s.name;
  if (!s.difference.empty()) word += "'";
  return word;
}

std::vector<std::string> wordsOf(const std::string& text) {
  std::vector<std::string> words;
  std::string word;
  const auto take = [&] {
    const auto from = word.find_first_not_of(" \t\n"), to = word.find_last_not_of(" \t\n");
    if (from != std::string::npos) words.push_back(word.substr(from, to - from + 1));
    word.clear();
  };
  for (const char c : text) {
    if (c == ',')
      take();
    else
      word += c;
  }
  take();
  return words;
}

/// A single capital, maybe with a number behind it, is a letter; anything else a name.
bool isLetter(const std::string& word) {
  return !word.empty() && std::isupper(static_cast<unsigned char>(word[0])) != 0 &&
         std::all_of(word.begin() + 1, word.end(), [](unsigned char c) { return std::isdigit(c) != 0; });
}

/// Pairs (old, new) of the longest common subsequence.
std::vector<std::pair<std::size_t, std::size_t>> common(const std::vector<std::string>& a,
                                                        const std::vector<std::string>& b) {
  std::vector<std::vector<int>> best(a.size() + 1, std::vector<int>(b.size() + 1, 0));
  for (std::size_t i = a.size(); i-- > 0;)
    for (std::size_t j = b.size(); j-- > 0;)
      best[i][j] = a[i] == b[j] ? best[i + 1][j + 1] + 1 : std::max(best[i + 1][j], best[i][j + 1]);
  std::vector<std::pair<std::size_t, std::size_t>> pairs;
  for (std::size_t i = 0, j = 0; i < a.size() && j < b.size();) {
    if (a[i] == b[j])
      pairs.emplace_back(i++, j++);
    else if (best[i + 1][j] >= best[i][j + 1])
      ++i;
    else
      ++j;
  }
  return pairs;
}

/// Borders of equal parts of a span, at the nearest bar lines; empty where a part would be too short.
std::vector<Seconds> cut(TimeSpan span, std::size_t parts, const Grid& grid) {
  std::vector<Seconds> borders{span.start};
  for (std::size_t p = 1; p < parts; ++p)
    borders.push_back(
        snapToBar(grid, span.start + span.length() * (static_cast<double>(p) / static_cast<double>(parts)), kReach));
  borders.push_back(span.end);
  for (std::size_t p = 1; p < borders.size(); ++p)
    if (borders[p] - borders[p - 1] < kShortest) return {};
  return borders;
}

void call(Section& section, std::string word, const Form& form) {
  const bool differs = word.size() > 1 && word.back() == '\'';
  if (differs) word.pop_back();
  if (isLetter(word)) {
    section.letter = word;
    section.name.clear();
  } else {
    // A name known from another section is the same music.
    const auto same = std::find_if(form.begin(), form.end(), [&](const Section& s) { return s.name == word; });
    if (same != form.end()) section.letter = same->letter;
    section.name = word;
  }
  if (differs && section.difference.empty()) section.difference = "differs";
  if (!differs) section.difference.clear();
  section.origin = Origin::set;
  section.certainty = 1.0;
}

}  // namespace

std::string runningOrder(const Form& form) {
  std::string text;
  for (const auto& s : form) text += (text.empty() ? "" : ", ") + wordOf(s);
  return text;
}

Outcome<Form> withRunningOrder(const Form& form, const std::string& text, const Grid& grid) {
  const auto words = wordsOf(text);
  if (words.empty()) return Problem{"Write at least one section, such as: intro, A, B, A."};
  std::vector<std::string> old;
  for (const auto& s : form) old.push_back(wordOf(s));
  auto pairs = common(old, words);
  pairs.emplace_back(old.size(), words.size());

  Form result;
  Seconds open = form.front().span.start;  // from where on nothing is placed yet
  std::vector<std::string> waiting;        // words before any section that they could be cut from
  const auto place = [&](Section section, std::vector<std::string> extra) -> bool {
    // A section, from `open` on, with words that take equal parts of it behind (or, where they waited, before) it.
    const bool before = !waiting.empty();
    if (before) extra = std::exchange(waiting, {});
    section.span.start = open;
    open = section.span.end;
    const auto borders = cut(section.span, extra.size() + 1, grid);
    if (borders.empty()) return false;
    for (std::size_t part = 0; part <= extra.size(); ++part) {
      Section piece = section;
      piece.span = {borders[part], borders[part + 1]};
      const bool own = before ? part == extra.size() : part == 0;
      if (!own) call(piece, extra[before ? part : part - 1], form);
      if (piece.span != section.span) piece.origin = Origin::set;
      result.push_back(piece);
    }
    return true;
  };
  const Problem tooShort{"A new section does not fit: the one it would be cut from is too short."};

  std::size_t i = 0, j = 0;
  for (const auto& [oldEnd, newEnd] : pairs) {
    // Between two words that stand in both orders: as many as there are on both sides are renamed.
    std::vector<std::string> fresh(words.begin() + static_cast<std::ptrdiff_t>(j),
                                   words.begin() + static_cast<std::ptrdiff_t>(newEnd));
    while (i < oldEnd && !fresh.empty()) {
      Section section = form[i++];
      call(section, fresh.front(), form);
      fresh.erase(fresh.begin());
      const bool last = i == oldEnd;
      if (!place(section, last ? std::exchange(fresh, {}) : std::vector<std::string>{})) return tooShort;
    }
    if (i < oldEnd && !result.empty()) {  // gone: joined to the one before
      result.back().span.end = open = form[oldEnd - 1].span.end;
      result.back().origin = Origin::set;
    }
    i = oldEnd;  // gone at the very beginning: the next section starts where they did
    if (!fresh.empty() && !result.empty()) {
      Section section = result.back();
      result.pop_back();
      open = section.span.start;
      if (!place(section, std::exchange(fresh, {}))) return tooShort;
    }
    waiting = std::move(fresh);
    if (i < form.size()) {
      Section section = form[i++];
      if (section.span.start != open) section.origin = Origin::set;
      if (!place(section, {})) return tooShort;
    }
    j = newEnd + 1;
  }
  return result;
}

}  // namespace ear
