#include "core/listening/form.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr int kParts = 4;    // of a bar, each with a chroma of its own
constexpr int kColours = 8;  // cosine coefficients of the band levels
constexpr int kShortestBars = 2, kLongestBars = 24;
constexpr double kBorderCost = 0.42;  // of novelty that a border must bring
constexpr double kSameMusic = 0.70;   // mean likeness of bars along a diagonal

using Matrix = Eigen::MatrixXd;

struct BarFeatures {
  Matrix harmony;  // one row a bar, unit length
  Matrix colour;   // one row a bar, standardised columns
};

BarFeatures describe(const std::vector<TimeSpan>& bars, const Spectra& spectra, const NoteActivity& notes) {
  const auto n = static_cast<Eigen::Index>(bars.size());
  BarFeatures f{Matrix::Zero(n, kParts * 12 + 12), Matrix::Zero(n, kColours)};
  for (Eigen::Index i = 0; i < n; ++i) {
    const TimeSpan bar = bars[static_cast<std::size_t>(i)];
    for (int part = 0; part < kParts; ++part) {
      const TimeSpan span{bar.start + bar.length() * (part / static_cast<double>(kParts)),
                          bar.start + bar.length() * ((part + 1) / static_cast<double>(kParts))};
      const auto chroma = chromaOf(notes, span, 45, 88);
      for (int c = 0; c < 12; ++c) f.harmony(i, part * 12 + c) = chroma[static_cast<std::size_t>(c)];
    }
    const auto bass = chromaOf(notes, bar, 28, 52);
    for (int c = 0; c < 12; ++c) f.harmony(i, kParts * 12 + c) = 1.5 * bass[static_cast<std::size_t>(c)];

    std::array<double, BandFrames::kBands> level{};
    const auto from = static_cast<std::size_t>(bar.start.value * spectra.bands.rate);
    const auto to = std::min(spectra.bands.count(), static_cast<std::size_t>(bar.end.value * spectra.bands.rate));
    for (std::size_t t = from; t < to; ++t)
      for (std::size_t b = 0; b < level.size(); ++b) level[b] += spectra.bands.frame(t)[b];
    const double frames = std::max<double>(1.0, static_cast<double>(to) - static_cast<double>(from));
    for (int k = 0; k < kColours; ++k) {
      double sum = 0;
      for (std::size_t b = 0; b < level.size(); ++b)
        sum += level[b] / frames * std::cos(std::numbers::pi * k * (static_cast<double>(b) + 0.5) / BandFrames::kBands);
      f.colour(i, k) = sum / BandFrames::kBands;
    }
  }
  f.harmony.rowwise() -= f.harmony.colwise().mean().eval();
  f.harmony.rowwise().normalize();
  // Loudness and tilt in their own units: a column scaled to unit spread would turn its noise into evidence.
  f.colour.rowwise() -= f.colour.colwise().mean().eval();
  const double spread = std::sqrt(f.colour.squaredNorm() / static_cast<double>(std::max<Eigen::Index>(n, 1))) + 1e-9;
  f.colour /= spread;
  return f;
}

/// Likeness of all pairs of bars, in [0, 1].
Matrix likeness(const BarFeatures& f) {
  const Eigen::Index n = f.harmony.rows();
  Matrix s(n, n);
  for (Eigen::Index i = 0; i < n; ++i)
    for (Eigen::Index j = 0; j < n; ++j) {
      const double harmony = std::max(0.0, f.harmony.row(i).dot(f.harmony.row(j)));
      const double colour = std::exp(-(f.colour.row(i) - f.colour.row(j)).squaredNorm());
      s(i, j) = 0.5 * harmony + 0.5 * colour;
    }
  return s;
}

/// Foote's checkerboard along the main diagonal: how unlike the bars before and after each border are.
std::vector<double> novelty(const Matrix& s) {
  const Eigen::Index n = s.rows();
  std::vector<double> result(static_cast<std::size_t>(n), 0.0);
  for (Eigen::Index b = 1; b < n; ++b) {
    double sum = 0, weights = 0;
    const Eigen::Index reach = std::min<Eigen::Index>({4, b, n - b});
    for (Eigen::Index i = 1; i <= reach; ++i)
      for (Eigen::Index j = 1; j <= reach; ++j) {
        const double taper = std::exp(-0.15 * static_cast<double>((i - 1) * (i - 1) + (j - 1) * (j - 1)) / 2);
        sum += taper * (s(b - i, b - j) + s(b + i - 1, b + j - 1) - 2 * s(b - i, b + j - 1));
        weights += taper;
      }
    result[static_cast<std::size_t>(b)] = std::max(0.0, sum / weights);
  }
  const double top = *std::max_element(result.begin(), result.end());
  if (top > 0)
    for (double& v : result) v /= top;
  return result;
}

