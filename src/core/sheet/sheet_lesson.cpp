// SPDX-License-Identifier: GPL-3.0-or-later
// What the lesson needs besides the notes: order of practice, notes, open questions, cautions.
#include <algorithm>
#include <map>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"
#include "core/study/lesson_notes.h"
#include "core/study/tune_up.h"

namespace ear::sheet {
namespace {

/// "1, 2, 1 + 2, 3, 1 + 2 + 3": each alone, then with all before it.
std::string chainWords(const std::vector<int>& numbers) {
  constexpr std::size_t kMost = 5;
  std::string words, sum;
  for (std::size_t i = 0; i < numbers.size() && i < kMost; ++i) {
    const std::string own = std::to_string(numbers[i]);
    sum += (sum.empty() ? "" : " + ") + own;
    words += (words.empty() ? "" : ", ") + own + (i > 0 ? ", " + sum : "");
  }
  return words + (numbers.size() > kMost ? " and so on" : "");
}

/// The fastest speed at which a span was practised; 0 where it never was.
double reached(const Setting& s, TimeSpan span) {
  double best = 0.0;
  for (const PracticeEntry& e : *s.study().log)
    if (e.take == s.take().id && e.kind == PracticeEntry::Kind::ladder &&
        overlap(e.span, span) > Seconds(0.8 * span.length().value))
      best = std::max(best, e.speed);
  return best;
}

std::string atSpeed(const Setting& s, double speed) {
  std::string words = percentWords(speed);
  if (isSettled(s.brief.time)) words += " (" + tempoWords(Bpm(s.brief.time->value.tempo.value * speed)) + ")";
  return words;
}

template <class Pinned>
void addTimed(Sheet& sheet, const std::string& heading, const std::vector<Pinned>& pinned) {
  if (pinned.empty()) return;
  sheet.blocks.push_back(SheetHeading{heading});
  SheetTable table{{"Time", "What"}, {}};
  for (const auto& p : pinned) table.rows.push_back({clockTenths(p.time), p.text});
  sheet.blocks.push_back(std::move(table));
}

}  // namespace

void addPlan(Sheet& sheet, const Setting& s) {
  std::map<int, const Phrase*> chained;
  for (const Phrase* p : s.phrases())
    if (p->number > 0) chained[p->number] = p;
  SheetTable table{{"What", "From", "Begin at", "Reached so far"}, {}};
  const auto row = [&](const std::string& name, TimeSpan span, double speed) {
    const double best = reached(s, span);
    table.rows.push_back(
        {name, clockTenths(span.start), speed > 0 ? atSpeed(s, speed) : "", best > 0 ? atSpeed(s, best) : ""});
  };
  for (const auto& p : s.study().passages)
    if (p.take == s.take().id) row(p.name.empty() ? "Passage" : p.name, p.span, p.speed);
  for (const auto& [number, p] : chained)
    if (reached(s, p->span) > 0) row("Phrase " + std::to_string(number), p->span, 0);
  if (chained.size() < 2 && table.rows.empty()) return;
  sheet.blocks.push_back(SheetHeading{"Practice"});
  if (chained.size() > 1) {
    std::vector<int> numbers;
    for (const auto& [number, p] : chained) numbers.push_back(number);
    sheet.blocks.push_back(SheetWords{"The phrases in this order, each slowly first: " + chainWords(numbers) + "."});
  }
  if (!table.rows.empty()) sheet.blocks.push_back(std::move(table));
}

void addPinned(Sheet& sheet, const Setting& s) {
  addTimed(sheet, "Marks", s.take().cues);
  addTimed(sheet, "Notes for the lesson", notesOf(s.study(), s.take().id));
}

void addQuestions(Sheet& sheet, const Setting& s) {
  SheetTable table{{"Time", "Not made out yet", "It may be", "Could settle it"}, {}};
  for (const auto& q : s.study().questions)
    if (q.take == s.take().id && q.answer.empty())
      table.rows.push_back({clockTenths(q.span.start), q.text, joined(q.readings, "; "), q.who});
  if (table.rows.empty()) return;
  sheet.blocks.push_back(SheetHeading{"Open questions"});
  sheet.blocks.push_back(std::move(table));
}

void addCautions(Sheet& sheet, const Setting& s) {
  std::vector<std::string> cautions;
  for (const auto& part : s.parts)
    if (const auto setup = s.setup(part))
      for (const auto& caution : tensionCautions(*setup, s.offset())) cautions.push_back(caution);
  // Wider than a whole tone: where hands are hurt; common practice, no source.
  bool wide = false, practised = false;
  for (const auto& block : sheet.blocks) {
    if (std::holds_alternative<SheetPassage>(block)) practised = true;
    if (const auto* p = std::get_if<SheetPhrase>(&block))
      for (const TabMark& m : p->score.marks)
        wide = wide || ((m.kind == TabMark::Kind::bend || m.kind == TabMark::Kind::heldBend) && m.cents > 250);
  }
  if (wide)
    cautions.emplace_back(
        "There are bends wider than a whole tone: warm up first, push with two or three fingers together, "
        "and stop when it hurts.");
  if (practised)
    cautions.emplace_back(
        "Looped passages tempt to turn up: keep it as loud as talk, and rest the ears and hands every "
        "quarter of an hour.");
  if (cautions.empty()) return;
  sheet.blocks.push_back(SheetHeading{"Take care"});
  for (auto& c : cautions) sheet.blocks.push_back(SheetWords{std::move(c), SheetWords::Tone::caution});
}

}  // namespace ear::sheet
