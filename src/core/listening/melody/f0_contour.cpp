// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/f0_contour.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/frontend/overtone_comb.h"
#include "core/listening/frontend/pitch_salience.h"
#include "core/listening/frontend/spectra.h"
#include "core/listening/melody/pitch_refine.h"
#include "core/signal/peak.h"
#include "core/signal/viterbi.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr double kLowest = PitchSalience::kLowest, kHighest = PitchSalience::kHighest;
constexpr int kBinsPerSemitone = PitchSalience::kBinsPerSemitone, kBins = PitchSalience::kBins;
constexpr int kWindow = 1024, kHop = 220;  // samples at kListeningRate: 46 ms, 10 ms

struct Parameters {
  int glide = parameter("f0Contour.glide", 5, "bins a frame");  ///< a bend of a tone in a twentieth of a second
  double glideCost = parameter("f0Contour.glideCost", 0.35, "per bin");
  double jumpCost = parameter("f0Contour.jumpCost", 9.0, "");         ///< of another note within a sound
  double jumpAtOnset = parameter("f0Contour.jumpAtOnset", 2.5, "");   ///< of another note where something is struck
  double voiceCost = parameter("f0Contour.voiceCost", 4.0, "");       ///< of a voice that begins or ends
  double alone = parameter("f0Contour.alone", 0.6, "chance");         ///< of a period from which one voice sounds alone
  double sharpness = parameter("f0Contour.sharpness", 6.0, "");       ///< how much the strongest pitch stands out
  double bassBelow = parameter("f0Contour.bassBelow", 50.0, "MIDI");  ///< lower ones may be a bass's
  double contrast = parameter("f0Contour.contrast", 2.0, "ratio");    ///< from which on a voice stands over a bass
  float sounding = parameter("f0Contour.sounding", 0.12F, "salience");  ///< of something pitched
  float second = parameter("f0Contour.second", 0.75F, "of the first pitch's salience");
  float silent = parameter("f0Contour.silent", 0.01F, "of the loudest sample");
  // What lies this far under the middle of a voice among others is another part, followed where the voice rests.
  double otherPart = parameter("f0Contour.otherPart", 12.5, "semitones");
  /// share of the sounding frames with other voices from which it is a mix
  double mix = parameter("f0Contour.mix", 0.5, "share of frames");
  /// from which a low period is asked whose it is
  double bassChance = parameter("f0Contour.bassChance", 0.05, "chance");
  double onBin = parameter("f0Contour.onBin", 0.6, "");             ///< of a candidate's chance, for its own bin
  double besideBin = parameter("f0Contour.besideBin", 0.2, "");     ///< and for the two beside it
  double candidates = parameter("f0Contour.candidates", 0.99, "");  ///< of all candidates together
  double rest = parameter("f0Contour.rest", 0.25, "");              ///< of silence, against a voice
  double fullOnset = parameter("f0Contour.fullOnset", 0.6, "onset strength");  ///< from which another note costs least
  double guitar = parameter("f0Contour.guitar", 0.5, "of the log chance");     ///< that a guitar sounds the pitch
  double bending = parameter("f0Contour.bending", 0.6, "of the chance");     ///< of a semitone above, soon or just now
  double mayBe = parameter("f0Contour.mayBe", 0.03, "probability");          ///< of what no guitar seems to sound
  double nearestOff = parameter("f0Contour.nearestOff", 0.35, "semitones");  ///< of a candidate that is the point's
};
const Parameters kPar{};

constexpr int kWidestBend = 2;  // semitones that a bend passes, and the one it reaches

constexpr auto kStates = static_cast<std::size_t>(kBins) + 1;  // pitches, and silence as the last one

struct Candidate {
  double midi;
  double chance;
};

/// What one frame may be.
struct Frame {
  std::vector<Candidate> candidates{};
  double voiced = 0.0;          ///< chance that something has a pitch
  std::vector<float> guitar{};  ///< chance of each pitch that a guitar sounds it; empty where it is not asked
  bool silent = true;
  bool alone() const { return voiced >= kPar.alone; }  ///< before overtones were asked
};

