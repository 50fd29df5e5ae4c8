// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/kept_tree.h"

#include <algorithm>
#include <tuple>

namespace ear {
namespace {

constexpr Seconds kEdge{0.1};

bool contains(TimeSpan outer, TimeSpan inner) {
  return outer.start <= inner.start + kEdge && inner.end <= outer.end + kEdge;
}

bool overlaps(TimeSpan a, TimeSpan b) {
  return overlap(a, b) > kEdge;
}

}  // namespace

std::vector<KeptSpan> keptTree(const Study& study, const std::string& take, const Form& form) {
  std::vector<KeptSpan> all;
  for (const Passage& p : study.passages)
    if (p.take == take) all.push_back({KeptSpan::Kind::passage, p.id, p.span});
  for (const Phrase& p : study.phrases)
    if (p.take == take) all.push_back({KeptSpan::Kind::phrase, p.id, p.span});
  const std::size_t kept = all.size();
  for (std::size_t i = 0; i < form.size(); ++i) {
    const bool holds = std::any_of(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(kept),
                                   [&](const KeptSpan& k) { return overlaps(form[i].span, k.span); });
    if (holds) all.push_back({KeptSpan::Kind::section, std::to_string(i), form[i].span});
  }
  // A section goes before what begins with it, and the longer one before the shorter.
  std::stable_sort(all.begin(), all.end(), [](const KeptSpan& a, const KeptSpan& b) {
    const bool together = a.span.start <= b.span.start + kEdge && b.span.start <= a.span.start + kEdge;
    if (!together) return a.span.start < b.span.start;
    return std::tuple(a.kind != KeptSpan::Kind::section, b.span.length()) <
           std::tuple(b.kind != KeptSpan::Kind::section, a.span.length());
  });
  std::vector<std::size_t> open;  // what the next one may lie in
  for (std::size_t i = 0; i < all.size(); ++i) {
    // What is as long as another stands beside it, but under its section.
    const auto within = [&](const KeptSpan& outer) {
      const bool larger = outer.kind == KeptSpan::Kind::section || !contains(all[i].span, outer.span);
      return contains(outer.span, all[i].span) && larger;
    };
    while (!open.empty() && !within(all[open.back()])) open.pop_back();
    all[i].depth = static_cast<int>(open.size());
    open.push_back(i);
  }
  return all;
}

Form unwrittenSections(const Study& study, const std::string& take, const Form& form) {
  Form open;
  for (const Section& s : form)
    if (std::none_of(study.phrases.begin(), study.phrases.end(),
                     [&](const Phrase& p) { return p.take == take && overlaps(p.span, s.span); }))
      open.push_back(s);
  return open;
}

}  // namespace ear
