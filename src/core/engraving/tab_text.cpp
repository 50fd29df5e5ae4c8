// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/tab_text.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace ear {
namespace {

using K = TabMark::Kind;

/// Signs that only plain characters have.
std::string plain(std::string text) {
  static const std::vector<std::pair<std::string, std::string>> kPlain = {
      {"1½", "1 1/2"}, {"2½", "2 1/2"}, {"½", "1/2"}, {"¼", "1/4"}, {"¾", "3/4"}, {"×", "x"}, {"‹", "<"}, {"›", ">"}};
  for (const auto& [from, to] : kPlain)
    for (std::size_t at; (at = text.find(from)) != std::string::npos;) text.replace(at, from.size(), to);
  return text;
}

/// A moment of the score: what stands there on each string, over them and beneath.
struct Column {
  std::map<int, std::string> strings;
  std::string over, count;
  std::set<std::string> said{};  ///< over them, each once
  std::size_t lead = 0;          ///< characters before the numbers' first figure, so that figures line up

  /// A sign follows the one before it, a word stands by itself.
  void say(const std::string& text, bool word) {
    if (text.empty() || !said.insert(text).second) return;
    if (word && !over.empty() && !over.ends_with(' ')) over += ' ';
    over += text + (word ? " " : "");
  }
};

std::string signBefore(const TabMark& m) {
  switch (m.kind) {
    case K::hammer:
      return "h";
    case K::pull:
      return "p";
    case K::slide:
      return m.cents > 0 ? "/" : "\\";
    case K::slideIn:
      return m.text + (m.cents > 0 ? "\\" : "/");
    default:
      return "";
  }
}

std::string signBehind(const TabMark& m) {
  switch (m.kind) {
    case K::vibrato:
    case K::wideVibrato:
      return "~";
    case K::slideOut:
      return m.cents > 0 ? "/" : "\\";
    default:
      return "";
  }
}

std::string signOver(const TabMark& m) {
  switch (m.kind) {
    case K::bend:
      return "^" + plain(m.text);
    case K::heldBend:
      return "=^" + plain(m.text);
    case K::release:
      return "v";
    case K::again:
      return "x" + m.text;
    case K::word:
      return m.text;
    default:
      return "";
  }
}

std::map<Beats, Column> columnsOf(const TabScore& score) {
  std::map<Beats, Column> columns;
  std::map<int, std::string> before, behind;  // by note
  for (const TabMark& m : score.marks) before[m.note] += signBefore(m), behind[m.note] += signBehind(m);
  for (const TabHead& h : score.heads) {
    Column& c = columns[h.at];
    c.strings[h.string] = before[h.note] + plain(h.text) + (h.differs ? "*" : "") + behind[h.note];
    c.lead = std::max(c.lead, before[h.note].size());
  }
  for (const TabHead& h : score.heads) {
    Column& c = columns[h.at];
    c.strings[h.string].insert(0, std::string(c.lead - before[h.note].size(), '-'));
  }
  for (const TabMark& m : score.marks)
    if (const auto c = columns.find(m.from); c != columns.end()) c->second.say(signOver(m), m.kind == K::word);
  for (const TabCount& count : score.counts) columns[count.at].count = plain(count.text);
  for (const TabStretch& s : score.stretches) columns[s.from].say(plain(s.text), true);
  return columns;
}

/// Rows that grow to the right together.
class Rows {
 public:
  Rows(int strings, std::vector<std::string> names) : strings_(static_cast<std::size_t>(strings)) {
    std::size_t widest = 1;
    for (const auto& n : names) widest = std::max(widest, charactersOf(n));
    for (std::size_t s = 0; s < strings_.size(); ++s) {
      const std::string name = s < names.size() ? names[s] : "";
      strings_[s] = name + std::string(widest - charactersOf(name), ' ');
    }
    head_ = over_ = counts_ = std::string(widest, ' ');
  }
  std::size_t width() const { return charactersOf(strings_.front()); }
  void barLine(const std::string& number) {
    fill(head_), fill(over_), fill(counts_);
    head_ += number;
    for (auto& s : strings_) s += "|-";
    if (!number.empty()) head_ += ' ';
  }
  void close() {
    for (auto& s : strings_) s += '|';
  }
  void chord(const std::string& name) {
    fill(head_);
    // Never run together with the bar's number or the chord before.
    head_ += (head_.ends_with(' ') ? "" : " ") + name;
  }
  void column(const Column& c, std::size_t room) {
    fill(head_), fill(over_), fill(counts_);
    over_ += std::string(c.lead, ' ') + c.over;
    counts_ += std::string(c.lead, ' ') + c.count;
    for (std::size_t s = 0; s < strings_.size(); ++s) {
      const auto at = c.strings.find(static_cast<int>(s));
      const std::string cell = at == c.strings.end() ? "" : at->second;
      strings_[s] += cell + std::string(room - cell.size(), '-');
    }
  }
  std::vector<std::string> lines() const {
    std::vector<std::string> all;
    for (const std::string& row : {head_, over_})
      if (const std::string text = trimmed(row); !text.empty()) all.push_back(text);
    for (auto s = strings_.rbegin(); s != strings_.rend(); ++s) all.push_back(*s);
    if (const std::string text = trimmed(counts_); !text.empty()) all.push_back(text);
    return all;
  }

