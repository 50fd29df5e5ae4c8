// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/chroma.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parameter.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr int kNotes = NoteActivations::kNotes;
constexpr int kBins = 5;  // a semitone: fine enough to tell a fifth overtone, 14 cents flat, from a played third
constexpr int kMiddleBin = kBins / 2;
constexpr int kAllBins = kNotes * kBins;
constexpr int kOvertones = 16;
// Of each overtone against the one before: a plucked string, and one through an overdriven amplifier.
constexpr std::array kDecays = {0.7F, 0.9F};
constexpr int kAtoms = kNotes * static_cast<int>(kDecays.size());

struct Parameters {
  int iterations = parameter("chroma.iterations", 40, "");
  float compression = parameter("chroma.compression", 0.6F, "exponent");
};
const Parameters kPar{};

using Matrix = Eigen::MatrixXf;

/// Spreads a level over the two bins around a place. @param semitones  above the lowest note
template <class Column>
void deposit(Column&& bins, double semitones, float level) {
  const double place = semitones * kBins + kMiddleBin;
  const auto below = static_cast<int>(std::floor(place));
  const auto share = static_cast<float>(place - below);
  if (below >= 0 && below < kAllBins) bins[below] += level * (1 - share);
  if (below + 1 >= 0 && below + 1 < kAllBins) bins[below + 1] += level * share;
}

/// Column n: what note n % kNotes puts on each bin with one of the decays, unit length.
Matrix overtoneDictionary() {
  Matrix dictionary = Matrix::Zero(kAllBins, kAtoms);
  for (int atom = 0; atom < kAtoms; ++atom) {
    float level = 1.0F;
    for (int order = 1; order <= kOvertones; ++order, level *= kDecays[static_cast<std::size_t>(atom / kNotes)])
      deposit(dictionary.col(atom), atom % kNotes + 12.0 * std::log2(order), level);
  }
  dictionary.colwise().normalize();
  return dictionary;
}

/// Levels of a frame's bins on the recording's own pitch.
Eigen::VectorXf binLevels(std::span<const Partial> frame, double tuningSemitones) {
  Eigen::VectorXf levels = Eigen::VectorXf::Zero(kAllBins);
  for (const Partial& p : frame)
    deposit(levels, pitchOf(Hertz(p.hertz)).value - tuningSemitones - NoteActivations::kLowestMidi,
            std::pow(p.amplitude, kPar.compression));
  return levels;
}

}  // namespace

NoteActivations measureNoteActivations(const SpectralPeaks& frames, Cents tuning, const Progress& progress) {
  static const Matrix kDictionary = overtoneDictionary();
  static const Matrix kGram = kDictionary.transpose() * kDictionary;
  const auto count = static_cast<Eigen::Index>(frames.count());
  NoteActivations notes{.clock = frames.clock, .activity = std::vector<float>(frames.count() * kNotes)};

  constexpr Eigen::Index kBlock = 128;  // frames solved at once, as one matrix product an iteration
  for (Eigen::Index from = 0; from < count; from += kBlock) {
    if (progress.cancelled()) return notes;
    const Eigen::Index size = std::min(kBlock, count - from);
    Matrix levels(kAllBins, size);
    for (Eigen::Index i = 0; i < size; ++i)
      levels.col(i) = binLevels(frames.frame(static_cast<std::size_t>(from + i)), tuning.value / 100.0);
    // Multiplicative updates keep x >= 0 and lower |Dx - b| at each step (Lee & Seung 2001).
    const Matrix target = kDictionary.transpose() * levels;
    Matrix x = target;
    for (int k = 0; k < kPar.iterations; ++k)
      x = x.cwiseProduct(target).cwiseQuotient(((kGram * x).array() + 1e-9F).matrix());
    Eigen::Map<Matrix>(notes.activity.data() + from * kNotes, kNotes, size) = x.topRows(kNotes) + x.bottomRows(kNotes);
  }
  return notes;
}

ChromaVector chromaOf(const NoteActivations& notes, TimeSpan span, int lowest, int highest) {
  ChromaVector chroma{};
  const auto frameAt = [&](Seconds t) { return std::min(notes.count(), notes.clock.frameAt(t)); };
  const std::size_t from = frameAt(span.start);
  const std::size_t to = std::max(frameAt(span.end), std::min(notes.count(), from + 1));
  for (std::size_t i = from; i < to; ++i) {
    const auto frame = notes.frame(i);
    for (int midi = std::max(lowest, NoteActivations::kLowestMidi);
         midi <= std::min(highest, NoteActivations::kLowestMidi + kNotes - 1); ++midi)
      chroma[static_cast<std::size_t>(midi % 12)] +=
          frame[static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)];
  }
  const float top = *std::max_element(chroma.begin(), chroma.end());
  if (top > 0)
    for (float& c : chroma) c /= top;
  return chroma;
}

}  // namespace ear
