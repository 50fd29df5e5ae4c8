// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <sstream>

#include "core/base/text.h"
#include "core/engraving/tab_text.h"
#include "core/sheet/sheet.h"

namespace ear {
namespace {

constexpr std::size_t kLineWidth = 78;

void wrap(std::ostream& out, const std::string& text) {
  std::istringstream words(text);
  std::string word;
  std::size_t used = 0;
  while (words >> word) {
    if (used > 0 && used + 1 + charactersOf(word) > kLineWidth)
      out << '\n', used = 0;
    else if (used > 0)
      out << ' ', ++used;
    out << word;
    used += charactersOf(word);
  }
  out << '\n';
}

void underlined(std::ostream& out, const std::string& text, char line) {
  out << text << '\n' << std::string(charactersOf(text), line) << '\n';
}

void setRows(std::ostream& out, const std::vector<std::vector<std::string>>& rows) {
  std::vector<std::size_t> widths;
  for (const auto& row : rows) {
    widths.resize(std::max(widths.size(), row.size()), 0);
    for (std::size_t c = 0; c < row.size(); ++c) widths[c] = std::max(widths[c], charactersOf(row[c]));
  }
  for (const auto& row : rows) {
    std::string line;
    for (std::size_t c = 0; c < row.size(); ++c)
      line += row[c] + std::string(widths[c] - charactersOf(row[c]) + 2, ' ');
    line.erase(line.find_last_not_of(' ') + 1);
    out << "  " << line << '\n';
  }
}

/// Sets one block after the other.
struct Setter {
  std::ostream& out;

  void operator()(const SheetHeading& b) const {
    out << '\n';
    underlined(out, b.text, '-');
  }
  void operator()(const SheetWords& b) const { wrap(out, b.text); }
  void operator()(const SheetTable& b) const {
    std::vector<std::vector<std::string>> rows;
    if (!b.head.empty()) rows.push_back(b.head);
    rows.insert(rows.end(), b.rows.begin(), b.rows.end());
    setRows(out, rows);
  }
  void operator()(const SheetTuning& b) const {
    std::vector<std::vector<std::string>> rows{{"String", "Tune to", "Hz", "From standard"}};
    for (auto s = b.strings.rbegin(); s != b.strings.rend(); ++s)
      rows.push_back({s->name, s->note, s->hertz, s->cents});
    setRows(out, rows);
  }
  void operator()(const SheetChart& b) const {
    constexpr std::size_t kInRow = 4;
    for (const auto& s : b.sections) {
      std::string head = clockTenths(s.span.start) + "  " + s.letter + (s.name.empty() ? "" : "  " + s.name);
      head += ", " + std::to_string(s.barCount) + (s.barCount == 1 ? " bar" : " bars");
      if (!s.sameAs.empty()) head += ", as at " + s.sameAs;
      if (!s.difference.empty()) head += ", " + s.difference;
      out << "  " << head << '\n';
      std::vector<std::vector<std::string>> rows;
      for (std::size_t i = 0; i < s.bars.size(); ++i) {
        if (i % kInRow == 0) rows.emplace_back();
        std::string chords;
        for (const SheetChord& c : s.bars[i].chords) {
          chords += (chords.empty() ? "" : " ") + c.sounding;
          if (!c.shape.empty()) chords += " (" + c.shape + ")";
        }
        rows.back().push_back("| " + (chords.empty() ? "-" : chords));
      }
      for (auto& row : rows) row.emplace_back("|"), row.insert(row.begin(), " ");
      setRows(out, rows);
    }
    out << "  -  the chord goes on\n";
  }
  void operator()(const SheetBoxes& b) const {
    std::vector<std::vector<std::string>> rows;
    for (const auto& box : b.boxes) rows.push_back({box.sounding, box.shape, box.text()});
    setRows(out, rows);
    out << (b.capo > 0 ? "  Low string first, frets counted from the capo.\n" : "  Low string first.\n");
  }
  void operator()(const SheetNeck& b) const {
    wrap(out, b.name);
    setRows(out, b.rows());
  }
  void operator()(const SheetPhrase& b) const {
    out << '\n';
    wrap(out, (b.number > 0 ? std::to_string(b.number) + "  " : "") + b.name + ": " + joined(b.about, ". "));
    if (!b.scales.empty()) {
      std::string words;
      for (const auto& [at, name] : b.scales) words += (words.empty() ? "Scale: " : "; ") + name;
      wrap(out, words);
    }
    for (const std::string& line : tabText(b.score, {b.strings, b.bars, b.chords}))
      out << (line.empty() ? "" : "  " + line) << '\n';
    if (const std::string legend = tabTextLegend(b.score); !legend.empty()) wrap(out, legend);
    if (!b.remark.empty()) wrap(out, b.remark);
    for (const SheetPhrase& other : b.with) (*this)(other);
  }
  void operator()(const SheetPassage& b) const {
    out << '\n';
    wrap(out, b.name + ": " + b.about);
    std::istringstream lines(b.typed);
    for (std::string line; std::getline(lines, line);) out << "    " << line << '\n';
  }
};

}  // namespace

std::string sheetText(const Sheet& sheet) {
  std::ostringstream out;
  if (!sheet.header.empty()) out << sheet.header << "\n\n";
  underlined(out, sheet.title, '=');
  wrap(out, sheet.recording);
  for (const auto& block : sheet.blocks) std::visit(Setter{out}, block);
  if (!sheet.footer.empty()) out << '\n' << sheet.footer << '\n';
  return out.str();
}

}  // namespace ear