/// Repeats: a border is likelier where a diagonal stripe of likeness begins or ends (after Serra et al. 2012).
std::vector<double> repeatEdges(const Matrix& s) {
  const Eigen::Index n = s.rows();
  std::vector<double> edge(static_cast<std::size_t>(n), 0.0);
  const auto mean = [&](Eigen::Index i, Eigen::Index j) {  // of four bars along the diagonal
    double sum = 0;
    int count = 0;
    for (Eigen::Index k = 0; k < 4 && i + k < n && j + k < n; ++k)
      if (i + k >= 0 && j + k >= 0) sum += s(i + k, j + k), ++count;
    return count == 4 ? sum / 4 : 0.0;
  };
  for (Eigen::Index b = 1; b < n; ++b)
    for (Eigen::Index j = 0; j < n; ++j) {
      if (std::abs(b - j) < 4) continue;
      edge[static_cast<std::size_t>(b)] =
          std::max(edge[static_cast<std::size_t>(b)], std::abs(mean(b, j) - mean(b - 4, j - 4)));
    }
  const double top = *std::max_element(edge.begin(), edge.end());
  if (top > 0)
    for (double& v : edge) v /= top;
  return edge;
}

/// How little a section of so many bars surprises.
double lengthFit(int bars) {
  if (bars % 8 == 0) return 0.10;
  if (bars % 4 == 0) return 0.08;
  if (bars % 2 == 0) return -0.08;
  return -0.22;
}

/// Borders (bar numbers, first = 0) that bring the most novelty for their cost, by dynamic programming.
std::vector<int> chooseBorders(const std::vector<double>& change) {
  const int n = static_cast<int>(change.size());
  std::vector<double> best(static_cast<std::size_t>(n) + 1, -1e9);
  std::vector<int> from(static_cast<std::size_t>(n) + 1, 0);
  best[0] = 0;
  for (int end = 1; end <= n; ++end)
    for (int start = std::max(0, end - kLongestBars); start < end; ++start) {
      const int length = end - start;
      if (length < kShortestBars && end != n) continue;
      const double gain = start == 0 ? 0.0 : change[static_cast<std::size_t>(start)] - kBorderCost;
      const double value = best[static_cast<std::size_t>(start)] + gain + lengthFit(length);
      if (value > best[static_cast<std::size_t>(end)])
        best[static_cast<std::size_t>(end)] = value, from[static_cast<std::size_t>(end)] = start;
    }
  std::vector<int> borders;
  for (int at = n; at > 0; at = from[static_cast<std::size_t>(at)])
    borders.push_back(from[static_cast<std::size_t>(at)]);
  std::reverse(borders.begin(), borders.end());
  return borders;
}

/// Likeness of two runs of bars, the shorter laid along the longer where it fits best.
double runLikeness(const Matrix& s, int a, int lengthA, int b, int lengthB) {
  if (lengthA > lengthB) return runLikeness(s, b, lengthB, a, lengthA);
  if (lengthB > 2 * lengthA + 1) return 0.0;
  double best = 0;
  for (int shift = 0; shift <= lengthB - lengthA; ++shift) {
    double sum = 0;
    for (int k = 0; k < lengthA; ++k) sum += s(a + k, b + shift + k);
    best = std::max(best, sum / lengthA);
  }
  return best;
}

std::string letterOf(std::size_t i) {
  std::string text(1, static_cast<char>('A' + i % 26));
  return i < 26 ? text : text + std::to_string(i / 26 + 1);
}

}  // namespace

std::vector<FoundSection> findForm(const Spectra& spectra, const NoteActivity& notes, const RhythmFindings& rhythm) {
  std::vector<TimeSpan> bars;
  for (std::size_t i = 0; i < rhythm.downbeats.size(); ++i)
    bars.push_back({rhythm.downbeats[i], i + 1 < rhythm.downbeats.size() ? rhythm.downbeats[i + 1] : spectra.duration});
  if (bars.size() < 8) return {{.span = {Seconds(0), spectra.duration}, .letter = "A", .certainty = 0.0}};

  const Matrix s = likeness(describe(bars, spectra, notes));
  auto change = novelty(s);
  const auto edges = repeatEdges(s);
  for (std::size_t i = 0; i < change.size(); ++i) change[i] = 0.65 * change[i] + 0.35 * edges[i];
  const auto borders = chooseBorders(change);

  std::vector<FoundSection> sections;
  std::vector<std::pair<int, int>> runs;  // first bar, bars
  std::vector<std::size_t> letters;
  std::size_t used = 0;
  for (std::size_t i = 0; i < borders.size(); ++i) {
    const int first = borders[i];
    const int length = (i + 1 < borders.size() ? borders[i + 1] : static_cast<int>(bars.size())) - first;
    double best = kSameMusic;
    std::size_t letter = used;
    for (std::size_t k = 0; k < runs.size(); ++k)
      if (const double like = runLikeness(s, runs[k].first, runs[k].second, first, length); like > best)
        best = like, letter = letters[k];
    if (letter == used) ++used;
    runs.emplace_back(first, length);
    letters.push_back(letter);
    const Seconds start = i == 0 ? Seconds(0) : bars[static_cast<std::size_t>(first)].start;
    if (!sections.empty()) sections.back().span.end = start;
    sections.push_back(
        {{start, spectra.duration}, letterOf(letter), i == 0 ? 1.0 : change[static_cast<std::size_t>(first)]});
  }
  return sections;
}

}  // namespace ear
