// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/sheet_changes.h"

#include <algorithm>
#include <sstream>

namespace ear {
namespace {

constexpr std::size_t kMostLines = 4000, kMostRevisions = 100;

struct Line {
  std::string text, heading;
};

bool isRule(const std::string& text) {
  return text.size() > 2 && text.find_first_not_of(text.front() == '=' ? '=' : '-') == std::string::npos;
}

std::vector<Line> linesOf(const std::string& text) {
  std::vector<Line> lines;
  std::istringstream in(text);
  std::string heading;
  for (std::string line; std::getline(in, line) && lines.size() < kMostLines;) {
    if (isRule(line)) {  // what it underlines is a heading
      if (!lines.empty()) heading = lines.back().text, lines.back().heading = heading;
      continue;
    }
    if (line.find_first_not_of(' ') != std::string::npos) lines.push_back({line, heading});
  }
  return lines;
}

const SheetRevision* lastOf(const Study& study, const std::string& take) {
  const auto& all = *study.revisions;
  const auto last = std::find_if(all.rbegin(), all.rend(), [&](const SheetRevision& r) { return r.take == take; });
  return last == all.rend() ? nullptr : &*last;
}

}  // namespace

std::vector<SheetChange> changesBetween(const std::string& before, const std::string& after) {
  const auto was = linesOf(before), is = linesOf(after);
  // common[i][j]: how many lines was[i ...] and is[j ...] share in order.
  const std::size_t width = is.size() + 1;
  std::vector<std::uint16_t> common((was.size() + 1) * width, 0);
  for (std::size_t i = was.size(); i-- > 0;)
    for (std::size_t j = is.size(); j-- > 0;)
      common[i * width + j] = was[i].text == is[j].text
                                  ? static_cast<std::uint16_t>(common[(i + 1) * width + j + 1] + 1)
                                  : std::max(common[(i + 1) * width + j], common[i * width + j + 1]);
  std::vector<SheetChange> changes;
  std::size_t i = 0, j = 0;
  while (i < was.size() || j < is.size()) {
    if (i < was.size() && j < is.size() && was[i].text == is[j].text)
      ++i, ++j;
    else if (j == is.size() || (i < was.size() && common[(i + 1) * width + j] >= common[i * width + j + 1]))
      changes.push_back({SheetChange::Kind::gone, was[i].heading, was[i].text}), ++i;
    else
      changes.push_back({SheetChange::Kind::added, is[j].heading, is[j].text}), ++j;
  }
  return changes;
}

int revisionOf(const Study& study, const std::string& take, const std::string& text) {
  const SheetRevision* last = lastOf(study, take);
  return last == nullptr ? 1 : last->text == text ? last->number : last->number + 1;
}

void keepRevision(Study& study, const std::string& take, const std::string& text, const std::string& when) {
  const SheetRevision* last = lastOf(study, take);
  if (last != nullptr && last->text == text) return;
  const int number = revisionOf(study, take, text);
  auto& all = study.revisions.change();
  all.push_back({number, when, take, text});
  if (all.size() > kMostRevisions) all.erase(all.begin());
}

}  // namespace ear
