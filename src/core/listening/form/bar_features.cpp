// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/bar_features.h"

#include <algorithm>
#include <cmath>

#include "core/base/statistics.h"

namespace ear {
namespace {

using Matrix = Eigen::MatrixXd;
using Eigen::Index;

constexpr int kGroups = 24, kGroupSize = LogBandSpectrogram::kBands / kGroups;
constexpr int kBrightFrom = 18;  // groups

Seconds usualLength(const std::vector<TimeSpan>& bars) {
  std::vector<double> lengths;
  for (const auto& b : bars) lengths.push_back(b.length().value);
  return Seconds(medianOf(std::move(lengths)));
}

/// Mean level of each group of bands over a span.
Eigen::VectorXd groupLevels(const LogBandSpectrogram& bands, TimeSpan span) {
  Eigen::VectorXd levels = Eigen::VectorXd::Zero(kGroups);
  const auto from = bands.clock.frameBefore(span.start);
  const auto to = std::min(bands.count(), std::max(from + 1, bands.clock.frameBefore(span.end)));
  for (std::size_t t = from; t < to; ++t)
    for (int b = 0; b < LogBandSpectrogram::kBands; ++b)
      levels(b / kGroupSize) += bands.frame(t)[static_cast<std::size_t>(b)];
  return to > from ? Eigen::VectorXd(levels / (kGroupSize * static_cast<double>(to - from))) : levels;
}

double pitchedPerSecond(const NoteActivations& notes, TimeSpan span) {
  const auto from = notes.clock.frameBefore(span.start);
  const auto to = std::min(notes.count(), notes.clock.frameBefore(span.end));
  double sum = 0;
  for (std::size_t t = from; t < to; ++t)
    for (const float a : notes.frame(t)) sum += a;
  return to > from ? sum / static_cast<double>(to - from) : 0.0;
}

/// A part of a span, by shares of its length.
TimeSpan partOf(TimeSpan span, double from, double to) {
  return {span.start + span.length() * from, span.start + span.length() * to};
}

/// Columns about their mean, scaled together by their spread: a column scaled alone would turn its noise into evidence.
Matrix centred(Matrix m) {
  m.rowwise() -= m.colwise().mean().eval();
  return m / (std::sqrt(m.squaredNorm() / static_cast<double>(std::max<Index>(m.rows(), 1))) + 1e-9);
}

Eigen::MatrixXf cosines(Matrix m) {
  m = m.cwiseSqrt();
  m.rowwise() -= m.colwise().mean().eval();
  for (Index i = 0; i < m.rows(); ++i) m.row(i) /= m.row(i).norm() + 1e-9;
  const Eigen::MatrixXf unit = m.cast<float>();
  return unit * unit.transpose();
}

Eigen::MatrixXf closeness(const Matrix& raw) {
  const Eigen::MatrixXf m = centred(raw).cast<float>();
  const Eigen::VectorXf squares = m.rowwise().squaredNorm();
  Eigen::MatrixXf distance = -2 * m * m.transpose();
  distance.colwise() += squares;
  distance.rowwise() += squares.transpose();
  distance = (-distance.cwiseMax(0)).array().exp();
  return distance;
}

}  // namespace

BarFeatures describeBars(const std::vector<TimeSpan>& bars, const LogBandSpectrogram& bands,
                         const OnsetStrength& onsets, const NoteActivations& notes) {
  const auto n = static_cast<Index>(bars.size());
  BarFeatures f{Matrix::Zero(n, 48),
                Matrix::Zero(n, 24),
                Matrix::Zero(n, 3 * BarFeatures::kPlaces),
                Matrix::Zero(n, kGroups),
                {},
                {},
                {}};
  const Seconds longest = usualLength(bars) * 1.5;
  Trail trail(bands.levels);
  for (Index i = 0; i < n; ++i) {
    TimeSpan bar = bars[static_cast<std::size_t>(i)];
    bar.end = std::min(bar.end, bar.start + longest);
    trail.reached(bands.clock.frameBefore(bar.start) * LogBandSpectrogram::kBands);
    for (int q = 0; q < BarFeatures::kQuarters; ++q) {
      const auto chroma = chromaOf(notes, partOf(bar, 0.25 * q, 0.25 * (q + 1)), 45, 88);
      for (int c = 0; c < 12; ++c) f.harmony(i, q * 12 + c) = chroma[static_cast<std::size_t>(c)];
    }
    for (int h = 0; h < 2; ++h) {
      const auto chroma = chromaOf(notes, partOf(bar, 0.5 * h, 0.5 * (h + 1)), 28, 52);
      for (int c = 0; c < 12; ++c) f.bass(i, h * 12 + c) = chroma[static_cast<std::size_t>(c)];
    }
    const Seconds slot = bar.length() / BarFeatures::kPlaces;
    for (int place = 0; place < BarFeatures::kPlaces; ++place) {
      const Seconds middle = bar.start + slot * place;
      int row = 0;
      for (const auto* strength : {&onsets.low, &onsets.all, &onsets.high})
        f.rhythm(i, row++ * BarFeatures::kPlaces + place) =
            strongestNear(*strength, onsets.clock, middle, slot.value / 4 + onsets.clock.timeOf(1.5).value);
    }
    f.colour.row(i) = groupLevels(bands, bar);
    f.level.push_back(f.colour.row(i).mean());
    f.brightness.push_back(groupLevels(bands, partOf(bar, 0, 0.25)).tail(kGroups - kBrightFrom).mean());
    f.pitched.push_back(pitchedPerSecond(notes, bar));
  }
  return f;
}

BarSelfSimilarity compareBars(const BarFeatures& f) {
  BarSelfSimilarity l{cosines(f.harmony), cosines(f.bass), closeness(f.rhythm), closeness(f.colour), {}};
  l.together = 0.25F * (l.harmony + l.bass + l.rhythm + l.colour);
  return l;
}

}  // namespace ear
