// SPDX-License-Identifier: GPL-3.0-or-later
// The listening desk: how true its pitch and length are, how much it smears, how soon it answers, what it costs, and an
// hour of looping. Prints JSON; run.py makes rows of it. Usage: desk TAKE PLUCKS_AT_HALF_SPEED.wav (as the stretcher's
// own command makes it of what --plucks writes)

#include <malloc.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <complex>
#include <iostream>
#include <nlohmann/json.hpp>
#include <numbers>
#include <thread>

#include "core/audio/decode.h"
#include "core/audio/encode.h"
#include "core/listening/frontend/pitch_map.h"
#include "core/playback/mixer.h"
#include "devices/simulated_audio_output.h"

namespace {

using namespace ear;
using Clock = std::chrono::steady_clock;

double since(Clock::time_point start) {
  return std::chrono::duration<double>(Clock::now() - start).count();
}

std::shared_ptr<const Recording> sine(double hertz, double seconds) {
  auto r = std::make_shared<Recording>(Recording{44100, {{}, {}}, ""});
  for (std::size_t i = 0; i < static_cast<std::size_t>(seconds * 44100); ++i)
    for (auto& plane : r->channels)
      plane.push_back(
          static_cast<float>(0.5 * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / 44100)));
  return r;
}

std::vector<float> render(Player& player, double seconds) {
  std::vector<float> left(static_cast<std::size_t>(seconds * 44100)), block(1024);
  for (std::size_t at = 0; at < left.size(); at += 512) {
    const std::size_t size = std::min<std::size_t>(512, left.size() - at);
    player.render(std::span(block).first(2 * size));
    for (std::size_t i = 0; i < size; ++i) left[at + i] = block[2 * i];
  }
  return left;
}

/// Frequency of a steady tone near `about`: the phase advance between two windows a second apart.
double frequencyOf(std::span<const float> x, double about) {
  const auto phase = [&](std::size_t from) {
    std::complex<double> sum = 0;
    constexpr std::size_t kWindow = 16384;
    for (std::size_t i = 0; i < kWindow; ++i)
      sum += static_cast<double>(x[from + i]) *
             (0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(i) / kWindow)) *
             std::polar(1.0, -2 * std::numbers::pi * about * static_cast<double>(i) / 44100);
    return std::arg(sum * std::polar(1.0, -2 * std::numbers::pi * about * static_cast<double>(from) / 44100));
  };
  const std::size_t apart = 4410;
  double worst = 0;
  // Over a tenth of a second a difference of 5 Hz is half a turn; tones here are far nearer.
  const double turns = std::remainder(phase(apart) - phase(0), 2 * std::numbers::pi) / (2 * std::numbers::pi);
  worst = about + turns / 0.1;
  return worst;
}

/// Worst error in cents over speeds and shifts, and the worst error in samples of a repetition's length.
void steady(nlohmann::json& out) {
  double cents = 0;
  for (const double speed : {0.2, 0.35, 0.5, 0.65, 0.8, 1.0, 1.2, 1.5})
    for (const double shift : {-1200.0, -500.0, -37.0, 0.0, 12.0, 300.0, 1200.0}) {
      Player player;
      player.load(Track(sine(440, 14)));
      player.setPlayback({speed, Cents(shift)});
      player.seek(Seconds(1));
      player.play();
      const auto heard = render(player, 2.0);
      const double wanted = 440 * std::exp2(shift / 1200);
      cents =
          std::max(cents, std::abs(1200 * std::log2(frequencyOf(std::span(heard).subspan(22050), wanted) / wanted)));
    }
  out["steady_tone_cents"] = cents;
  // Lengths by the seams that were played in a given number of samples.
  double samples = 0;
  for (const double speed : {0.2, 0.5, 0.7, 1.0, 1.5}) {
    Player player;
    player.load(Track(sine(440, 14)));
    player.setPlayback({speed, Cents(0)});
    const TimeSpan loop{Seconds(2), Seconds(2.7)};
    player.setLoop(loop);
    player.seek(loop.start);
    player.play();
    render(player, 1.0);
    std::vector<float> block(2);
    std::vector<std::int64_t> seams;
    std::uint32_t played = player.place().played;
    for (std::int64_t i = 0; seams.size() < 6; ++i) {
      player.render(block);
      if (player.place().played != played) seams.push_back(i), played = player.place().played;
    }
    for (std::size_t k = 1; k < seams.size(); ++k)
      samples = std::max(samples, std::abs(static_cast<double>(seams[k] - seams[k - 1]) - 0.7 * 44100 / speed));
  }
  out["loop_length_samples"] = samples;
}

