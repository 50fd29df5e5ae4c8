// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// A plucked string whose pitch may move while it sounds (Karplus & Strong 1983; the fraction of the delay by Lagrange
/// interpolation of the third order, Laakso, Välimäki, Karjalainen & Laine 1996, which can be moved without a click).
///
/// pluck() and all behind it belong to one thread and neither allocate, lock nor wait.
class PluckedString {
 public:
  static constexpr Hertz kLowest{20.0}, kHighest{4000.0};

  /// One thing that happens to the pitch: a bend or its release and a slide take their time; a hammer-on or pull-off
  /// takes none and strikes anew.
  struct Move {
    Seconds after{};      ///< the pluck; rising from move to move
    Cents to{};           ///< over the plucked pitch
    Seconds over{};       ///< until it is there, in a straight line of cents
    double stroke = 0.0;  ///< new energy, as a share of the pluck's: 0 ... 1
  };
  static constexpr std::size_t kMostMoves = 24;
  struct Moves {
    std::array<Move, kMostMoves> all{};
    std::size_t count = 0;
  };

  struct Pluck {
    Hertz pitch{};        ///< held within kLowest ... kHighest
    double level = 0.25;  ///< peak
    double pan = 0.0;     ///< -1 left ... 1 right, at constant power; in the middle both sides have the level
    Seconds ring{5.0};    ///< until it has lost 60 dB
    Moves moves{};
  };

  /// Allocates.
  void prepare(int sampleRate);

  /// From the next sample on, in place of what sounded.
  void pluck(const Pluck& pluck);
  /// Lets it fade by 60 dB within this time, and end.
  void damp(Seconds within);

  bool sounding() const { return left_ > 0; }
  /// Samples until it is quiet.
  std::int64_t left() const { return left_; }

  /// Adds to the samples, left and right in turn.
  void render(std::span<float> interleaved);

 private:
  static constexpr std::int64_t kStep = 16;  // samples between two looks at the moves

  void strike(double share);
  void followMoves();
  double centsAt(double seconds);
  float next();

  int rate_ = 0;
  Pluck pluck_;
  std::vector<float> line_, burst_;
  std::size_t at_ = 0;                    // where the next sample is written
  double delay_ = 0.0, delayStep_ = 0.0;  // samples, and their change from sample to sample
  float loss_ = 1.0F, before_ = 0.0F;
  float gain_ = 0.0F, fade_ = 1.0F;  // fade: factor of each sample
  float leftGain_ = 1.0F, rightGain_ = 1.0F;
  std::int64_t age_ = 0, left_ = 0;  // samples
  std::size_t move_ = 0;             // the next one to begin
  double from_ = 0.0, now_ = 0.0;    // cents where the move that goes on began, and where it is
  std::size_t burstAt_ = 0, burstLength_ = 0;
  float burstLevel_ = 0.0F;
  std::uint32_t noise_ = 1;
};

}  // namespace ear