/// Cumulative mean normalised difference (de Cheveigné & Kawahara 2002, eq. 8) for lags up to `longest`.
std::vector<double> difference(const float* samples, int longest) {
  std::vector<double> d(static_cast<std::size_t>(longest) + 1, 1.0);
  double sum = 0;
  for (int lag = 1; lag <= longest; ++lag) {
    float square = 0;
    for (int i = 0; i < kWindow; ++i) {
      const float step = samples[i] - samples[i + lag];
      square += step * step;
    }
    sum += static_cast<double>(square);
    d[static_cast<std::size_t>(lag)] = sum > 0 ? static_cast<double>(square) * lag / sum : 1.0;
  }
  return d;
}

/// Chance of each threshold 0.01, 0.02 ... 1.00: beta distribution with mean 0.1 (alpha 2, beta 18; pYIN).
const std::array<double, 100>& thresholdChances() {
  static const auto chances = [] {
    std::array<double, 100> c{};
    double all = 0;
    for (std::size_t i = 0; i < c.size(); ++i) {
      const double x = (static_cast<double>(i) + 1) / 100;
      all += c[i] = x * std::pow(1 - x, 17);
    }
    for (double& v : c) v /= all;
    return c;
  }();
  return chances;
}

/// Pitches that a frame may have: for each threshold the first dip under it, or with little weight the deepest one.
std::vector<Candidate> candidatesOf(const float* samples) {
  constexpr double kDeepestOnly = 0.01;
  const int longest = static_cast<int>(kListeningRate / frequencyOf(MidiPitch(kLowest)).value) + 2;
  const int shortest = static_cast<int>(kListeningRate / frequencyOf(MidiPitch(kHighest)).value);
  const auto d = difference(samples, longest);
  std::vector<Candidate> candidates;
  std::vector<double> depths;
  for (int lag = shortest; lag < longest; ++lag) {
    const auto i = static_cast<std::size_t>(lag);
    if (d[i] > d[i - 1] || d[i] >= d[i + 1]) continue;
    const double exact = lag + summitOffset(-d[i - 1], -d[i], -d[i + 1]);
    candidates.push_back({pitchOf(Hertz(kListeningRate / exact)).value, 0.0});
    depths.push_back(d[i]);
  }
  if (candidates.empty()) return candidates;
  const auto deepest = static_cast<std::size_t>(std::min_element(depths.begin(), depths.end()) - depths.begin());
  for (std::size_t t = 0; t < 100; ++t) {
    const double threshold = (static_cast<double>(t) + 1) / 100;
    std::size_t first = 0;
    while (first < depths.size() && depths[first] >= threshold) ++first;
    const double chance = thresholdChances()[t];
    if (first < depths.size())
      candidates[first].chance += chance;
    else
      candidates[deepest].chance += chance * kDeepestOnly;
  }
  return candidates;
}

/// The strongest other pitch, where it is nearly as strong and no overtone or undertone of the first.
std::optional<MidiPitch> secondPitch(std::span<const float> support, std::size_t first) {
  float best = kPar.second * support[first];
  std::optional<MidiPitch> second;
  for (std::size_t b = 1; b + 1 < support.size(); ++b) {
    if (support[b] < support[b - 1] || support[b] < support[b + 1] || support[b] < best) continue;
    const double apart = std::abs(static_cast<double>(b) - static_cast<double>(first)) / kBinsPerSemitone;
    bool related = apart < 1.5;
    for (int h = 2; h <= 6; ++h) related = related || std::abs(apart - 12 * std::log2(h)) < 0.5;
    if (related) continue;
    best = support[b];
    second = MidiPitch(kLowest + static_cast<double>(b) / kBinsPerSemitone);
  }
  return second;
}

