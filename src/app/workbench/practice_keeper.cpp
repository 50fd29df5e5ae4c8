// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/practice_keeper.h"

#include <QDateTime>
#include <QSettings>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/study/grid.h"

namespace ear {

PracticeKeeper::PracticeKeeper(Workbench& bench) : QObject(&bench), bench_(bench) {
  const QSettings stored;
  LadderPlan& plan = settings_.ladder;
  plan.from = stored.value("practice/from", plan.from).toDouble();
  plan.to = stored.value("practice/to", plan.to).toDouble();
  plan.step = stored.value("practice/step", plan.step).toDouble();
  plan.clean = stored.value("practice/clean", plan.clean).toInt();
  plan.byKey = stored.value("practice/by-key", plan.byKey).toBool();
  settings_.times = stored.value("practice/times", settings_.times).toInt();
  settings_.breathBeats = stored.value("practice/breath", settings_.breathBeats).toDouble();
  settings_.countBar = stored.value("practice/count", settings_.countBar).toBool();
  connect(&bench.transport(), &Transport::positionChanged, this, &PracticeKeeper::follow);
  connect(&bench.transport(), &Transport::changed, this, &PracticeKeeper::watch);
  connect(&bench.selection(), &Selection::changed, this, &PracticeKeeper::watch);
  // What was practised is written down where it was practised.
  connect(&bench.session(), &Session::studyLeaving, this, &PracticeKeeper::stop);
  connect(&bench.session(), &Session::takeLeaving, this, &PracticeKeeper::stop);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &PracticeKeeper::stop);
}

void PracticeKeeper::setSettings(const Settings& settings) {
  settings_ = settings;
  QSettings stored;
  stored.setValue("practice/from", settings.ladder.from);
  stored.setValue("practice/to", settings.ladder.to);
  stored.setValue("practice/step", settings.ladder.step);
  stored.setValue("practice/clean", settings.ladder.clean);
  stored.setValue("practice/by-key", settings.ladder.byKey);
  stored.setValue("practice/times", settings.times);
  stored.setValue("practice/breath", settings.breathBeats);
  stored.setValue("practice/count", settings.countBar);
  emit changed();
}

/// The silence and the count behind a time of playing, at the tempo of its end.
Breath PracticeKeeper::breathAfter(Seconds end) const {
  constexpr Seconds kUnknown{0.6};  // a beat where none are known
  const Grid& grid = bench_.time().grid();
  Seconds beat = kUnknown;
  if (grid.size() >= 2) {
    const auto after = std::find_if(grid.begin() + 1, grid.end() - 1, [&](const Beat& b) { return b.time >= end; });
    beat = after->time - std::prev(after)->time;
  }
  Breath breath{beat * settings_.breathBeats, 0, beat};
  if (settings_.countBar) breath.clicks = grid.empty() ? 4 : meterOf(grid);
  breath.silence += beat * breath.clicks;
  return breath;
}

void PracticeKeeper::start(Kind kind, std::vector<Segment> turns, TimeSpan span) {
  stop();
  kind_ = kind;
  turns_ = std::move(turns);
  span_ = span;
  begun_ = settings_;
  clean_ = cleanAll_ = 0;
  turn_ = furthest_ = 0;
  played_ = 0;
  bench_.transport().mixer().setSequence(turns_);
  bench_.transport().seek(turns_.front().span.start);
  follow();
  if (!bench_.transport().playing()) bench_.transport().togglePlay();
  emit changed();
}

void PracticeKeeper::startLadder() {
  const auto passage = bench_.selection().passage();
  if (!bench_.transport().hasSound() || !passage) {
    bench_.say(tr("A ladder needs a passage: drag one, or press O to loop the bar at the playhead."));
    return;
  }
  start(Kind::ladder, ladder(*passage, settings_.ladder, breathAfter(passage->end)), *passage);
}

void PracticeKeeper::startChain(std::vector<TimeSpan> phrases, bool lastLink) {
  if (!bench_.transport().hasSound() || phrases.size() < 2) {
    bench_.say(tr("A chain needs two phrases or more: keep them with K, and mark them in the list."));
    return;
  }
  TimeSpan all = phrases.front();
  for (const TimeSpan& p : phrases) all = {std::min(all.start, p.start), std::max(all.end, p.end)};
  Chain made = chain(phrases, settings_.times, breathAfter(phrases.back().end));
  if (lastLink) {
    const auto first = std::find(made.linkOf.begin(), made.linkOf.end(), made.links.size() - 1) - made.linkOf.begin();
    made.turns.erase(made.turns.begin(), made.turns.begin() + first);
    made.linkOf.assign(made.turns.size(), 0);
    made.links = {made.links.back()};
  }
  if (made.turns.size() > Sequence::kMostSegments) {
    bench_.say(tr("That chain is too long: take fewer phrases, or play each link less often."));
    return;
  }
  auto turns = made.turns;
  start(Kind::chain, std::move(turns), all);
  chain_ = std::move(made);
  emit changed();
}

