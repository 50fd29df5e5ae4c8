// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/form_bars.h"

#include <algorithm>

#include "core/study/grid.h"

namespace ear {

std::vector<FormBars> barsOfForm(const Form& form, const Grid& grid, Seconds end,
                                 const std::vector<ShownChord>& chords) {
  constexpr Seconds kEarly{0.08};
  const auto lines = barLines(grid);
  std::vector<FormBars> sections;
  for (const Section& section : form.empty() ? Form{{{Seconds(0), end}, "", ""}} : form) {
    FormBars own{section};
    for (std::size_t i = 0; i < lines.size(); ++i) {
      if (lines[i] < section.span.start - kEarly || lines[i] >= section.span.end - kEarly) continue;
      FormBar bar{static_cast<int>(i) + 1,
                  {lines[i], i + 1 < lines.size() ? lines[i + 1] : std::min(section.span.end, end)}};
      if (bar.span.length() <= Seconds(0)) continue;
      std::copy_if(chords.begin(), chords.end(), std::back_inserter(bar.chords), [&](const ShownChord& c) {
        return c.span.end > bar.span.start + kEarly && c.span.start < bar.span.end - kEarly;
      });
      own.bars.push_back(std::move(bar));
    }
    sections.push_back(std::move(own));
  }
  return sections;
}

}  // namespace ear
