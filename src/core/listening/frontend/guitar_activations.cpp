// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/guitar_activations.h"

#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>

// The weights as bench/fit/activations.py writes them: floats, little-endian.
asm(".section .rodata\n"
    ".balign 16\n"
    "guitarActivationWeights: .incbin \"" INNER_EAR_ACTIVATION_WEIGHTS
    "\"\n"
    "guitarActivationWeightsEnd:\n"
    ".previous\n");
extern const float kWeights[] asm("guitarActivationWeights");        // NOLINT(modernize-avoid-c-arrays)
extern const float kWeightsEnd[] asm("guitarActivationWeightsEnd");  // NOLINT(modernize-avoid-c-arrays)

namespace ear {
namespace {

using Matrix = Eigen::MatrixXf;
using Rows = Eigen::Matrix<float, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>;

constexpr int kMargin = 2;  // bins beside the notes, for the first filters
constexpr int kWidth = GuitarActivations::kNotes * GuitarFrames::kBinsPerSemitone + 2 * kMargin;
constexpr int kFirstBin =
    (GuitarActivations::kLowestMidi - GuitarFrames::kLowestMidi) * GuitarFrames::kBinsPerSemitone - 1 - kMargin;
constexpr float kScale = 1.0F / 3.0F;                // of what goes in
constexpr std::size_t kChunk = 128, kReach = 5;      // frames at a time, and how far the filters see beyond them
constexpr int kFine = 16, kNote = 32, kWide = 24;    // channels
constexpr int kReachOfPitch = 12, kReachOfWide = 6;  // semitones
constexpr std::array<double, 7> kHarmonics = {0.5, 1, 2, 3, 4, 5, 6};  // the sides have the three from 1 on, the short
constexpr int kInputs = 12;                                            // windows two

/// Frames of channels by place on the pitch axis, with room for filters at both ends.
class Layer {
 public:
  Layer(int channels, int width, int margin, std::size_t frames)
      : channels_(channels), width_(width), margin_(margin), count_(frames), data_(frames * stride(), 0.0F) {}

  std::size_t count() const { return count_; }
  int channels() const { return channels_; }
  int width() const { return width_; }
  /// The first place of a frame, or one in its margin.
  float* at(std::size_t frame, int place = 0) {
    return data_.data() + frame * stride() + static_cast<std::size_t>((place + margin_) * channels_);
  }
  const float* at(std::size_t frame, int place = 0) const { return const_cast<Layer*>(this)->at(frame, place); }
  Eigen::Map<Matrix> frame(std::size_t i) { return {at(i), channels_, width_}; }

 private:
  std::size_t stride() const { return static_cast<std::size_t>((width_ + 2 * margin_) * channels_); }

  int channels_, width_, margin_;
  std::size_t count_;
  std::vector<float> data_;
};

/// A filter over frames and places.
struct Filter {
  int times, places, step;      ///< frames and places that it sees; places from one of its outputs to the next
  std::vector<Matrix> weights;  ///< for each frame, outputs x (places x inputs)
};

/// The weights in the order in which they are written.
class Reader {
 public:
  Filter filter(int inputs, int outputs, int times, int places, int step = 1) {
    Filter f{times, places, step, {}};
    for (int t = 0; t < times; ++t) {
      f.weights.emplace_back(Eigen::Map<const Rows>(at_, outputs, places * inputs));
      at_ += outputs * places * inputs;
    }
    return f;
  }
  Eigen::VectorXf numbers(int count) {
    Eigen::VectorXf v = Eigen::Map<const Eigen::VectorXf>(at_, count);
    at_ += count;
    return v;
  }
  bool atEnd() const { return at_ == kWeightsEnd; }

 private:
  const float* at_ = kWeights;
};

struct Network {
  Filter fine, note, time, pitch, again, againPitch, wide, outNote, outPitch, outWide;
  Eigen::VectorXf fineBias, noteBias, timeBias, pitchBias, againBias, wideBias, outBias;
  Eigen::VectorXf slope, shift;  ///< of the log odds of both answers, for calibration