/// Takes low candidates away that a bass and the voice over it have in common; the overtones tell where the voice is.
void dropBasses(std::vector<Candidate>& candidates, OvertoneComb& comb, std::size_t centre) {
  std::erase_if(candidates, [&](const Candidate& c) {
    return c.midi < kPar.bassBelow && c.chance > kPar.bassChance &&
           comb.contrast(centre, frequencyOf(MidiPitch(c.midi)).value) > kPar.contrast;
  });
}

/// Candidates of all frames by their periods.
std::vector<Frame> hearPeriods(std::span<const float> mono, const Progress& progress) {
  constexpr std::size_t kReach = kWindow + 512;  // window and longest lag
  std::vector<float> padded(kReach / 2, 0.0F);
  padded.insert(padded.end(), mono.begin(), mono.end());
  padded.insert(padded.end(), kReach, 0.0F);
  const auto loudness = [](std::span<const float> samples) {
    float top = 0;
    for (const float s : samples) top = std::max(top, std::abs(s));
    return top;
  };
  const float loudest = loudness(mono);
  OvertoneComb comb(mono);
  std::vector<Frame> frames(mono.size() / kHop + 1);
  for (std::size_t t = 0; t < frames.size(); ++t) {
    if (t % 64 == 0 && progress.cancelled()) return {};
    const auto samples = std::span(padded).subspan(t * kHop, kReach);
    frames[t].silent = loudness(samples) <= kPar.silent * loudest;
    if (frames[t].silent) continue;
    frames[t].candidates = candidatesOf(samples.data());
    dropBasses(frames[t].candidates, comb, t * kHop);
    for (const auto& c : frames[t].candidates) frames[t].voiced += c.chance;
  }
  return frames;
}

/// The bin of a pitch, or of the nearest there is.
std::size_t binOf(double midi) {
  return static_cast<std::size_t>(std::clamp(std::lround((midi - kLowest) * kBinsPerSemitone), 0L, kBins - 1L));
}

/// Among other voices nothing repeats as a whole: the overtones speak then, the more the less is periodic.
void addOvertones(Frame& frame, std::span<const float> support, double lowest) {
  const double left = kPar.alone - frame.voiced;
  const std::size_t floor = binOf(lowest);
  const float most =
      std::max(1e-9F, *std::max_element(support.begin() + static_cast<std::ptrdiff_t>(floor), support.end()));
  for (std::size_t b = std::max<std::size_t>(1, floor); b + 1 < support.size(); ++b) {
    if (support[b] < support[b - 1] || support[b] < support[b + 1]) continue;
    const double share = std::pow(static_cast<double>(support[b] / most), kPar.sharpness);
    frame.candidates.push_back({kLowest + static_cast<double>(b) / kBinsPerSemitone, left * share});
  }
  if (most > kPar.sounding) frame.voiced += left;
}

/// How likely guitars sound each pitch of a frame; empty where nobody listened for them. A string on its way to or from
/// a bend sounds no semitone for long: it has some of the chance of the one above that it comes to or from.
std::vector<float> guitarChances(const GuitarActivations& guitar, Cents offset, Seconds t) {
  std::vector<float> chances;
  if (guitar.count() == 0) return chances;
  std::array<double, kWidestBend + kBins / kBinsPerSemitone + 2> at{}, near{};  // by semitone from the lowest on
  const double lowest = kLowest - offset.value / 100;
  for (std::size_t n = 0; n < at.size(); ++n) {
    const double midi = std::round(lowest) + static_cast<double>(n);
    at[n] = soundingAt(guitar, t, midi);
    for (const double away : {-0.2, -0.1, 0.1, 0.2})
      near[n] = std::max(near[n], kPar.bending * soundingAt(guitar, t + Seconds(away), midi));
  }
  for (int b = 0; b < kBins; ++b) {
    const double place = lowest + static_cast<double>(b) / kBinsPerSemitone - std::round(lowest);
    double most = 0;
    for (int n = std::max(0, static_cast<int>(std::floor(place))); n <= static_cast<int>(std::ceil(place)); ++n)
      most = std::max(most, at[static_cast<std::size_t>(n)]);
    for (int n = std::max(0, static_cast<int>(std::floor(place))); n <= static_cast<int>(place) + kWidestBend; ++n)
      most = std::max(most, near[static_cast<std::size_t>(n)]);
    chances.push_back(static_cast<float>(most));
  }
  return chances;
}

