// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/plan.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr Seconds kMeet{0.06};  // two phrases that leave no more than this between them are one piece

Segment turnOf(TimeSpan span, const Breath& breath) {
  return {.span = span, .rest = breath.silence, .clicks = breath.clicks, .each = breath.each};
}

/// Stretches of phrases [0, count) that are played in one piece.
std::vector<TimeSpan> pieces(std::span<const TimeSpan> phrases) {
  std::vector<TimeSpan> result;
  for (const TimeSpan& phrase : phrases)
    if (!result.empty() && std::abs((phrase.start - result.back().end).value) <= kMeet.value)
      result.back().end = phrase.end;
    else
      result.push_back(phrase);
  return result;
}

}  // namespace

std::vector<double> rungsOf(const LadderPlan& plan) {
  constexpr double kClose = 1e-6;
  const double step = std::max(0.01, std::abs(plan.step)) * (plan.to < plan.from ? -1 : 1);
  std::vector<double> rungs;
  for (double speed = plan.from; (plan.to - speed) * step > kClose * std::abs(step); speed += step)
    rungs.push_back(speed);
  rungs.push_back(plan.to);
  return rungs;
}

std::vector<Segment> ladder(TimeSpan passage, const LadderPlan& plan, const Breath& breath) {
  std::vector<Segment> turns;
  for (const double speed : rungsOf(plan)) {
    turns.push_back(turnOf(passage, breath));
    turns.back().speed = speed;
    turns.back().repeats = plan.byKey ? 0 : std::max(1, plan.clean);
  }
  turns.back().repeats = 0;
  return turns;
}

Chain chain(std::span<const TimeSpan> phrases, int times, const Breath& breath) {
  Chain result;
  const auto link = [&](std::string name, const std::vector<TimeSpan>& spans) {
    for (int time = 0; time < std::max(1, times); ++time)
      for (std::size_t i = 0; i < spans.size(); ++i) {
        // Only the end of a link is followed by a breath.
        result.turns.push_back(turnOf(spans[i], i + 1 == spans.size() ? breath : Breath{}));
        result.linkOf.push_back(result.links.size());
      }
    result.links.push_back(std::move(name));
  };
  std::string together;
  for (std::size_t i = 0; i < phrases.size(); ++i) {
    const std::string number = std::to_string(i + 1);
    together += (i == 0 ? "" : "+") + number;
    link(number, {phrases[i]});
    if (i > 0) link(together, pieces(phrases.first(i + 1)));
  }
  return result;
}

std::vector<Segment> callAndAnswer(TimeSpan passage, const Breath& breath) {
  Segment turn = turnOf(passage, breath);
  turn.rest += passage.length();
  return {turn};
}

}  // namespace ear
