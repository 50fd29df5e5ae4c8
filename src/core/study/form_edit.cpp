// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/form_edit.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr Seconds kShortest{0.1};
constexpr Seconds kOneSpot{0.06};  // lists of times are written to a tenth of a second

void touch(Section& section) {
  section.origin = Origin::set;
  section.certainty = 1.0;
}

}  // namespace

void splitSection(Form& form, Seconds at) {
  const auto found = std::find_if(form.begin(), form.end(), [&](const Section& s) { return s.span.contains(at); });
  if (found == form.end() || at - found->span.start < kShortest || found->span.end - at < kShortest) return;
  Section second = *found;
  found->span.end = at;
  second.span.start = at;
  touch(second);
  form.insert(found + 1, second);
}

void mergeWithPrevious(Form& form, std::size_t index) {
  if (index == 0 || index >= form.size()) return;
  form[index - 1].span.end = form[index].span.end;
  touch(form[index - 1]);
  form.erase(form.begin() + static_cast<std::ptrdiff_t>(index));
}

void moveBorder(Form& form, std::size_t index, Seconds to) {
  if (index == 0 || index >= form.size()) return;
  const Seconds low = form[index - 1].span.start + kShortest, high = form[index].span.end - kShortest;
  if (low > high) return;
  to = std::clamp(to, low, high);
  form[index - 1].span.end = form[index].span.start = to;
  touch(form[index]);
}

void renameSection(Form& form, std::size_t index, const std::string& letter, const std::string& name) {
  if (index >= form.size()) return;
  if (!letter.empty()) form[index].letter = letter;
  form[index].name = name;
  touch(form[index]);
}

void markSame(Form& form, std::size_t index, std::size_t as, const std::string& difference) {
  if (index >= form.size() || as >= form.size() || index == as) return;
  form[index].letter = form[as].letter;
  form[index].name = form[as].name;
  form[index].difference = difference;
  touch(form[index]);
}

void setCue(Take& take, Seconds at, const std::string& words) {
  std::erase_if(take.cues, [&](const Marker& c) { return std::abs((c.time - at).value) < kOneSpot.value; });
  if (words.empty()) return;
  const auto after = std::find_if(take.cues.begin(), take.cues.end(), [&](const Marker& c) { return c.time > at; });
  take.cues.insert(after, {at, words});
}

}  // namespace ear