/// Frames as one voice in a mix of others sees them: nothing of what lies below it, and overtones where no period
/// speaks.
std::vector<Frame> amongOthers(std::vector<Frame> frames, const PitchSalience& salience, double lowest) {
  for (std::size_t t = 0; t < frames.size(); ++t) {
    Frame& frame = frames[t];
    const auto below = [&](const Candidate& c) { return c.midi < lowest; };
    for (const auto& c : frame.candidates) frame.voiced -= below(c) ? c.chance : 0.0;
    std::erase_if(frame.candidates, below);
    if (!frame.silent && !frame.alone() && t < salience.count()) addOvertones(frame, salience.frame(t), lowest);
  }
  return frames;
}

/// The lowest pitch that may belong to the voice of a mix.
double lowestOfVoice(const std::vector<std::size_t>& path) {
  std::vector<double> pitches;
  for (const std::size_t state : path)
    if (state + 1 < kStates) pitches.push_back(kLowest + static_cast<double>(state) / kBinsPerSemitone);
  return pitches.empty() ? kLowest : std::max(kLowest, medianOf(std::move(pitches)) - kPar.otherPart);
}

/// Log chance of each state in a frame.
std::array<double, kStates> logChances(const Frame& frame) {
  std::array<double, kStates> chance{};
  for (const auto& c : frame.candidates) {
    const auto bin = static_cast<int>(std::lround((c.midi - kLowest) * kBinsPerSemitone));
    for (int b = std::max(0, bin - 1); b <= std::min(kBins - 1, bin + 1); ++b)
      chance[static_cast<std::size_t>(b)] += kPar.candidates * c.chance * (b == bin ? kPar.onBin : kPar.besideBin);
  }
  chance.back() = kPar.rest * std::max(0.02, 1 - frame.voiced);
  for (double& c : chance) c = std::log(c + 1e-4);
  if (frame.guitar.empty()) return chance;
  double most = 0;
  for (std::size_t b = 0; b + 1 < kStates; ++b) {
    const auto heard = static_cast<double>(frame.guitar[b]);
    chance[b] += kPar.guitar * std::log(std::max(kPar.mayBe, heard));
    most = std::max(most, heard);
  }
  chance.back() += kPar.guitar * std::log(std::max(kPar.mayBe, 1 - most));
  return chance;
}

/// Pitches glide, jump where something is struck, and come and go.
class VoiceModel {
 public:
  VoiceModel(const std::vector<Frame>& frames, const OnsetStrength& onsets) : frames_(frames), onsets_(onsets) {}

  static double start(std::size_t) { return 0.0; }

  void enter(std::size_t t, std::span<const double> before) {
    chance_ = logChances(frames_[t]);
    const double onset = t < onsets_.all.size() ? static_cast<double>(onsets_.all[t]) : 0.0;
    jump_ = kPar.jumpCost - (kPar.jumpCost - kPar.jumpAtOnset) * std::min(1.0, onset / kPar.fullOnset);
    bestPitch_ = static_cast<std::size_t>(std::max_element(before.begin(), before.end() - 1) - before.begin());
  }

  template <class Come>
  void ways(std::size_t to, Come&& come) const {
    come(to, 0.0);
    if (to + 1 == kStates) return come(bestPitch_, kPar.voiceCost);
    const auto bin = static_cast<int>(to);
    for (int b = std::max(0, bin - kPar.glide); b <= std::min(kBins - 1, bin + kPar.glide); ++b)
      come(static_cast<std::size_t>(b), kPar.glideCost * std::abs(b - bin));
    come(bestPitch_, jump_);
    come(kStates - 1, kPar.voiceCost);
  }

