// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace ear::bench {

/// Times of events are in seconds and rise.
using Times = std::vector<double>;

/// F-measure of a one-to-one matching of events within `window` (the greatest there is); empty where there are none
/// to find. Dixon 2001; Raffel et al. 2014 (mir_eval).
std::optional<double> fMeasure(const Times& truth, const Times& said, double window);

/// Beats within 70 ms; those of the first 5 s count on neither side (Davies, Degara & Plumbley 2009).
std::optional<double> beatF(const Times& truth, const Times& said);

/// Cemgil's accuracy of beats: a Gaussian of 40 ms around each (Cemgil et al. 2001), first 5 s left out.
std::optional<double> cemgil(const Times& truth, const Times& said);

/// Tempo right within 4 %. Accuracy 2 also takes a half, third, double and triple of it (Gouyon et al. 2006).
bool tempoAccuracy1(double truth, double said);
bool tempoAccuracy2(double truth, double said);

/// A note by its start in seconds and its pitch as a fractional MIDI number.
struct Note {
  double start, midi;
};

/// F-measure of notes whose start lies within 50 ms and whose pitch within 50 cents, one to one (the greatest matching
/// by augmenting paths); MIREX note tracking without offsets, Raffel et al. 2014.
std::optional<double> noteF(const std::vector<Note>& truth, const std::vector<Note>& said);

struct Labelled {
  double start, end;
  std::string label;
};

/// Section borders within `window`, without the first and last one (Turnbull et al. 2007: 0.5 s; Levy & Sandler 2008:
/// 3 s).
std::optional<double> borderF(const std::vector<Labelled>& truth, const std::vector<Labelled>& said, double window);

/// Pairs of frames of 0.1 s that have one label in both, against those in either (Levy & Sandler 2008).
double pairwiseF(const std::vector<Labelled>& truth, const std::vector<Labelled>& said);

/// Normalised conditional entropies (Lukashevich 2008): over- and under-segmentation, each in [0, 1], 1 best.
struct Entropies {
  double over, under;
};
Entropies conditionalEntropies(const std::vector<Labelled>& truth, const std::vector<Labelled>& said);

}  // namespace ear::bench
