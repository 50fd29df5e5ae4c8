// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/attack_marks.h"

#include <QPainter>
#include <cmath>

#include "app/theme/theme.h"
#include "core/listening/frontend/onsets.h"

namespace ear {
namespace {

constexpr Seconds kChunk{10.0};    // measured at once
constexpr Seconds kWidest{40.0};   // of a window: in a wider one they would stand too close
constexpr std::size_t kMost = 60;  // chunks kept

}  // namespace

AttackMarks::AttackMarks(Workbench& bench, QObject* parent) : QObject(parent), bench_(bench) {
  connect(&job_, &BackgroundJob::failed, &bench.session(), &Session::said);
  connect(&job_, &BackgroundJob::finished, this, &AttackMarks::changed);
  connect(&bench.analysis(), &Analysis::soundChanged, this, [this] {
    job_.cancel();
    known_.clear();
  });
}

void AttackMarks::measure(int chunk) {
  job_.run([this, chunk, recording = bench_.transport().player().shared()](const Progress&,
                                                                           const BackgroundJob::Post& post) {
    const TimeSpan span{kChunk * chunk, kChunk * (chunk + 1)};
    post([this, chunk, attacks = attacksIn(*recording, span)] {
      if (known_.size() >= kMost) known_.clear();
      known_[chunk] = attacks;
    });
  });
}

std::vector<Seconds> AttackMarks::in(TimeSpan span) const {
  std::vector<Seconds> found;
  for (const auto& [chunk, attacks] : known_)
    for (const Seconds at : attacks)
      if (span.contains(at)) found.push_back(at);
  return found;
}

void AttackMarks::paint(QPainter& p, const LaneView& view) {
  if (!bench_.transport().hasSound() || view.window.length() > kWidest || view.window.length() <= Seconds(0)) return;
  const auto first = static_cast<int>(std::floor(view.window.start / kChunk));
  const auto last = static_cast<int>(std::floor(view.window.end / kChunk));
  for (int chunk = first; chunk <= last && !job_.running(); ++chunk)
    if (!known_.contains(chunk)) measure(chunk);
  p.setPen(Qt::NoPen);
  p.setBrush(Theme::current().softInk);
  for (const Seconds at : in(view.window)) {
    const double x = view.xOf(at), y = view.area.bottom() - 1;
    p.drawPolygon(QPolygonF({{x - 2.5, y}, {x + 2.5, y}, {x, y - 5}}));
  }
}

}  // namespace ear