constexpr double kPluckEvery = 0.6;  // seconds

/// Plucked strings one after the other, low to high.
Recording plucks() {
  Tones strings;
  strings.prepare(44100);
  Recording r{44100, {{}, {}}, ""};
  std::vector<float> block(2 * static_cast<std::size_t>(kPluckEvery * 44100));
  for (int i = 0; i < 40; ++i) {
    std::fill(block.begin(), block.end(), 0.0F);
    strings.silence();
    strings.play({Hertz(82.4 * std::exp2(i / 12.0)), Tones::Kind::plucked, Seconds(0.1), 0.5});
    strings.render(block);
    for (std::size_t k = 0; k < block.size(); ++k) r.channels[k % 2].push_back(block[k]);
  }
  return r;
}

/// Mean time in ms that the attacks of plucks() at half speed take from a tenth to nine tenths of their peak.
double riseOf(std::span<const float> x) {
  constexpr std::size_t kHop = 22, kWindow = 88;  // half a millisecond, two
  double total = 0;
  int count = 0;
  for (int i = 1; i < 39; ++i) {
    const auto from = static_cast<std::size_t>((2 * (kPluckEvery * i + 0.1) - 0.15) * 44100);
    std::vector<double> level;
    for (std::size_t at = from; at + kWindow < std::min(x.size(), from + static_cast<std::size_t>(0.3 * 44100));
         at += kHop) {
      double sum = 0;
      for (std::size_t k = 0; k < kWindow; ++k) sum += static_cast<double>(x[at + k] * x[at + k]);
      level.push_back(std::sqrt(sum / kWindow));
    }
    if (level.empty()) continue;
    const auto peak = static_cast<std::size_t>(std::max_element(level.begin(), level.end()) - level.begin());
    std::size_t high = peak, low = peak;
    while (high > 0 && level[high] > 0.9 * level[peak]) --high;
    while (low > 0 && level[low] > 0.1 * level[peak]) --low;
    total += static_cast<double>(high - low) * 0.5;
    ++count;
  }
  return count > 0 ? total / count : 0.0;
}

void smear(nlohmann::json& out, const Recording& other) {
  Player player;
  player.load(Track(std::make_shared<Recording>(plucks())));
  player.setPlayback({0.5, Cents(0)});
  player.play();
  out["onset_rise_ms"] = riseOf(render(player, 2 * kPluckEvery * 40));
  out["onset_rise_rubberband_ms"] = riseOf(other.left());
}

/// Time from a key to the first sample that is not silence, on the simulated device's own clock; median and worst
/// of 20.
void latency(nlohmann::json& out, const std::shared_ptr<const Recording>& take) {
  std::vector<double> times, changes;
  Player player;
  player.load(Track(take));
  player.setPlayback({0.5, Cents(0)});
  std::atomic<double> firstSound = -1;
  const auto epoch = Clock::now();
  SimulatedAudioOutput device;
  device.start(44100, [&](std::span<float> block) {
    player.render(block);
    if (firstSound < 0 && std::any_of(block.begin(), block.end(), [](float s) { return std::abs(s) > 1e-4F; }))
      firstSound = since(epoch);
  });
  for (int i = 0; i < 20; ++i) {
    player.pause();
    std::this_thread::sleep_for(std::chrono::milliseconds(80));
    player.seek(Seconds(20 + i));
    std::this_thread::sleep_for(std::chrono::milliseconds(60 + 7 * i));
    firstSound = -1;
    const double pressed = since(epoch);
    player.play();
    while (firstSound < 0) std::this_thread::sleep_for(std::chrono::milliseconds(1));
    // What was rendered is heard when the block has been played.
    times.push_back(firstSound - pressed + static_cast<double>(SimulatedAudioOutput::kBlock) / 44100);
  }
  device.stop();
  std::sort(times.begin(), times.end());
  out["key_to_sound_ms"] = {1000 * times[times.size() / 2], 1000 * times.back()};
}

