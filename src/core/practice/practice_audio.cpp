// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/practice_audio.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/playback/player.h"

namespace ear {
namespace {

constexpr std::size_t kBlock = 512;
constexpr Seconds kSilence{0.5}, kTail{0.6};  // before each time without a count; behind the last one
constexpr double kWrittenLevel = 0.7;

}  // namespace

std::optional<Recording> renderPractice(const std::shared_ptr<const Recording>& recording, const PracticeAudio& wanted,
                                        const Progress& progress, double done, double share) {
  const int rate = recording->sampleRate;
  WrittenLine line;
  Player player;
  player.load(Track(recording));
  if (!wanted.written.empty()) {
    line.setStrikes(wanted.written);
    line.setLevel(kWrittenLevel);
    player.follow(line);
  }
  player.setRecordingPlace(wanted.recordingSounds ? 1.0 : 0.0, wanted.inOneEar ? 1.0 : 0.0);
  player.click().setBeats(wanted.ticks);
  player.click().setLevel(1.0);  // for the counts as well
  PlaybackSettings settings = wanted.settings;
  settings.speed = wanted.speeds.front();
  player.setPlayback(settings);
  const Seconds count = wanted.clicks > 0 ? Seconds(wanted.clicks * wanted.beat.value) : kSilence;
  std::vector<Segment> turns;
  Seconds expected(0);
  for (std::size_t i = 0; i < wanted.speeds.size(); ++i) {
    const double speed = wanted.speeds[i], next = i + 1 < wanted.speeds.size() ? wanted.speeds[i + 1] : speed;
    if (wanted.times > 1) turns.push_back({wanted.span, speed, wanted.times - 1, count, wanted.clicks, wanted.beat});
    // What follows the last time is counted at the speed that it leads to.
    turns.push_back({wanted.span, speed, 1, Seconds(count.value * speed / next), wanted.clicks,
                     Seconds(wanted.beat.value * speed / next)});
    expected = expected + Seconds(wanted.times * (wanted.span.length() + count).value / speed);
  }
  player.setSequence(turns);
  player.seek(wanted.span.start);
  if (wanted.clicks > 0)
    player.playCounted(wanted.clicks, Seconds(wanted.beat.value / wanted.speeds.front()));
  else
    player.play();
  Recording made{.sampleRate = rate, .channels = {}, .notice = {}};
  std::array<Samples, 2> sides;
  const auto most = static_cast<std::size_t>((2 * expected.value + 10) * rate);
  const auto all = static_cast<std::uint32_t>(wanted.times) * static_cast<std::uint32_t>(wanted.speeds.size());
  std::vector<float> block(2 * kBlock);
  std::optional<std::size_t> end;  // samples at which it is over
  while (sides[0].size() < end.value_or(most)) {
    if (progress.cancelled()) return std::nullopt;
    player.render(block);
    for (std::size_t i = 0; i < kBlock; ++i)
      for (std::size_t side = 0; side < 2; ++side) sides[side].push_back(block[2 * i + side]);
    // What rings on from the written line may; the next count must not be begun.
    if (!end && player.place().played >= all) {
      end = sides[0].size() + static_cast<std::size_t>(kTail.value * rate);
      player.pause();
    }
    progress.report(done + share * std::min(1.0, static_cast<double>(sides[0].size()) / (expected.value * rate)));
  }
  float peak = 0;
  for (const auto& side : sides)
    for (const float x : side) peak = std::max(peak, std::abs(x));
  for (auto& side : sides) {
    if (peak > 0.99F)
      for (float& x : side) x *= 0.99F / peak;
    made.channels.emplace_back(std::move(side));
  }
  return made;
}

}  // namespace ear
