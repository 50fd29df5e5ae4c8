// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/systems.h"

#include <algorithm>
#include <limits>

#include "core/engraving/spacing.h"

namespace ear {
namespace {

const Beats kEdge(1, 4);  // before a line's first moment: where something comes from that began on the line before

/// A voice's pieces in [from, to), with the beams and tuplets that lie wholly among them.
RhythmRow partOf(const RhythmRow& row, Beats from, Beats to) {
  RhythmRow part;
  std::size_t first = row.pieces.size();
  for (std::size_t i = 0; i < row.pieces.size(); ++i)
    if (row.pieces[i].at >= from && row.pieces[i].at < to) {
      first = std::min(first, i);
      part.pieces.push_back(row.pieces[i]);
    }
  const std::size_t end = first + part.pieces.size();
  const auto keep = [&](const auto& groups, auto& kept) {
    for (auto g : groups)
      if (g.first >= first && g.last < end) {
        g.first -= first, g.last -= first;
        kept.push_back(g);
      }
  };
  keep(row.beams, part.beams);
  keep(row.tuplets, part.tuplets);
  return part;
}

double widthOf(const TabScore& score, Beats from, Beats to) {
  return Spacing(partOf(score, from, to).score).width();
}

/// Places at which a line may end, the first and the last included.
std::vector<Beats> breaksOf(const TabScore& score, double width) {
  std::vector<Beats> bars{score.from};
  for (const Beats line : score.barLines)
    if (line > score.from && line < score.to) bars.push_back(line);
  bars.push_back(std::max(score.to, score.barLines.empty() ? score.to : score.barLines.back()));
  std::vector<Beats> breaks{bars.front()};
  for (std::size_t i = 0; i + 1 < bars.size(); ++i) {
    const Beats end = bars[i + 1];
    for (Beats at = breaks.back() + Beats(1); widthOf(score, breaks.back(), end) > width && at < end;
         at = at + Beats(1))
      if (widthOf(score, breaks.back(), at + Beats(1)) > width) breaks.push_back(at);
    breaks.push_back(end);
  }
  return breaks;
}

}  // namespace

TabSystem partOf(const TabScore& score, Beats from, Beats to) {
  const auto inside = [&](Beats at) { return at >= from && at < to; };
  TabSystem system;
  TabScore& part = system.score;
  part.strings = score.strings;
  part.from = from, part.to = to;
  for (TabHead h : score.heads)
    if (inside(h.at)) {
      h.end = std::min(h.end, to);
      if (h.keptTo) h.keptTo = std::min(*h.keptTo, to);
      part.heads.push_back(std::move(h));
    }
  using K = TabMark::Kind;
  for (TabMark m : score.marks) {
    const bool leads = m.kind == K::hammer || m.kind == K::pull || m.kind == K::slide;
    if (leads && m.from < from && inside(m.to))
      m.from = from - kEdge;
    else if (!inside(m.from))
      continue;
    m.to = std::min(m.to, to);
    part.marks.push_back(std::move(m));
  }
  for (TabStretch s : score.stretches) {
    if (s.from >= to || s.to <= from) continue;
    if (s.from < from) s.from = from, s.text.clear();
    s.to = std::min(s.to, to);
    part.stretches.push_back(std::move(s));
  }
  for (const TabStroke& s : score.strokes)
    if (inside(s.at)) part.strokes.push_back(s);
  for (const TabCount& c : score.counts)
    if (inside(c.at)) part.counts.push_back(c);
  system.firstBar = score.barLines.size();
  for (std::size_t i = 0; i < score.barLines.size(); ++i)
    if (score.barLines[i] >= from && score.barLines[i] <= to) {
      system.firstBar = std::min(system.firstBar, i);
      part.barLines.push_back(score.barLines[i]);
    }
  for (const RhythmRow& row : score.voices) part.voices.push_back(partOf(row, from, to));
  return system;
}

TabScore shifted(TabScore score, Beats by) {
  for (TabHead& h : score.heads) {
    h.at += by, h.end += by;
    if (h.keptTo) *h.keptTo += by;
  }
  for (TabMark& m : score.marks) m.from += by, m.to += by;
  for (TabStretch& s : score.stretches) s.from += by, s.to += by;
  for (TabStroke& s : score.strokes) s.at += by;
  for (TabCount& c : score.counts) c.at += by;
  for (Beats& line : score.barLines) line += by;
  for (RhythmRow& row : score.voices)
    for (RhythmPiece& piece : row.pieces) piece.at += by;
  score.from += by, score.to += by;
  return score;
}

TabScore merged(std::span<const TabScore* const> scores) {
  TabScore all = *scores.front();
  for (const TabScore* score : scores.subspan(1)) {
    const auto append = [](auto& to, const auto& from) { to.insert(to.end(), from.begin(), from.end()); };
    append(all.heads, score->heads), append(all.marks, score->marks), append(all.stretches, score->stretches);
    append(all.barLines, score->barLines), append(all.voices, score->voices);
    all.from = std::min(all.from, score->from), all.to = std::max(all.to, score->to);
  }
  std::sort(all.barLines.begin(), all.barLines.end());
  all.barLines.erase(std::unique(all.barLines.begin(), all.barLines.end()), all.barLines.end());
  return all;
}

std::vector<TabSystem> systemsOf(const TabScore& score, double width) {
  if (score.heads.empty() && score.stretches.empty()) return {};
  const auto breaks = breaksOf(score, width);
  // best[j]: the least that lines up to break j cost; before[j]: where the last of them begins.
  std::vector<double> best(breaks.size(), std::numeric_limits<double>::infinity());
  std::vector<std::size_t> before(breaks.size(), 0);
  best[0] = 0;
  for (std::size_t j = 1; j < breaks.size(); ++j)
    for (std::size_t i = j; i-- > 0;) {
      const double wide = widthOf(score, breaks[i], breaks[j]);
      if (wide > width && i + 1 < j) break;
      const double stretch = std::max(0.0, width / wide - 1);
      // The last line need not be filled.
      const double cost = best[i] + 0.1 + (j + 1 == breaks.size() ? 0.3 : 1.0) * stretch * stretch;
      if (cost < best[j]) best[j] = cost, before[j] = i;
    }
  std::vector<TabSystem> systems;
  for (std::size_t j = breaks.size() - 1; j > 0; j = before[j])
    systems.push_back(partOf(score, breaks[before[j]], breaks[j]));
  std::reverse(systems.begin(), systems.end());
  return systems;
}

}  // namespace ear
