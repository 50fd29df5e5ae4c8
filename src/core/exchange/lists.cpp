// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/lists.h"

#include <algorithm>
#include <cmath>
#include <sstream>
#include <tuple>

#include "core/base/text.h"
#include "core/study/form_bars.h"
#include "core/study/grid.h"
#include "core/study/parts.h"

namespace ear {
namespace {

std::string oneLine(std::string text) {
  for (char& c : text)
    if (c == '\n' || c == '\t' || c == '\r') c = ' ';
  return text;
}

/// RFC 4180: in quotation marks where it has a comma, a quotation mark or an end of line.
std::string cell(const std::string& text) {
  if (text.find_first_of(",\"\n\r") == std::string::npos) return text;
  std::string out = "\"";
  for (const char c : text) out += c == '"' ? "\"\"" : std::string(1, c);
  return out + "\"";
}

void row(std::ostream& out, const std::vector<std::string>& cells) {
  for (std::size_t i = 0; i < cells.size(); ++i) out << (i > 0 ? "," : "") << cell(cells[i]);
  out << "\r\n";
}

std::string sectionName(const Section& s) {
  return s.name.empty() ? s.letter : s.letter + " " + s.name;
}

std::string number(double value, int decimals = 3) {
  return fixed(value, decimals);
}

}  // namespace

std::string labelText(const TakeLists& l) {
  std::vector<std::tuple<double, double, std::string>> labels;
  const auto add = [&](TimeSpan span, const std::string& name) {
    labels.emplace_back(span.start.value, span.end.value, oneLine(name));
  };
  const Brief brief = briefOf(l.take, partsOf(l.study, l.take, l.findings).front(), l.findings);
  if (const auto form = settled(brief.form))
    for (const Section& s : *form) add(s.span, sectionName(s));
  for (const auto& p : l.study.phrases)
    if (p.take == l.take.id) add(p.span, p.name.empty() ? "Phrase" : p.name);
  for (const auto& p : l.study.passages)
    if (p.take == l.take.id) add(p.span, p.name.empty() ? "Passage" : p.name);
  for (const auto& m : l.take.cues) add({m.time, m.time}, m.text);
  std::stable_sort(labels.begin(), labels.end(),
                   [](const auto& a, const auto& b) { return std::get<0>(a) < std::get<0>(b); });
  std::ostringstream out;
  for (const auto& [from, to, name] : labels) out << number(from, 6) << '\t' << number(to, 6) << '\t' << name << '\n';
  return out.str();
}

std::string csvOfTake(const TakeLists& l) {
  std::ostringstream out;
  row(out, {"what", "start_s", "end_s", "bar", "value", "origin", "certainty"});
  const Grid grid = gridOf(l.take, l.findings);
  const auto bar = [&](Seconds t) {
    const auto place = barPlaceAt(grid, t);
    return place ? std::to_string(place->bar) : std::string();
  };
  const auto line = [&](const char* what, TimeSpan span, const std::string& value, Origin origin, double certainty) {
    row(out, {what, number(span.start.value), number(span.end.value), bar(span.start), value,
              std::string(originWord(origin)), number(certainty, 2)});
  };
  const Brief brief = briefOf(l.take, partsOf(l.study, l.take, l.findings).front(), l.findings);
  const TimeSpan whole{Seconds(0), l.take.duration};
  if (brief.pitch) line("pitch", whole, sentenceOf(brief.pitch->value), brief.pitch->origin, brief.pitch->certainty);
  if (brief.key) line("key", whole, sentenceOf(brief.key->value), brief.key->origin, brief.key->certainty);
  if (brief.time) line("time", whole, sentenceOf(brief.time->value), brief.time->origin, brief.time->certainty);
  if (brief.form)
    for (const Section& s : brief.form->value) line("section", s.span, sectionName(s), s.origin, s.certainty);
  for (const ShownChord& c : chordsOf(l.take, l.findings))
    line("chord", c.span, c.chord ? harteLabel(*c.chord) : "N", c.origin, c.certainty);
  for (const auto& p : l.study.phrases)
    if (p.take == l.take.id) line("phrase", p.span, p.name, Origin::set, p.certainty);
  const Origin origin = l.take.grid ? l.take.grid->origin : Origin::measured;
  const double certainty = l.take.grid ? 1.0 : brief.time ? brief.time->certainty : 0.0;
  for (const Beat& b : grid) line(b.bar ? "bar line" : "beat", {b.time, b.time}, "", origin, certainty);
  return out.str();
}

std::string csvOfNotes(const std::vector<TabPiece>& pieces) {
  static constexpr std::array kAttacks = {"plucked",         "hammered on",     "pulled off", "slid into",
                                          "slid from below", "slid from above", "tapped",     "raked"};
  static constexpr std::array kEndings = {"", "slid up", "slid down", "pulled away", "choked", "faded"};
  std::ostringstream out;
  row(out, {"guitar", "bar", "beat", "length", "string", "fret", "midi", "attack", "bend_cents", "bent_before",
            "released", "vibrato_cents", "ending", "palm_muted", "let_ring"});
  for (const TabPiece& p : pieces)
    for (const Note& n : p.notes) {
      const auto after = std::upper_bound(p.barLines.begin(), p.barLines.end(), n.at);
      const auto bar = std::max<std::ptrdiff_t>(0, after - p.barLines.begin() - 1);
      const Beats beat = n.at - p.barLines[static_cast<std::size_t>(bar)] + Beats(1);
      const auto yes = [](bool on) { return std::string(on ? "yes" : ""); };
      row(out,
          {p.name, std::to_string(p.firstBar + bar), beat.text(), n.length.text(),
           std::to_string(p.guitar.strings() - n.place.string), std::to_string(n.place.fret),
           std::to_string(soundingKey(p.guitar, n)), kAttacks[static_cast<std::size_t>(n.attack)],
           n.bend && n.bend->size ? number(n.bend->size->value, 1) : "", yes(n.bend && n.bend->before),
           yes(n.bend && n.bend->released), n.vibrato && n.vibrato->width ? number(n.vibrato->width->value, 1) : "",
           kEndings[static_cast<std::size_t>(n.ending)], yes(n.palmMuted), yes(n.letRing)});
    }
  return out.str();
}

std::string chordProChart(const TakeLists& l) {
  std::ostringstream out;
  const auto parts = partsOf(l.study, l.take, l.findings);
  const Brief brief = briefOf(l.take, parts.front(), l.findings);
  const Spelling spelling = spellingIn({}, settled(brief.key));
  const auto ascii = [](std::string name) {
    for (const auto& [from, to] : {std::pair<std::string, std::string>{"♭", "b"}, {"♯", "#"}})
      for (std::size_t at; (at = name.find(from)) != std::string::npos;) name.replace(at, from.size(), to);
    return name;
  };
  out << "{title: " << oneLine(l.study.title) << "}\n";
  if (const auto key = settled(brief.key)) {
    std::string name = ascii(pitchClassName(key->tonic, spellingOf(*key)));
    out << "{key: " << name << (key->mode == Mode::minor ? "m" : "") << "}\n";
  }
  if (const auto time = settled(brief.time))
    out << "{tempo: " << std::lround(time->tempo.value) << "}\n{time: " << time->meter << "/4}\n";
  if (const auto setup = settled(setupOf(parts.front(), l.findings)); setup && setup->capo.fret > 0)
    out << "{capo: " << setup->capo.fret << "}\n";
  const Grid grid = gridOf(l.take, l.findings);
  for (const FormBars& own :
       barsOfForm(settled(brief.form).value_or(Form{}), grid, l.take.duration, chordsOf(l.take, l.findings))) {
    std::vector<std::string> bars;
    for (const FormBar& bar : own.bars) {
      std::string names;
      for (const ShownChord& c : bar.chords)
        if (c.chord)
          names +=
              (names.empty() ? "" : " ") + (isSettled(c) ? ascii(chordName(*c.chord, spelling)) : std::string("?"));
      bars.push_back(names.empty() ? "." : names);
    }
    if (bars.empty()) continue;
    out << "\n{start_of_grid: label=\"" << oneLine(sectionName(own.section)) << "\"}\n";
    for (std::size_t i = 0; i < bars.size(); ++i)
      out << (i % 4 == 0 ? "| " : " ") << bars[i] << (i % 4 == 3 || i + 1 == bars.size() ? " |\n" : " |");
    out << "{end_of_grid}\n";
  }
  return out.str();
}

}  // namespace ear