  double gain(std::size_t state) const { return chance_[state]; }

 private:
  const std::vector<Frame>& frames_;
  const OnsetStrength& onsets_;
  std::array<double, kStates> chance_{};
  double jump_ = 0.0;
  std::size_t bestPitch_ = 0;
};

/// The exact pitch near a state: that of the nearest candidate.
F0Contour::Point pointAt(const Frame& frame, std::size_t state) {
  const double about = kLowest + static_cast<double>(state) / kBinsPerSemitone;
  F0Contour::Point point{MidiPitch(about), 0.1F};
  double nearest = kPar.nearestOff;
  for (const auto& c : frame.candidates)
    if (const double off = std::abs(c.midi - about); off < nearest)
      nearest = off, point = {MidiPitch(c.midi), static_cast<float>(std::clamp(c.chance, 0.05, 1.0))};
  return point;
}

}  // namespace

F0Contour measureF0Contour(std::span<const float> mono, const OnsetStrength& onsets, const GuitarActivations& guitar,
                           Cents offset, const Progress& progress) {
  F0Contour line{{static_cast<double>(kListeningRate) / kHop}, {}};
  auto periods = hearPeriods(mono, progress);
  std::vector<char> among(periods.size(), 0);  // other voices
  for (std::size_t t = 0; t < periods.size(); ++t) among[t] = !periods[t].silent && !periods[t].alone() ? 1 : 0;
  for (std::size_t t = 0; t < periods.size(); ++t)
    if (among[t] != 0) periods[t].guitar = guitarChances(guitar, offset, line.clock.timeOf(t));
  PitchSalience salience;
  if (std::find(among.begin(), among.end(), 1) != among.end()) salience = measureSalience(mono, progress);
  if (progress.cancelled()) return line;
  auto frames = amongOthers(periods, salience, kLowest);
  auto path = likeliestPath(frames.size(), kStates, VoiceModel(frames, onsets), progress);
  if (path.empty()) return line;
  const auto mixed = std::count(among.begin(), among.end(), 1),
             sounding = std::count_if(periods.begin(), periods.end(), [](const Frame&f) { return !f.silent; });
  const double lowest = lowestOfVoice(path);
  if (static_cast<double>(mixed) > kPar.mix * static_cast<double>(sounding) && lowest > kLowest) {
    frames = amongOthers(periods, salience, lowest);
    path = likeliestPath(frames.size(), kStates, VoiceModel(frames, onsets), progress);
    if (path.empty()) return line;
  }
  line.points.resize(frames.size());
  for (std::size_t t = 0; t < frames.size(); ++t) {
    const std::size_t state = path[t];
    if (state + 1 == kStates) continue;
    auto& point = line.points[t] = pointAt(frames[t], state);
    if (among[t] == 0) continue;
    point.alone = false;
    point.second = secondPitch(salience.frame(t), state);
  }
  // An attack is heard against what came before it, so that the level is needed all through.
  for (std::size_t t = 0; t < frames.size() && salience.count() > 0; ++t)
    if (line.points[t].pitch) line.points[t].level = salience.level[t * PitchSalience::kBins + path[t]];
  refineAmongOthers(line, mono);
  return line;
}

std::vector<F0Contour::Moment> F0Contour::sampled(Seconds each) const {
  std::vector<Moment> moments;
  const Seconds end = clock.timeOf(points.size());
  for (int i = 0; each * i < end; ++i) {
    const std::size_t frame = clock.frameAt(each * i);
    if (frame >= points.size()) break;
    const auto& pitch = points[frame].pitch;
    moments.push_back({each * i, pitch ? std::optional(frequencyOf(*pitch)) : std::nullopt});
  }
  return moments;
}

}  // namespace ear
