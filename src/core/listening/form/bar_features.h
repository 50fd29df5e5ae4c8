// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Dense>
#include <vector>

#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/frontend/spectra.h"

namespace ear {

/// What the bars of a recording are like; one row or value a bar.
struct BarFeatures {
  Eigen::MatrixXd harmony;         ///< chroma of each quarter of the bar
  Eigen::MatrixXd bass;            ///< chroma of the low notes of each half
  Eigen::MatrixXd rhythm;          ///< onset strength at 16 places of the bar: low, all, high
  Eigen::MatrixXd colour;          ///< levels of 24 bands
  std::vector<double> level;       ///< mean of the bands
  std::vector<double> brightness;  ///< level above 2.6 kHz in the first quarter of the bar, as after a cymbal
  std::vector<double> pitched;     ///< activity of notes a second

  static constexpr int kPlaces = 16, kQuarters = 4;
  std::size_t count() const { return level.size(); }
};

/// @param bars  rising; a last bar that goes on to the end of the recording counts to one and a half usual bars
BarFeatures describeBars(const std::vector<TimeSpan>& bars, const LogBandSpectrogram& bands,
                         const OnsetStrength& onsets, const NoteActivations& notes);

/// Likeness of all pairs of bars in one respect, bars x bars; single precision, as two hours have thousands of bars.
/// Where a bar stands out from the mean of all counts.
struct BarSelfSimilarity {
  Eigen::MatrixXf harmony, bass;   ///< cosine, in [-1, 1]
  Eigen::MatrixXf rhythm, colour;  ///< exp(-distance squared in units of the spread), in [0, 1]
  Eigen::MatrixXf together;        ///< mean of all four
};
BarSelfSimilarity compareBars(const BarFeatures& features);

}  // namespace ear