  Network() {
    Reader r;
    fine = r.filter(kInputs, kFine, 3, 5), fineBias = r.numbers(kFine);
    note = r.filter(kFine, kNote, 3, 3, 3), noteBias = r.numbers(kNote);
    time = r.filter(kNote, kWide, 5, 1), timeBias = r.numbers(kWide);
    pitch = r.filter(kWide, kWide, 1, 2 * kReachOfPitch + 1), pitchBias = r.numbers(kWide);
    again = r.filter(kWide, kWide, 3, 1), againPitch = r.filter(kWide, kWide, 3, 1), againBias = r.numbers(kWide);
    wide = r.filter(kWide, kWide, 1, 2 * kReachOfWide + 1), wideBias = r.numbers(kWide);
    outNote = r.filter(kNote, 2, 1, 1), outPitch = r.filter(kWide, 2, 1, 1), outWide = r.filter(kWide, 2, 1, 1);
    outBias = r.numbers(2), slope = r.numbers(2), shift = r.numbers(2);
    eigen_assert(r.atEnd());
  }
};

const Network& network() {
  static const Network kNetwork;
  return kNetwork;
}

/// Adds a filter's answers; beyond the first and the last frame everything is 0.
void add(const Filter& filter, const Layer& in, Layer& out) {
  const int reach = filter.times / 2;
  const int before = (out.width() - 1) * filter.step + filter.places == in.width() ? 0 : filter.places / 2;
  for (std::size_t i = 0; i < out.count(); ++i)
    for (int t = 0; t < filter.times; ++t) {
      const auto from = static_cast<std::ptrdiff_t>(i) + t - reach;
      if (from < 0 || from >= static_cast<std::ptrdiff_t>(in.count())) continue;
      // The places under a filter lie one behind the other: they are a column as they stand.
      const Eigen::Map<const Matrix, 0, Eigen::OuterStride<>> columns(
          in.at(static_cast<std::size_t>(from), -before), filter.places * in.channels(), out.width(),
          Eigen::OuterStride<>(filter.step * in.channels()));
      out.frame(i).noalias() += filter.weights[static_cast<std::size_t>(t)] * columns;
    }
}

void begin(Layer& out, const Eigen::VectorXf& bias) {
  for (std::size_t i = 0; i < out.count(); ++i) out.frame(i).colwise() = bias;
}

void rectify(Layer& out) {
  for (std::size_t i = 0; i < out.count(); ++i) out.frame(i) = out.frame(i).cwiseMax(0.0F);
}

/// A frame's planes, each shifted down by its harmonic.
void stack(const GuitarFrames& frames, std::size_t frame, Layer& in, std::size_t to) {
  constexpr int kOctave = 12 * GuitarFrames::kBinsPerSemitone;
  int channel = 0;
  const auto shifted = [&](GuitarFrames::Plane plane, double harmonic) {
    const auto levels = frames.frame(frame, plane);
    const int by = kFirstBin + static_cast<int>(std::lround(kOctave * std::log2(harmonic)));
    for (int k = 0; k < kWidth; ++k)
      if (by + k >= 0 && by + k < GuitarFrames::kBins)
        in.at(to, k)[channel] = kScale * levels[static_cast<std::size_t>(by + k)];
    ++channel;
  };
  for (const double h : kHarmonics) shifted(GuitarFrames::Plane::middle, h);
  for (std::size_t h = 1; h <= 3; ++h) shifted(GuitarFrames::Plane::sides, kHarmonics[h]);
  for (std::size_t h = 1; h <= 2; ++h) shifted(GuitarFrames::Plane::middleShort, kHarmonics[h]);
}

/// Log odds of both answers for a chunk.
Layer answersOf(const Layer& in) {
  const std::size_t count = in.count();
  constexpr int kNotes = GuitarActivations::kNotes;
  const Network& n = network();
  Layer fine(kFine, kWidth - 2 * kMargin, 0, count), note(kNote, kNotes, 0, count);
  Layer time(kWide, kNotes, kReachOfPitch, count), pitch(kWide, kNotes, 0, count);
  Layer again(kWide, kNotes, kReachOfWide, count), wide(kWide, kNotes, 0, count), out(2, kNotes, 0, count);
  begin(fine, n.fineBias), add(n.fine, in, fine), rectify(fine);
  begin(note, n.noteBias), add(n.note, fine, note), rectify(note);
  begin(time, n.timeBias), add(n.time, note, time), rectify(time);
  begin(pitch, n.pitchBias), add(n.pitch, time, pitch), rectify(pitch);
  begin(again, n.againBias), add(n.again, time, again), add(n.againPitch, pitch, again);
  rectify(again);
  begin(wide, n.wideBias), add(n.wide, again, wide), rectify(wide);
  begin(out, n.outBias);
  add(n.outNote, note, out), add(n.outPitch, pitch, out), add(n.outWide, wide, out);
  return out;
}

/// Calls with the notes next to a pitch: one where it lies on it, else the two it lies between; none out of range.
template <class Use>
void semitonesAround(double midi, Use&& use) {
  constexpr double kOn = 0.2;
  for (int note = static_cast<int>(std::floor(midi)); note <= static_cast<int>(std::ceil(midi)); ++note) {
    const int n = note - GuitarActivations::kLowestMidi;
    if (n >= 0 && n < GuitarActivations::kNotes && std::abs(note - midi) < 1 - kOn) use(static_cast<std::size_t>(n));
  }
}

}  // namespace

double soundingAt(const GuitarActivations& notes, Seconds t, double midi) {
  if (notes.count() == 0) return 0.0;
  const double place = std::clamp(notes.clock.placeOf(t), 0.0, static_cast<double>(notes.count() - 1));
  const auto before = static_cast<std::size_t>(place), after = std::min(before + 1, notes.count() - 1);
  const double share = place - static_cast<double>(before);
  double most = 0;
  semitonesAround(midi, [&](std::size_t n) {
    most = std::max(most, std::lerp(static_cast<double>(notes.soundingAt(before)[n]),
                                    static_cast<double>(notes.soundingAt(after)[n]), share));
  });
  return most;
}

double struckNear(const GuitarActivations& notes, Seconds t, double midi) {
  if (notes.count() == 0) return 0.0;
  constexpr Seconds kNear{0.07};
  double most = 0;
  for (std::size_t i = notes.clock.frameAt(t - kNear); i < notes.count() && notes.clock.timeOf(i) <= t + kNear; ++i)
    semitonesAround(midi, [&](std::size_t n) { most = std::max(most, static_cast<double>(notes.struckAt(i)[n])); });
  return most;
}

GuitarActivations measureGuitarActivations(const GuitarFrames& frames, const Progress& progress) {
  GuitarActivations found{frames.clock, {}, {}};
  found.sounding.reserve(frames.count() * GuitarActivations::kNotes);
  found.struck.reserve(frames.count() * GuitarActivations::kNotes);
  const auto likely = [&](float odds, int answer) {
    const Network& n = network();
    return 1 / (1 + std::exp(-(n.slope[answer] * odds + n.shift[answer])));
  };
  for (std::size_t first = 0; first < frames.count(); first += kChunk) {
    if (progress.cancelled()) return {};
    const std::size_t from = first > kReach ? first - kReach : 0, wanted = std::min(kChunk, frames.count() - first),
                      end = std::min(frames.count(), first + wanted + kReach);
    Layer in(kInputs, kWidth, 0, end - from);
    for (std::size_t i = from; i < end; ++i) stack(frames, i, in, i - from);
    const Layer out = answersOf(in);
    for (std::size_t i = first; i < first + wanted; ++i)
      for (int k = 0; k < GuitarActivations::kNotes; ++k) {
        const float* odds = out.at(i - from, k);
        found.sounding.push_back(likely(odds[0], 0));
        found.struck.push_back(likely(odds[1], 1));
      }
  }
  return found;
}

GuitarActivations hearGuitars(const Recording& recording, Cents offset, const Progress& progress, Seconds part) {
  GuitarActivations all{{GuitarFrames::kRate}, {}, {}};
  const std::size_t frames = all.clock.framesIn(part);
  for (std::size_t first = 0;; first += frames) {
    const Seconds from = all.clock.timeOf(first), to = all.clock.timeOf(first + frames);
    const bool last = to >= recording.duration();
    const bool whole = last && first == 0;
    GuitarActivations found = measureGuitarActivations(
        measureGuitarFrames(whole ? recording : excerpt(recording, {from, to}), offset, progress), progress);
    if (!whole) evict(recording, {from, to});
    if (progress.cancelled()) return {};
    // The frame where the next part begins is that one's.
    const std::size_t count = (last ? found.count() : std::min(frames, found.count())) * GuitarActivations::kNotes;
    all.sounding.insert(all.sounding.end(), found.sounding.begin(),
                        found.sounding.begin() + static_cast<std::ptrdiff_t>(count));
    all.struck.insert(all.struck.end(), found.struck.begin(),
                      found.struck.begin() + static_cast<std::ptrdiff_t>(count));
    if (last) return all;
  }
}

}  // namespace ear