/// Share of a core: four isolations at once, at half speed, with limiter and level.
void load(nlohmann::json& out, const std::shared_ptr<const Recording>& take) {
  Mixer mixer;
  mixer.prepare(44100);
  mixer.load(Track(take));
  Player& player = mixer.player();
  PlaybackSettings sounding{0.6, Cents(-12)};
  const auto measure = [&] {
    player.setPlayback(sounding);
    player.setLoop(TimeSpan{Seconds(20), Seconds(26)});
    player.seek(Seconds(20));
    player.play();
    std::vector<float> block(1024);
    const auto start = Clock::now();
    for (int i = 0; i < 40 * 44100 / 512; ++i) mixer.render(block);
    return since(start) / 40;
  };
  out["plain_core"] = measure();
  sounding.isolation.channel = Isolation::Channel::middle;
  sounding.isolation.place = Isolation::Panned::keep;
  sounding.isolation.part = Isolation::Component::harmonic;
  sounding.isolation.lowCut = Hertz(120);
  out["isolated_core"] = measure();
}

/// An hour at full speed, each repetition compared bit for bit with the one before it outside of the crossfade; ten
/// minutes slowed down, by the count of repetitions; what the heap grew by.
void hour(nlohmann::json& out, const std::shared_ptr<const Recording>& take) {
  Player player;
  player.load(Track(take));
  const TimeSpan loop{Seconds(30), Seconds(34)};
  const std::size_t length = 4 * 44100;
  player.setLoop(loop);
  player.seek(loop.start);
  player.play();
  render(player, 4.0);
  std::vector<float> before = render(player, 4.0);
  std::int64_t wrong = 0;
  std::vector<float> now(length), block(1024);
  const auto heap = mallinfo2().uordblks;
  for (int repetition = 2; repetition < 900; ++repetition) {
    for (std::size_t at = 0; at < length; at += 512) {
      const std::size_t size = std::min<std::size_t>(512, length - at);
      player.render(std::span(block).first(2 * size));
      for (std::size_t i = 0; i < size; ++i) now[at + i] = block[2 * i];
    }
    for (std::size_t i = 0; i < length; ++i) wrong += now[i] != before[i] ? 1 : 0;
    std::swap(now, before);
  }
  out["hour_wrong_samples"] = wrong;
  out["hour_heap_growth_bytes"] = static_cast<std::int64_t>(mallinfo2().uordblks) - static_cast<std::int64_t>(heap);
  player.setPlayback({0.5, Cents(0)});
  render(player, 10.0);
  const auto from = player.place().played;
  const auto slowHeap = mallinfo2().uordblks;
  for (int i = 0; i < 600 * 44100 / 512; ++i) player.render(block);
  const double wanted = 600.0 * 44100 / 512;
  out["slow_repetitions"] = player.place().played - from;
  out["slow_repetitions_wanted"] = std::floor(wanted) * 512 / (8.0 * 44100);
  out["slow_heap_growth_bytes"] = static_cast<std::int64_t>(mallinfo2().uordblks) - static_cast<std::int64_t>(slowHeap);
}

/// Columns of the pitch map a second, of one thread.
void map(nlohmann::json& out, const Recording& take) {
  PitchMap pitches(take.sampleRate, Cents(0));
  std::vector<float> column(PitchMap::kRows);
  const auto start = Clock::now();
  for (int i = 0; i < 2000; ++i) pitches.column(take, i * 1000, {}, column);
  out["pitch_columns_per_s"] = 2000 / since(start);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc == 3 && std::string(argv[1]) == "--plucks") return writeWav(plucks(), argv[2]) ? 0 : 1;
  if (argc != 3) {
    std::cerr << "Usage: desk TAKE PLUCKS_AT_HALF_SPEED.wav, or desk --plucks OUT.wav\n";
    return 2;
  }
  const auto take = decode(argv[1]), other = decode(argv[2]);
  if (!take || !other) {
    std::cerr << "A file cannot be read.\n";
    return 1;
  }
  const auto shared = std::make_shared<const Recording>(*take);
  nlohmann::json out;
  steady(out);
  smear(out, *other);
  latency(out, shared);
  load(out, shared);
  hour(out, shared);
  map(out, *take);
  std::cout << out.dump(1) << '\n';
}
