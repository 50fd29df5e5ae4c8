#include "core/listening/chroma.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr int kNotes = NoteActivity::kNotes;
constexpr int kOvertones = 10;
constexpr float kDecay = 0.75F;  // of each overtone against the one before
constexpr int kIterations = 40;
constexpr double kTolerance = 0.5;  // semitones around a note's pitch that count for it
constexpr float kCompression = 0.6F;

using Matrix = Eigen::MatrixXf;

/// Column n: what note n puts on each semitone, unit length.
Matrix overtoneDictionary() {
  Matrix dictionary = Matrix::Zero(kNotes, kNotes);
  for (int note = 0; note < kNotes; ++note) {
    float level = 1.0F;
    for (int order = 1; order <= kOvertones; ++order, level *= kDecay) {
      const int at = note + static_cast<int>(std::lround(12.0 * std::log2(order)));
      if (at < kNotes) dictionary(at, note) += level;
    }
  }
  dictionary.colwise().normalize();
  return dictionary;
}

/// Semitone levels of a frame; partials off the tempered pitch count less.
Eigen::VectorXf semitoneLevels(std::span<const Partial> frame, double tuningSemitones) {
  Eigen::VectorXf levels = Eigen::VectorXf::Zero(kNotes);
  for (const Partial& p : frame) {
    const double midi = 69.0 + 12.0 * std::log2(p.hertz / 440.0) - tuningSemitones;
    const auto nearest = static_cast<int>(std::lround(midi));
    const int note = nearest - NoteActivity::kLowestMidi;
    if (note < 0 || note >= kNotes) continue;
    const double off = std::abs(midi - nearest) / kTolerance;
    levels[note] += static_cast<float>((1.0 - off * off) * std::pow(p.amplitude, kCompression));
  }
  return levels;
}

}  // namespace

NoteActivity measureNotes(const TonalFrames& frames, Cents tuning, const Progress& progress) {
  static const Matrix kDictionary = overtoneDictionary();
  static const Matrix kGram = kDictionary.transpose() * kDictionary;
  const auto count = static_cast<Eigen::Index>(frames.count());
  NoteActivity notes{.rate = frames.rate, .activity = std::vector<float>(frames.count() * kNotes)};

  constexpr Eigen::Index kBlock = 128;  // frames solved at once, as one matrix product an iteration
  for (Eigen::Index from = 0; from < count; from += kBlock) {
    if (progress.cancelled()) return notes;
    const Eigen::Index size = std::min(kBlock, count - from);
    Matrix levels(kNotes, size);
    for (Eigen::Index i = 0; i < size; ++i)
      levels.col(i) = semitoneLevels(frames.frame(static_cast<std::size_t>(from + i)), tuning.value / 100.0);
    // Multiplicative updates keep x >= 0 and lower |Dx - b| at each step (Lee & Seung 2001).
    const Matrix target = kDictionary.transpose() * levels;
    Matrix x = target;
    for (int k = 0; k < kIterations; ++k)
      x = x.cwiseProduct(target).cwiseQuotient(((kGram * x).array() + 1e-9F).matrix());
    Eigen::Map<Matrix>(notes.activity.data() + from * kNotes, kNotes, size) = x;
  }
  return notes;
}

ChromaVector chromaOf(const NoteActivity& notes, TimeSpan span, int lowest, int highest) {
  ChromaVector chroma{};
  const auto frameAt = [&](Seconds t) {
    return std::min(notes.count(), static_cast<std::size_t>(std::max(0.0, std::round(t.value * notes.rate))));
  };
  const std::size_t from = frameAt(span.start);
  const std::size_t to = std::max(frameAt(span.end), std::min(notes.count(), from + 1));
  for (std::size_t i = from; i < to; ++i) {
    const auto frame = notes.frame(i);
    for (int midi = std::max(lowest, NoteActivity::kLowestMidi);
         midi <= std::min(highest, NoteActivity::kLowestMidi + kNotes - 1); ++midi)
      chroma[static_cast<std::size_t>(midi % 12)] += frame[static_cast<std::size_t>(midi - NoteActivity::kLowestMidi)];
  }
  const float top = *std::max_element(chroma.begin(), chroma.end());
  if (top > 0)
    for (float& c : chroma) c /= top;
  return chroma;
}

}  // namespace ear
