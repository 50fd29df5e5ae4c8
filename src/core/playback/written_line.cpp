// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/written_line.h"

#include <algorithm>
#include <cmath>
#include <memory>

namespace ear {
namespace {

constexpr Seconds kDamp{0.03};  // of a note that ends
constexpr double kJump = 2.0;   // frames by which a mark may miss the one before it
constexpr int kSlowed = 20;     // times at the most that bends take as long

PluckedString::Pluck atSpeed(PluckedString::Pluck pluck, double speed) {
  const double longer = std::clamp(1.0 / speed, 0.0, static_cast<double>(kSlowed));
  for (std::size_t i = 0; i < pluck.moves.count; ++i) {
    auto& move = pluck.moves.all[i];
    move.after = move.after * longer, move.over = move.over * longer;
  }
  return pluck;
}

}  // namespace

void WrittenLine::setStrikes(std::vector<Strike> strikes) {
  auto score = std::make_unique<Score>();
  score->strikes = std::move(strikes);
  for (std::size_t i = 0; i < score->strikes.size(); ++i) {
    const Strike& s = score->strikes[i];
    if (s.string >= kStrings || !(s.until > s.from)) continue;
    score->events.push_back({s.from, i, false});
    score->events.push_back({s.until, i, true});
  }
  // Where one note ends as the next one starts, the end comes first.
  std::stable_sort(score->events.begin(), score->events.end(), [](const Event& a, const Event& b) {
    return a.frame < b.frame || (a.frame == b.frame && a.end && !b.end);
  });
  score_.give(std::move(score));
}

void WrittenLine::prepare(int sampleRate) {
  for (PluckedString& s : strings_) s.prepare(sampleRate);
}

void WrittenLine::mark(double from, double speed, std::size_t samples, std::size_t offset) {
  const Score* score = score_.newest();
  const double level = level_;
  // A jump, or the next repetition: nothing rings over from another place.
  if (std::abs(from - next_) > kJump)
    for (PluckedString& s : strings_)
      if (s.sounding()) s.damp(kDamp);
  const double to = from + static_cast<double>(samples) * speed;
  next_ = to;
  if (score == nullptr || level <= 0.0) return;
  const auto first = std::lower_bound(score->events.begin(), score->events.end(), from,
                                      [](const Event& e, double frame) { return e.frame < frame; });
  for (auto e = first; e != score->events.end() && e->frame < to && dues_ < due_.size(); ++e) {
    const Strike& strike = score->strikes[e->strike];
    Due& due = due_[dues_++];
    due = {offset + static_cast<std::size_t>((e->frame - from) / speed), strike.string, e->end, {}};
    if (e->end) {
      // Another note may have taken the string since.
      if (until_[strike.string] != e->frame) --dues_;
      continue;
    }
    until_[strike.string] = strike.until;
    due.pluck = atSpeed(strike.pluck, speed);
    due.pluck.level *= level;
  }
}

void WrittenLine::render(std::span<float> out) {
  const std::size_t samples = out.size() / 2;
  for (std::size_t string = 0; string < kStrings; ++string) {
    PluckedString& s = strings_[string];
    std::size_t at = 0;
    for (std::size_t i = 0; i < dues_; ++i) {
      if (due_[i].string != string) continue;
      const std::size_t until = std::min(due_[i].at, samples);
      if (s.sounding() && until > at) s.render(out.subspan(2 * at, 2 * (until - at)));
      at = std::max(at, until);
      if (due_[i].end)
        s.damp(kDamp);
      else
        s.pluck(due_[i].pluck);
    }
    if (s.sounding() && samples > at) s.render(out.subspan(2 * at));
  }
  dues_ = 0;
}

}  // namespace ear
