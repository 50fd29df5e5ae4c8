// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <sstream>

#include "core/base/text.h"
#include "core/engraving/tab_text.h"
#include "core/sheet/sheet.h"

namespace ear {
namespace {

constexpr const char* kStyle = R"(
:root { color-scheme: light dark; --ground: #fff; --ink: #1b2025; --soft: #59626b; --line: #cfd3d6; --wash: #eef2f0; --care: #8a4b00; --accent: #17604f; }
@media (prefers-color-scheme: dark) {
  :root { --ground: #15191c; --ink: #e8e6e1; --soft: #9ba5ab; --line: #3a444b; --wash: #1f2a28; --care: #e0a04a; --accent: #5cc3a3; } }
body { margin: 0 auto; max-width: 46rem; padding: 1rem; background: var(--ground); color: var(--ink); font: 1rem/1.45 system-ui, sans-serif; }
h1 { margin: 0; font-size: 1.7rem; } h2 { margin: 1.8rem 0 .4rem; font-size: 1.1rem; border-top: 1px solid var(--line); padding-top: .6rem; }
h3 { margin: 1.2rem 0 .2rem; font-size: 1rem; } p { margin: .3rem 0; } .soft { color: var(--soft); } .care { color: var(--care); }
.scroll { overflow-x: auto; } table { border-collapse: collapse; } th, td { text-align: left; padding: .15rem .9rem .15rem 0; vertical-align: top; }
th { color: var(--soft); font-weight: 400; } pre { font: .85rem/1.25 ui-monospace, monospace; margin: .3rem 0; }
.bars { display: grid; grid-template-columns: repeat(4, 1fr); border-left: 1px solid var(--line); margin: .2rem 0 .8rem; }
.bars div { border-right: 1px solid var(--line); padding: .1rem .4rem; min-height: 1.4rem; background: var(--wash); }
.bars small { color: var(--soft); } .tab svg { width: 100%; max-width: 34rem; height: auto; }
summary { color: var(--soft); font-size: .85rem; } )";

std::string escaped(const std::string& text) {
  std::string html;
  for (const char c : text) switch (c) {
      case '&':
        html += "&amp;";
        break;
      case '<':
        html += "&lt;";
        break;
      case '>':
        html += "&gt;";
        break;
      case '"':
        html += "&quot;";
        break;
      default:
        html += c;
    }
  return html;
}

void setTable(std::ostream& out, const std::vector<std::string>& head,
              const std::vector<std::vector<std::string>>& rows) {
  out << "<div class=\"scroll\"><table>\n";
  const auto row = [&](const std::vector<std::string>& cells, const char* tag) {
    out << "<tr>";
    for (const auto& cell : cells) out << '<' << tag << '>' << escaped(cell) << "</" << tag << '>';
    out << "</tr>\n";
  };
  if (!head.empty()) row(head, "th");
  for (const auto& cells : rows) row(cells, "td");
  out << "</table></div>\n";
}

/// Sets one block after the other.
struct Setter {
  const std::function<std::string(const SheetPhrase&)>& drawn;
  std::ostream& out;

  void operator()(const SheetHeading& b) const { out << "<h2>" << escaped(b.text) << "</h2>\n"; }
  void operator()(const SheetWords& b) const {
    using Tone = SheetWords::Tone;
    out << (b.tone == Tone::plain  ? "<p>"
            : b.tone == Tone::soft ? "<p class=\"soft\">"
                                   : "<p class=\"care\">")
        << escaped(b.text) << "</p>\n";
  }
  void operator()(const SheetTable& b) const { setTable(out, b.head, b.rows); }
  void operator()(const SheetTuning& b) const {
    std::vector<std::vector<std::string>> rows;
    for (const auto& s : b.strings) rows.push_back({s.name, s.note, s.hertz, s.cents});
    setTable(out, {"String", "Tune to", "Hz", "From standard"}, rows);
    if (b.capo > 0) out << "<p>Capo at fret " << b.capo << ".</p>\n";
  }
  void operator()(const SheetChart& b) const {
    for (const auto& s : b.sections) {
      out << "<h3>" << escaped(s.letter) << ' ' << escaped(s.name) << " <span class=\"soft\">"
          << clockTenths(s.span.start) << ", " << s.barCount << (s.barCount == 1 ? " bar" : " bars");
      if (!s.sameAs.empty()) out << ", as at " << s.sameAs;
      if (!s.difference.empty()) out << ", " << escaped(s.difference);
      out << "</span></h3>\n";
      if (s.bars.empty()) continue;
      out << "<div class=\"bars\">";
      for (const auto& bar : s.bars) {
        out << "<div>";
        for (const SheetChord& c : bar.chords) {
          out << escaped(c.sounding) << ' ';
          if (!c.shape.empty()) out << "<small>" << escaped(c.shape) << "</small> ";
        }
        out << "</div>";
      }
      out << "</div>\n";
    }
  }
  void operator()(const SheetBoxes& b) const {
    std::vector<std::vector<std::string>> rows;
    for (const auto& box : b.boxes) rows.push_back({box.sounding, box.shape, box.text()});
    setTable(out,
             {"Sounding", "Shape", b.capo > 0 ? "Frets from the capo, low string first" : "Frets, low string first"},
             rows);
  }
  void operator()(const SheetNeck& b) const {
    out << "<p>" << escaped(b.name) << "</p>\n";
    setTable(out, {"String", "Frets"}, b.rows());
  }
  void operator()(const SheetPhrase& b) const {
    out << "<h3 id=\"" << escaped(b.id) << "\">" << (b.number > 0 ? std::to_string(b.number) + " " : "")
        << escaped(b.name) << "</h3>\n";
    for (const auto& line : b.about) out << "<p class=\"soft\">" << escaped(line) << "</p>\n";
    for (const auto& [at, name] : b.scales) out << "<p class=\"soft\">" << escaped(name) << "</p>\n";
    const auto lines = tabText(b.score, {b.strings, b.bars, b.chords, 64});
    if (!lines.empty() && drawn)
      out << "<div class=\"tab\">" << drawn(b) << "</div>\n<details><summary>In characters, to copy</summary>\n";
    if (!lines.empty()) {
      out << "<div class=\"scroll\"><pre>";
      for (const auto& line : lines) out << escaped(line) << '\n';
      out << "</pre></div>\n";
    }
    if (!lines.empty() && drawn) out << "</details>\n";
    if (const std::string legend = tabTextLegend(b.score); !legend.empty())
      out << "<p class=\"soft\">" << escaped(legend) << "</p>\n";
    if (!b.remark.empty()) out << "<p>" << escaped(b.remark) << "</p>\n";
    for (const SheetPhrase& other : b.with) (*this)(other);
  }
  void operator()(const SheetPassage& b) const {
    out << "<h3>" << escaped(b.name) << " <span class=\"soft\">" << escaped(b.about) << "</span></h3>\n";
    if (!b.typed.empty()) out << "<div class=\"scroll\"><pre>" << escaped(b.typed) << "</pre></div>\n";
  }
};

}  // namespace

std::string sheetHtml(const Sheet& sheet, const std::function<std::string(const SheetPhrase&)>& drawn) {
  std::ostringstream out;
  out << "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
      << "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n<title>" << escaped(sheet.title)
      << "</title>\n<style>" << kStyle << "</style>\n</head>\n<body>\n";
  if (!sheet.header.empty()) out << "<p class=\"soft\">" << escaped(sheet.header) << "</p>\n";
  out << "<h1>" << escaped(sheet.title) << "</h1>\n<p class=\"soft\">" << escaped(sheet.recording) << "</p>\n";
  for (const auto& block : sheet.blocks) std::visit(Setter{drawn, out}, block);
  if (!sheet.footer.empty()) out << "<p class=\"soft\">" << escaped(sheet.footer) << "</p>\n";
  out << "</body>\n</html>\n";
  return out.str();
}

}  // namespace ear