void PracticeKeeper::startAnswer() {
  const auto passage = bench_.selection().passage();
  if (!bench_.transport().hasSound() || !passage) {
    bench_.say(tr("Call and answer needs a passage: drag one, or press O to loop the bar at the playhead."));
    return;
  }
  start(Kind::answer, callAndAnswer(*passage, breathAfter(passage->end)), *passage);
}

PracticeKeeper::State PracticeKeeper::state() const {
  State s;
  if (!kind_) return s;
  const Player::Whereabouts place = bench_.transport().player().place();
  s.resting = place.resting;
  switch (*kind_) {
    case Kind::ladder:
      s.step = static_cast<int>(place.turn) + 1;
      s.steps = static_cast<int>(turns_.size());
      s.done = begun_.ladder.byKey ? clean_ : place.repeat;
      s.wanted = place.turn + 1 == turns_.size() ? 0 : begun_.ladder.clean;
      s.name = percent(turns_[place.turn].speed);
      break;
    case Kind::chain: {
      if (chain_.linkOf.empty()) break;
      const std::size_t link = chain_.linkOf[place.turn];
      s.step = static_cast<int>(link) + 1;
      s.steps = static_cast<int>(chain_.links.size());
      const auto first = std::find(chain_.linkOf.begin(), chain_.linkOf.end(), link) - chain_.linkOf.begin();
      const auto size = std::count(chain_.linkOf.begin(), chain_.linkOf.end(), link) / std::max(1, begun_.times);
      s.done = static_cast<int>((static_cast<std::ptrdiff_t>(place.turn) - first) / std::max<std::ptrdiff_t>(1, size));
      s.wanted = begun_.times;
      s.name = text(chain_.links[link]);
      break;
    }
    case Kind::answer:
      s.step = s.steps = 1;
      s.done = static_cast<int>(place.played);
      s.name = place.resting ? tr("your turn") : tr("listen");
  }
  return s;
}

void PracticeKeeper::clean() {
  if (kind_ != Kind::ladder || !begun_.ladder.byKey) {
    bench_.say(tr("“That was clean” is counted in a ladder that goes on by key."));
    return;
  }
  ++cleanAll_;
  if (++clean_ >= begun_.ladder.clean) bench_.transport().player().advance();
  emit changed();
}

/// Keeps up with the player.
void PracticeKeeper::follow() {
  if (!kind_) return;
  const Player::Whereabouts place = bench_.transport().player().place();
  if (place.turn != turn_) {
    turn_ = place.turn;
    clean_ = 0;
    furthest_ = std::max(furthest_, turn_);
  }
  // The deck shows the speed of the rung, and keeps it when the ladder ends.
  if (kind_ == Kind::ladder && bench_.transport().sounding().speed != turns_[turn_].speed) {
    setting_ = true;
    bench_.transport().setSpeed(turns_[turn_].speed);
    setting_ = false;
  }
  if (place.played != played_ || place.resting != resting_) {
    played_ = place.played;
    resting_ = place.resting;
    emit changed();
  }
}

/// Who changes the passage, or the speed of a ladder, wants something else.
void PracticeKeeper::watch() {
  if (!kind_ || setting_) return;
  const bool moved = kind_ != Kind::chain && bench_.selection().passage() != span_;
  const bool otherSpeed = kind_ == Kind::ladder && bench_.transport().sounding().speed != turns_[turn_].speed;
  if (moved || otherSpeed) stop();
}

void PracticeKeeper::stop() {
  if (!kind_) return;
  const Kind was = *std::exchange(kind_, std::nullopt);
  const Player::Whereabouts place = bench_.transport().player().place();
  bench_.transport().mixer().setSequence({});
  const int times = was == Kind::ladder && begun_.ladder.byKey ? cleanAll_ : static_cast<int>(place.played);
  if (bench_.take() != nullptr && times > 0) {
    PracticeEntry entry{QDateTime::currentDateTime().toString(Qt::ISODate).toStdString(),
                        bench_.take()->id,
                        span_,
                        was,
                        was == Kind::ladder ? turns_[std::min(furthest_, turns_.size() - 1)].speed
                                            : bench_.transport().sounding().speed,
                        times};
    if (was == Kind::chain && !chain_.links.empty()) entry.reached = chain_.links[chain_.linkOf[furthest_]];
    bench_.document().record([&](Study& s) { s.log.change().push_back(entry); });
  }
  chain_ = {};
  emit changed();
}

}  // namespace ear
