// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/jump_list.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/text.h"

namespace ear {
namespace {

constexpr Seconds kOneSpot{0.02};  // nothing shorter is a stretch of music
constexpr Seconds kLatest{1e6};    // seconds
constexpr int kMostRows = 5000;
constexpr std::size_t kLongestLabel = 400;  // bytes

std::string csvField(const std::string& label) {
  if (label.find_first_of(",\"\n") == std::string::npos) return label;
  std::string out = "\"";
  for (const char c : label) out += c == '"' ? std::string("\"\"") : std::string(1, c);
  return out + "\"";
}

/// The fields of a line of comma-separated values.
std::vector<std::string> csvFields(std::string_view line) {
  std::vector<std::string> fields(1);
  bool inQuotes = false;
  for (std::size_t i = 0; i < line.size(); ++i) {
    const char c = line[i];
    if (inQuotes && c == '"' && i + 1 < line.size() && line[i + 1] == '"')
      fields.back() += '"', ++i;
    else if (c == '"')
      inQuotes = !inQuotes;
    else if (c == ',' && !inQuotes)
      fields.emplace_back();
    else
      fields.back() += c;
  }
  return fields;
}

std::optional<double> number(std::string_view text) {
  while (!text.empty() && text.front() == ' ') text.remove_prefix(1);
  while (!text.empty() && (text.back() == ' ' || text.back() == '\r')) text.remove_suffix(1);
  double value = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(value) || value < 0)
    return std::nullopt;
  return value;
}

/// "7.3", "1:05", "1:02:05.4".
std::optional<Seconds> clock(std::string_view text) {
  double seconds = 0;
  int parts = 0;
  while (true) {
    const auto colon = text.find(':');
    const auto value = number(text.substr(0, colon));
    if (!value || ++parts > 3) return std::nullopt;
    seconds = seconds * 60 + *value;
    if (colon == std::string_view::npos) return Seconds(seconds);
    text.remove_prefix(colon + 1);
  }
}

std::vector<std::string_view> linesOf(std::string_view text) {
  std::vector<std::string_view> lines;
  while (!text.empty()) {
    const auto end = text.find('\n');
    auto line = text.substr(0, end);
    if (!line.empty() && line.back() == '\r') line.remove_suffix(1);
    lines.push_back(line);
    if (end == std::string_view::npos) break;
    text.remove_prefix(end + 1);
  }
  return lines;
}

std::string_view firstWord(std::string_view text) {
  return text.substr(0, text.find(' '));
}

std::string_view behindFirstWord(std::string_view text) {
  const auto next = text.find_first_not_of(' ', firstWord(text).size());
  return next == std::string_view::npos ? std::string_view() : text.substr(next);
}

/// One line in whichever format it is; empty where it is none.
std::optional<Jump> readLine(std::string_view line) {
  if (const auto tab = line.find('\t'); tab != std::string_view::npos) {
    const auto second = line.find('\t', tab + 1);
    const auto start = number(line.substr(0, tab));
    const auto end = number(line.substr(tab + 1, second == std::string_view::npos ? second : second - tab - 1));
    if (!start || !end || *end < *start) return std::nullopt;
    return Jump{{Seconds(*start), Seconds(*end)},
                second == std::string_view::npos ? "" : std::string(line.substr(second + 1))};
  }
  if (const auto fields = csvFields(line); fields.size() >= 3) {
    const auto start = number(fields[0]), end = number(fields[1]);
    if (start && end && *end >= *start) return Jump{{Seconds(*start), Seconds(*end)}, fields[2]};
  }
  const auto start = clock(firstWord(line));
  if (!start) return std::nullopt;
  Seconds end = *start;
  auto label = behindFirstWord(line);
  if (firstWord(label) == "to")
    if (const auto until = clock(firstWord(behindFirstWord(label))); until && *until >= *start)
      end = *until, label = behindFirstWord(behindFirstWord(label));
  return Jump{{*start, end}, std::string(label)};
}

}  // namespace

bool isSpot(const Jump& jump) {
  return jump.span.length() <= kOneSpot;
}

