// SPDX-License-Identifier: GPL-3.0-or-later
// What listening and playing cost on the demo recording; run.py turns the counters into a table.

#include <benchmark/benchmark.h>

#include <chrono>
#include <memory>

#include "core/audio/decode.h"
#include "core/listening/listener.h"
#include "core/playback/player.h"

namespace {

using namespace ear;

std::shared_ptr<const Recording> demo() {
  static const auto recording = std::make_shared<const Recording>(*decode(DEMO_DIR "/studio.ogg"));
  return recording;
}

/// The demo take over and over, as long as asked for.
std::shared_ptr<const Recording> ofLength(double seconds) {
  auto recording = std::make_shared<Recording>(*demo());
  const auto frames = static_cast<std::size_t>(seconds * recording->sampleRate);
  for (auto& plane : recording->channels) {
    plane.reserve(frames);
    for (std::size_t i = plane.size(); i < frames; ++i) plane.push_back(plane[i - demo()->frames()]);
    plane.resize(frames);
  }
  return recording;
}

void decodeDemo(benchmark::State& state) {
  for (auto _ : state) benchmark::DoNotOptimize(decode(DEMO_DIR "/studio.ogg"));
  state.counters["times_real"] =
      benchmark::Counter(demo()->duration().value, benchmark::Counter::kIsIterationInvariantRate);
}
BENCHMARK(decodeDemo)->Unit(benchmark::kMillisecond)->UseRealTime();

/// All parts of the analysis; `first_tile_s` is when the first of them was ready.
void listen(benchmark::State& state) {
  const auto recording = ofLength(static_cast<double>(state.range(0)));
  double firstTile = 0;
  for (auto _ : state) {
    const auto start = std::chrono::steady_clock::now();
    bool first = true;
    Listener listener;
    listener.onPart = [&](Aspect, const Findings&) {
      if (first) firstTile = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
      first = false;
    };
    benchmark::DoNotOptimize(listener.listen(*recording));
  }
  state.counters["first_tile_s"] = firstTile;
  state.counters["times_real"] =
      benchmark::Counter(recording->duration().value, benchmark::Counter::kIsIterationInvariantRate);
}
BENCHMARK(listen)->Arg(116)->Arg(240)->Arg(600)->Unit(benchmark::kMillisecond)->UseRealTime();

/// A looped passage at a speed (per cent) and a shift (cents); `core_share` is the share of one core it takes.
void play(benchmark::State& state) {
  Player player;
  player.load(Track(demo()));
  player.setPlayback({static_cast<double>(state.range(0)) / 100, Cents(static_cast<double>(state.range(1)))});
  player.setLoop(TimeSpan{Seconds(30), Seconds(36)});
  player.seek(Seconds(30));
  player.play();
  std::vector<float> block(2 * 512);
  const auto second = static_cast<int>(demo()->sampleRate / 512);
  for (auto _ : state)
    for (int i = 0; i < second; ++i) player.render(block);
  state.counters["core_share"] = benchmark::Counter(
      512.0 * second / demo()->sampleRate, benchmark::Counter::kIsIterationInvariantRate | benchmark::Counter::kInvert);
}
BENCHMARK(play)
    ->Args({100, 0})
    ->Args({100, -12})
    ->Args({80, -12})
    ->Args({60, 0})
    ->Args({30, 0})
    ->Args({25, 1200})
    ->Args({25, -1200})
    ->Args({150, 1200})
    ->Args({150, -1200})
    ->Unit(benchmark::kMillisecond)
    ->MinTime(2.0);

}  // namespace

BENCHMARK_MAIN();