 private:
  void fill(std::string& row) const {
    const std::size_t wide = charactersOf(row);
    if (wide < width()) row += std::string(width() - wide, ' ');
  }
  static std::string trimmed(std::string row) {
    row.erase(row.find_last_not_of(' ') + 1);
    return row;
  }
  std::vector<std::string> strings_;
  std::string head_, over_, counts_;
};

std::size_t roomOf(const Column& c, Beats until) {
  std::size_t widest = std::max(c.lead + charactersOf(c.over), c.lead + charactersOf(c.count));
  for (const auto& [string, cell] : c.strings) widest = std::max(widest, cell.size());
  const auto sixteenths = static_cast<std::size_t>(std::clamp(std::llround(until.value() * 4), 1LL, 6LL));
  return widest + sixteenths;
}

}  // namespace

std::size_t charactersOf(const std::string& text) {
  return static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) { return (c & 0xC0) != 0x80; }));
}

std::vector<std::string> tabText(const TabScore& score, const TabTextLook& look) {
  const auto columns = columnsOf(score);
  if (columns.empty()) return {};
  std::vector<std::string> lines;
  Rows rows(score.strings, look.strings);
  bool empty = true;
  const auto finish = [&] {
    if (empty) return;
    rows.close();
    if (!lines.empty()) lines.emplace_back();
    for (auto& line : rows.lines()) lines.push_back(line);
    rows = Rows(score.strings, look.strings);
    empty = true;
  };
  const auto isLine = [&](Beats at) { return std::binary_search(score.barLines.begin(), score.barLines.end(), at); };
  const auto endOf = [&](std::map<Beats, Column>::const_iterator c) {
    return std::next(c) == columns.end() ? score.to : std::next(c)->first;
  };
  std::size_t nextLine = 0, nextChord = 0;
  bool barOpen = false;
  for (auto c = columns.begin(); c != columns.end(); ++c) {
    std::size_t bar = 0;
    bool crossed = false;
    for (; nextLine < score.barLines.size() && score.barLines[nextLine] <= c->first; ++nextLine)
      crossed = true, bar = nextLine;
    if (crossed || !barOpen) {
      // The whole bar goes onto this line, or onto the next one.
      std::size_t wide = 2;
      for (auto k = c; k != columns.end() && (k == c || !isLine(k->first)); ++k)
        wide += roomOf(k->second, endOf(k) - k->first);
      if (!empty && rows.width() + wide + 2 > look.width) finish();
      rows.barLine(crossed && bar < look.bars.size() ? std::to_string(look.bars[bar]) : "");
      barOpen = true;
    }
    const std::size_t room = roomOf(c->second, endOf(c) - c->first);
    if (!empty && rows.width() + room + 2 > look.width) {
      finish();
      rows.barLine("");
    }
    std::string chord;
    for (; nextChord < look.chords.size() && look.chords[nextChord].first <= c->first; ++nextChord)
      chord = look.chords[nextChord].second;
    if (!chord.empty()) rows.chord(chord);
    rows.column(c->second, room);
    empty = false;
  }
  finish();
  return lines;
}

std::string tabTextLegend(const TabScore& score) {
  std::set<std::string> said;
  const auto say = [&](const char* words) { said.insert(words); };
  for (const TabMark& m : score.marks) switch (m.kind) {
      case K::bend:
      case K::heldBend:
        say("^1 bend by so many tones");
        if (m.kind == K::heldBend) say("= bent before it is struck");
        break;
      case K::release:
        say("v let down again");
        break;
      case K::hammer:
        say("h hammer-on");
        break;
      case K::pull:
        say("p pull-off");
        break;
      case K::slide:
      case K::slideIn:
      case K::slideOut:
        say("/ \\ slide");
        break;
      case K::vibrato:
      case K::wideVibrato:
        say("~ vibrato");
        break;
      default:
        break;
    }
  for (const TabHead& h : score.heads)
    if (h.differs) say("* differs");
  std::string text;
  for (const auto& words : said) text += (text.empty() ? "" : ", ") + words;
  return text;
}

}  // namespace ear