std::vector<Jump> jumpsOf(const Study& study, const Take& take, const Form& form) {
  std::vector<Jump> jumps;
  for (const auto& s : form) jumps.push_back({s.span, s.name.empty() ? s.letter : s.letter + " " + s.name});
  for (const auto& p : study.passages)
    if (p.take == take.id) jumps.push_back({p.span, p.name});
  for (const auto& c : take.cues) jumps.push_back({{c.time, c.time}, c.text});
  std::stable_sort(jumps.begin(), jumps.end(), [](auto& a, auto& b) { return a.span.start < b.span.start; });
  return jumps;
}

std::string writeJumps(const std::vector<Jump>& jumps, JumpFormat format) {
  std::string out = format == JumpFormat::csv ? "start_s,end_s,label\n" : "";
  for (const auto& j : jumps) {
    std::string label = j.label;
    for (const char between : {'\n', '\t'}) std::replace(label.begin(), label.end(), between, ' ');
    if (format == JumpFormat::text) {
      const bool spot = j.span.length() == Seconds(0);
      out += clockTenths(j.span.start) + (spot ? "" : " to " + clockTenths(j.span.end)) + "  " + label + "\n";
      continue;
    }
    const char* between = format == JumpFormat::csv ? "," : "\t";
    if (format == JumpFormat::csv) label = csvField(label);
    out += fixed(j.span.start.value, 3) + between + fixed(j.span.end.value, 3) + between + label + "\n";
  }
  return out;
}

Outcome<std::vector<Jump>> readJumps(std::string_view text) {
  std::vector<Jump> jumps;
  int row = 0;
  constexpr std::string_view kByteOrderMark = "\xEF\xBB\xBF";  // as tables are written by some programs
  if (text.starts_with(kByteOrderMark)) text.remove_prefix(kByteOrderMark.size());
  for (const auto line : linesOf(text)) {
    if (++row > kMostRows)
      return Problem{"There are more than " + std::to_string(kMostRows) + " lines in it; a list of times has fewer."};
    if (line.find_first_not_of(" \t") == std::string_view::npos) continue;
    if (auto jump = readLine(line); jump && jump->span.end <= kLatest)
      jump->label = shortened(asUtf8(jump->label), kLongestLabel), jumps.push_back(*std::move(jump));
    else if (row > 1 || line.find(',') == std::string_view::npos)  // the first line may be a heading
      return Problem{"Line " + std::to_string(row) + " is no time: “" + shortened(asUtf8(line), 120) +
                     "”. Write a clock time and a word (0:07.3 verse), or start, end and label in seconds with tabs or "
                     "commas between."};
  }
  if (jumps.empty()) return Problem{"There is no time in it."};
  std::stable_sort(jumps.begin(), jumps.end(), [](auto& a, auto& b) { return a.span.start < b.span.start; });
  return jumps;
}

Form formOfJumps(const std::vector<Jump>& jumps, Seconds duration) {
  Form form;
  std::map<std::string, std::string> letters;
  // From one span to the next that starts where it ends or later; of those that start together the longest. What starts
  // within a span, as a passage does, is no section.
  Seconds end(0);
  const auto opens = [&](const Jump& j) {
    return !isSpot(j) && j.span.start < duration && j.span.start >= end - kOneSpot;
  };
  for (std::size_t i = 0; i < jumps.size();) {
    if (!opens(jumps[i])) {
      ++i;
      continue;
    }
    const Jump* next = &jumps[i];
    const Seconds together = next->span.start + kOneSpot;
    for (; i < jumps.size() && jumps[i].span.start <= together; ++i)
      if (opens(jumps[i]) && jumps[i].span.end > next->span.end) next = &jumps[i];
    end = next->span.end;
    Section s;
    s.span = {form.empty() ? Seconds(0) : next->span.start, std::min(end, duration)};
    // "B chorus" is letter and name, as they are written out; one word is a letter or a name.
    const auto space = next->label.find(' ');
    const bool letter = space == 1 || next->label.size() == 1;
    s.letter = letter ? next->label.substr(0, 1) : "";
    s.name = !letter ? next->label : space == 1 ? next->label.substr(2) : "";
    if (s.letter.empty())
      s.letter =
          letters.try_emplace(s.name, std::string(1, static_cast<char>('A' + letters.size() % 26))).first->second;
    s.origin = Origin::set;
    s.certainty = 1.0;
    if (!form.empty()) form.back().span.end = s.span.start;
    form.push_back(s);
  }
  if (!form.empty()) form.back().span.end = duration;
  return form;
}

}  // namespace ear
