// SPDX-License-Identifier: GPL-3.0-or-later
// Tempo, beats, downbeats and sections of recordings with known truth, ours beside those of two independent libraries:
// aubio and the QM DSP library; of licks the notes. Prints means as JSON. Usage: second_opinions FOLDER (of
// <id>/mix.flac and truth.json)

#include <aubio/aubio.h>
#include <dsp/onsets/DetectionFunction.h>
#include <dsp/segmentation/ClusterMeltSegmenter.h>
#include <dsp/tempotracking/DownBeat.h>
#include <dsp/tempotracking/TempoTrackV2.h>

#include <cmath>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <map>
#include <nlohmann/json.hpp>

#include "core/audio/decode.h"
#include "core/listening/listener.h"
#include "core/listening/melody/gestures.h"
#include "measures.h"

namespace {

using namespace ear;
using namespace ear::bench;

struct Opinion {
  double tempo = 0;
  Times beats, downbeats;
  std::vector<Labelled> sections;
};

double medianTempo(const Times& beats) {
  Times gaps;
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back(beats[i] - beats[i - 1]);
  if (gaps.empty()) return 0;
  std::sort(gaps.begin(), gaps.end());
  return 60.0 / gaps[gaps.size() / 2];
}

Times valuesOf(const std::vector<Seconds>& times) {
  Times values;
  for (const Seconds t : times) values.push_back(t.value);
  return values;
}

Opinion ours(const Recording& recording) {
  Listener listener;
  listener.parts = {Aspect::time, Aspect::form};
  const auto found = *listener.listen(recording);
  Opinion o;
  if (found.rhythm) {
    o.tempo = found.rhythm->tempo.empty() ? 0 : found.rhythm->tempo.front().tempo.value;
    o.beats = valuesOf(found.rhythm->beats);
    o.downbeats = valuesOf(found.rhythm->downbeats);
  }
  for (const auto& s : found.form) o.sections.push_back({s.span.start.value, s.span.end.value, s.letter});
  return o;
}

Opinion aubioOpinion(std::span<const float> mono, int rate) {
  constexpr uint_t kHop = 512;
  aubio_tempo_t* tempo = new_aubio_tempo("default", 1024, kHop, static_cast<uint_t>(rate));
  fvec_t *in = new_fvec(kHop), *out = new_fvec(2);
  Opinion o;
  for (std::size_t at = 0; at + kHop <= mono.size(); at += kHop) {
    std::copy_n(mono.begin() + static_cast<std::ptrdiff_t>(at), kHop, in->data);
    aubio_tempo_do(tempo, in, out);
    if (out->data[0] != 0) o.beats.push_back(aubio_tempo_get_last_s(tempo));
  }
  del_aubio_tempo(tempo), del_fvec(in), del_fvec(out);
  o.tempo = medianTempo(o.beats);
  return o;
}

Opinion qmOpinion(std::span<const float> mono, int rate) {
  constexpr std::size_t kStep = 512, kFrame = 2 * kStep, kDecimation = 16;
  constexpr int kComplexSpectralDifference = 3, kSectionTypes = 5;
  Opinion o;
  DetectionFunction detect({kStep, kFrame, kComplexSpectralDifference, 3, false, -1, -1});
  DownBeat downBeat(static_cast<float>(rate), kDecimation, kStep);
  std::vector<double> strength, block(kFrame);
  for (std::size_t at = 0; at + kFrame <= mono.size(); at += kStep) {
    std::copy_n(mono.begin() + static_cast<std::ptrdiff_t>(at), kFrame, block.begin());
    strength.push_back(detect.processTimeDomain(block.data()));
    downBeat.pushAudioBlock(mono.data() + at);
  }
  std::vector<double> tempi, beats;
  std::vector<double> usable(strength.begin() + 2, strength.end());  // as the library's own tools do
  std::vector<double> period(usable.size());
  TempoTrackV2 track(static_cast<float>(rate), kStep);
  track.calculateBeatPeriod(usable, period, tempi);
  track.calculateBeats(usable, period, beats);
  for (const double b : beats) o.beats.push_back((b + 2) * kStep / rate);
  o.tempo = medianTempo(o.beats);
  std::size_t length = 0;
  const float* audio = downBeat.getBufferedAudio(length);
  std::vector<int> first;
  downBeat.setBeatsPerBar(4);
  downBeat.findDownBeats(audio, length, beats, first);
  for (const int i : first) o.downbeats.push_back(o.beats[static_cast<std::size_t>(i)]);

  ClusterMeltSegmenterParams params;
  params.featureType = FEATURE_TYPE_CONSTQ;
  params.nclusters = kSectionTypes;
  ClusterMeltSegmenter segmenter(params);
  segmenter.initialise(rate);
  const auto window = static_cast<std::size_t>(segmenter.getWindowsize()),
             hop = static_cast<std::size_t>(segmenter.getHopsize());
  std::vector<double> frame(window);
  for (std::size_t at = 0; at + window <= mono.size(); at += hop) {
    std::copy_n(mono.begin() + static_cast<std::ptrdiff_t>(at), window, frame.begin());
    segmenter.extractFeatures(frame.data(), static_cast<int>(window));
  }
  segmenter.segment(kSectionTypes);
  for (const auto& s : segmenter.getSegmentation().segments)
    o.sections.push_back(
        {static_cast<double>(s.start) / rate, static_cast<double>(s.end) / rate, std::to_string(s.type)});
  return o;
}

/// Sums of measures and how many went in.
struct Mean {
  double sum = 0;
  int count = 0;
  void add(std::optional<double> value) {
    if (value) sum += *value, ++count;
  }
};

/// Bends: how many are found where one is, how many of those within 15 cents, how many are invented; vibrato likewise.
void scoreGestures(const nlohmann::json& truth, const std::vector<PlayedNote>& played,
                   std::map<std::string, Mean>& means) {
  const auto overlaps = [](const PlayedNote& p, const nlohmann::json& n) {
    return p.note.span.start.value < n["end_s"].get<double>() &&
           p.note.span.end.value > n["start_s"].get<double>() + 0.05;
  };
  for (const auto& n : truth["notes"]) {
    const auto technique = n["technique"].get<std::string>();
    if (technique == "bend" || technique == "prebend") {
      const auto found =
          std::find_if(played.begin(), played.end(), [&](const auto& p) { return p.bend && overlaps(p, n); });
      means["bends, found"].add(found != played.end() ? 1 : 0);
      if (found != played.end())
        means["bends, of those found within 15 cents"].add(
            std::abs(found->bend->size().value - n["bend_cents"].get<double>()) <= 15 ? 1 : 0);
    }
    if (n.contains("vibrato_hz") && n["end_s"].get<double>() - n["start_s"].get<double>() > 0.45) {
      const auto found =
          std::find_if(played.begin(), played.end(), [&](const auto& p) { return p.vibrato && overlaps(p, n); });
      means["vibrato over 0.45 s, found"].add(found != played.end() ? 1 : 0);
      if (found != played.end())
        means["vibrato, of those found within 0.5 Hz"].add(
            std::abs(found->vibrato->rate.value - n["vibrato_hz"].get<double>()) <= 0.5 ? 1 : 0);
    }
  }
  for (const auto& p : played) {
    if (!p.bend) continue;
    means["bends, of those said that are"].add(
        std::any_of(truth["notes"].begin(), truth["notes"].end(),
                    [&](const auto& n) { return n.contains("bend_cents") && overlaps(p, n); })
            ? 1
            : 0);
  }
}

/// Notes of the leading voice, and its pitch frame by frame where it holds a plain note.
void scoreNotes(const nlohmann::json& truth, const Recording& recording, std::map<std::string, Mean>& means) {
  const double reference = truth["reference_cents"].get<double>() / 100;
  const auto mono = listeningMono(recording);
  const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, {}));
  const auto guitar = measureGuitarActivations(measureGuitarFrames(recording, Cents(100 * reference), {}), {});
  const auto line = measureF0Contour(mono, onsets, guitar, Cents(100 * reference), {});
  std::vector<Note> wanted, heard;
  Times starts, heardStarts;
  std::vector<std::vector<double>> pitches(line.points.size());
  for (const auto& n : truth["notes"]) {
    const double start = n["start_s"], end = n["end_s"], midi = n["midi"].get<double>() + reference;
    wanted.push_back({start, midi});
    starts.push_back(start);
    const auto technique = n["technique"].get<std::string>();
    if (technique != "pick" && technique != "hammer" && technique != "pull")
      continue;  // the others move or are no tones
    const auto last = std::min(pitches.size(), line.clock.frameBefore(Seconds(end - 0.02)));
    for (auto i = line.clock.frameBefore(Seconds(start + 0.02)); i < last; ++i) pitches[i].push_back(midi);
  }
  for (const auto& n : findNotes(line, onsets, guitar, Cents(100 * reference))) {
    heard.push_back({n.span.start.value, n.pitch.value});
    heardStarts.push_back(n.span.start.value);
  }
  std::sort(starts.begin(), starts.end());
  means["notes, F (50 ms, 50 cents)"].add(noteF(wanted, heard));
  means["note starts, F (50 ms)"].add(fMeasure(starts, heardStarts, 0.05));
  double right = 0, all = 0;
  for (std::size_t i = 0; i < pitches.size(); ++i) {
    if (pitches[i].empty() || !line.points[i].pitch) continue;
    all += 1;
    const double said = line.points[i].pitch->value;
    right +=
        std::any_of(pitches[i].begin(), pitches[i].end(), [&](double p) { return std::abs(p - said) <= 0.5; }) ? 1 : 0;
  }
  if (all > 0) means["pitch line within 50 cents, voiced frames of plain notes"].add(right / all);
  scoreGestures(truth,
                measureGestures(line, findNotes(line, onsets, guitar, Cents(100 * reference)), Cents(100 * reference)),
                means);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: second_opinions FOLDER\n";
    return 2;
  }
  std::map<std::string, std::map<std::string, Mean>> means;
  for (const auto& entry : std::filesystem::directory_iterator(argv[1])) {
    std::ifstream file(entry.path() / "truth.json");
    if (!file) continue;
    const auto truth = nlohmann::json::parse(file);
    const auto recording = decode(entry.path() / "mix.flac");
    if (!recording) continue;
    if (truth["info"]["kind"] == "lick") {
      scoreNotes(truth, *recording, means["ours"]);
      continue;
    }
    const auto mono = mixToMono(*recording);
    const auto beats = truth["beats"].get<Times>(), downbeats = truth["downbeats"].get<Times>();
    std::vector<Labelled> sections;
    for (const auto& s : truth["sections"]) sections.push_back({s["start_s"], s["end_s"], s["label"]});
    const double tempo = truth["tempo_bpm"];
    // In 6/8 the quarter, the dotted quarter and the eighth are all fair readings of the tempo.
    const std::vector<double> levels = truth["meter"] == 6 ? std::vector{1.0, 2.0 / 3, 2.0} : std::vector{1.0};
    const std::pair<const char*, Opinion> opinions[] = {{"ours", ours(*recording)},
                                                        {"aubio", aubioOpinion(mono, recording->sampleRate)},
                                                        {"qm-dsp", qmOpinion(mono, recording->sampleRate)}};
    for (const auto& [who, o] : opinions) {
      auto& m = means[who];
      const auto any = [&](const auto& right) {
        return std::any_of(levels.begin(), levels.end(), [&](double l) { return right(tempo * l, o.tempo); });
      };
      m["tempo, accuracy 1"].add(any(tempoAccuracy1));
      m["tempo, accuracy 2"].add(any(tempoAccuracy2));
      m["beats, F"].add(beatF(beats, o.beats));
      m["beats, Cemgil"].add(cemgil(beats, o.beats));
      if (!o.downbeats.empty()) m["downbeats, F"].add(beatF(downbeats, o.downbeats));
      if (o.sections.empty() || sections.size() < 2) continue;
      m["borders within 0.5 s, F"].add(borderF(sections, o.sections, 0.5));
      m["borders within 3 s, F"].add(borderF(sections, o.sections, 3.0));
      m["repeats, pairwise F"].add(pairwiseF(sections, o.sections));
      const auto entropies = conditionalEntropies(sections, o.sections);
      m["sections, over-segmentation"].add(entropies.over);
      m["sections, under-segmentation"].add(entropies.under);
    }
  }
  nlohmann::json out;
  for (const auto& [who, measures] : means)
    for (const auto& [name, mean] : measures) out[name][who] = mean.sum / mean.count;
  std::cout << out.dump(1) << '\n';
}
