// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/lesson_keeper.h"

#include <QDateTime>
#include <algorithm>
#include <chrono>

#include "app/workbench/workbench.h"
#include "core/study/tune_up.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

auto findStep(const LessonPlan& plan, int id) {
  return std::find_if(plan.steps.begin(), plan.steps.end(), [&](const LessonStep& s) { return s.id == id; });
}

}  // namespace

LessonKeeper::LessonKeeper(Workbench& bench) : QObject(&bench), bench_(bench) {
  clock = [] {
    return Seconds(std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count());
  };
  connect(&bench.session(), &Session::studyLeaving, this, &LessonKeeper::end);
  connect(&bench.session(), &Session::takeLeaving, this, &LessonKeeper::end);
  bench.session().whenChanged(kOfBrief | Changed::plans | Changed::phrases | Changed::passages | Changed::questions |
                                  Changed::chords | Changed::log,
                              this, [this] { emit changed(); });
  connect(&bench.transport(), &Transport::changed, this, &LessonKeeper::changed);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &LessonKeeper::changed);
}

const LessonPlan* LessonKeeper::plan() const {
  return bench_.take() == nullptr ? nullptr : bench_.document().study().plan(bench_.take()->id);
}

std::vector<LessonItem> LessonKeeper::items() const {
  return bench_.take() == nullptr ? std::vector<LessonItem>()
                                  : lessonItems(bench_.document().study(), bench_.take()->id);
}

void LessonKeeper::make(LessonOrder order) {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  LessonPlan fresh = plan() != nullptr ? *plan() : LessonPlan{take->id, {}};
  const auto& form = bench_.brief().form;
  fresh.steps = lessonSteps(order, bench_.document().study(), *take, form ? form->value : Form{});
  change(tr("Plan of the lesson"), [&](LessonPlan& p) { p = fresh; });
  done_.clear();  // of steps that are gone; the clock goes on
  inHand_ = 0;
  emit changed();
}

void LessonKeeper::change(const QString& label, const std::function<void(LessonPlan&)>& change,
                          const std::string& merge) {
  if (bench_.take() == nullptr) return;
  bench_.document().edit(
      label.toStdString(),
      [&, take = bench_.take()->id](Study& s) {
        for (std::size_t i = 0; i < s.plans.size(); ++i)
          if (s.plans[i].take == take) return change(s.plans.change(i));
        LessonPlan fresh{take, {}};
        change(fresh);
        s.plans.push_back(std::move(fresh));
      },
      merge);
}

void LessonKeeper::changeStep(const QString& label, const std::function<void(LessonStep&)>& changeIt,
                              const std::string& merge) {
  const LessonStep* now = step();
  if (now == nullptr) return;
  change(
      label,
      [&, id = now->id](LessonPlan& p) {
        for (LessonStep& s : p.steps)
          if (s.id == id) changeIt(s);
      },
      merge.empty() ? merge : merge + std::to_string(now->id));
}

void LessonKeeper::add(Kind kind, const std::string& about) {
  const int after = step() != nullptr ? step()->id : 0;
  int id = 0;
  change(tr("Add a step"), [&](LessonPlan& p) {
    const auto at = findStep(p, after);
    id = freshStepId(p);
    p.steps.insert(at == p.steps.end() ? at : std::next(at), LessonStep{id, kind, about});
  });
  goTo(id);
}

void LessonKeeper::addMissing() {
  if (plan() == nullptr) return;
  change(tr("Steps for what is new"), [&](LessonPlan& p) {
    for (const LessonItem& item : itemsWithoutStep(p, bench_.document().study())) {
      const auto more = stepsFor(p, bench_.document().study(), item);
      // Before what closes a lesson.
      auto at = p.steps.end();
      while (at != p.steps.begin() && (std::prev(at)->kind == Kind::whole || std::prev(at)->kind == Kind::left)) --at;
      p.steps.insert(at, more.begin(), more.end());
    }
  });
}

void LessonKeeper::removeStep() {
  const LessonStep* now = step();
  if (now == nullptr) return;
  const LessonStep* after = next();
  const int then = after != nullptr ? after->id : 0;
  change(tr("Remove a step"),
         [id = now->id](LessonPlan& p) { std::erase_if(p.steps, [&](const LessonStep& s) { return s.id == id; }); });
  inHand_ = then;
  emit changed();
}

void LessonKeeper::moveStep(int by) {
  const LessonStep* now = step();
  if (now == nullptr) return;
  change(tr("Move a step"), [id = now->id, by](LessonPlan& p) {
    const auto from = std::find_if(p.steps.begin(), p.steps.end(), [&](const LessonStep& s) { return s.id == id; });
    const auto to = (from - p.steps.begin()) + by;
    if (to < 0 || to >= static_cast<std::ptrdiff_t>(p.steps.size())) return;
    std::iter_swap(from, p.steps.begin() + to);
  });
}

void LessonKeeper::reorder(const std::vector<int>& ids) {
  change(tr("Move a step"), [&](LessonPlan& p) {
    const auto place = [&](const LessonStep& s) { return std::find(ids.begin(), ids.end(), s.id); };
    std::stable_sort(p.steps.begin(), p.steps.end(),
                     [&](const LessonStep& a, const LessonStep& b) { return place(a) < place(b); });
  });
}

const LessonStep* LessonKeeper::step() const {
  const LessonPlan* p = plan();
  if (p == nullptr || p->steps.empty()) return nullptr;
  const auto found = findStep(*p, inHand_);
  return found == p->steps.end() ? &p->steps.front() : &*found;
}

const LessonStep* LessonKeeper::next() const {
  const LessonStep* now = step();
  return now == nullptr || now == &plan()->steps.back() ? nullptr : now + 1;
}

std::optional<TimeSpan> LessonKeeper::spanOf(const LessonStep& s) const {
  const Study& study = bench_.document().study();
  if (s.about.empty()) return std::nullopt;
  if (s.kind == Kind::chords) {
    if (bench_.brief().form)
      for (const Section& section : bench_.brief().form->value)
        if (section.letter == s.about) return section.span;
    return std::nullopt;
  }
  if (s.kind == Kind::chain) {
    const auto all = items();
    const auto chained = chainedBy(s, all);
    if (chained.empty()) return std::nullopt;
    TimeSpan span = chained.front().span;
    for (const LessonItem& i : chained) span = {std::min(span.start, i.span.start), std::max(span.end, i.span.end)};
    return span;
  }
  if (const Phrase* phrase = study.phrase(s.about)) {
    const auto& hardest = phrase->levels->front().hardest;
    if (s.kind == Kind::hardest && hardest)
      return TimeSpan{bench_.phrases().timeOf(*phrase, hardest->first),
                      bench_.phrases().timeOf(*phrase, hardest->second)};
    return phrase->span;
  }
  if (const Passage* passage = study.passage(s.about)) return passage->span;
  return std::nullopt;
}

void LessonKeeper::enter() {
  desk_ = Desk{bench_.selection().passage(), bench_.selection().keptId(), bench_.transport().sounding().speed};
  step() != nullptr ? goTo(step()->id) : changed();
}

bool LessonKeeper::sounding() const {
  return bench_.practice().running() || bench_.transport().playing();
}

void LessonKeeper::stopSound() {
  bench_.practice().stop();
  if (bench_.transport().playing()) bench_.transport().togglePlay();
}

/// The desk as the step wants it, so that the other keys work on the right passage too.
void LessonKeeper::prepare(const LessonStep& s) {
  const auto span = spanOf(s);
  if (const Phrase* phrase = bench_.document().study().phrase(s.about); phrase != nullptr && !phrase->part.empty())
    bench_.document().takeInHand(phrase->part);
  if (span)
    bench_.selection().put(*span);
  else
    bench_.selection().set(std::nullopt);
  bench_.selection().setLooping(true);
  bench_.transport().setSpeed(s.speed);
  bench_.transport().seek(span ? span->start : Seconds(0));
}

void LessonKeeper::goTo(int id) {
  const LessonPlan* p = plan();
  if (p == nullptr || findStep(*p, id) == p->steps.end()) return;
  stopSound();
  inHand_ = id;
  string_.reset();
  prepare(*step());
  emit changed();
}

void LessonKeeper::stepBy(int by) {
  const LessonStep* now = step();
  if (now == nullptr) return;
  const LessonPlan& p = *plan();
  if (by > 0) setDone(now->id, true);
  const auto to = (now - p.steps.data()) + by;
  if (to >= 0 && to < static_cast<std::ptrdiff_t>(p.steps.size()))
    goTo(p.steps[static_cast<std::size_t>(to)].id);
  else if (by > 0)
    stopSound();
}

void LessonKeeper::setDone(int id, bool done) {
  if (!begun_) {
    begun_ = clock();
    beganAt_ = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
  }
  done ? void(done_.insert(id)) : void(done_.erase(id));
  emit changed();
}

void LessonKeeper::go() {
  const LessonStep* now = step();
  if (now == nullptr) return;
  if (!begun_) setDone(now->id, false);  // the clock starts
  if (sounding()) return stopSound();
  if (now->kind == Kind::tuning) return soundNextString();
  if (now->kind == Kind::left || now->kind == Kind::own) {
    bench_.say(tr("This step has nothing to play: Page Down goes on."));
    return;
  }
  if (!bench_.transport().hasSound()) {
    bench_.say(tr("The recording of this take is not here, so that nothing can be played."));
    return;
  }
  prepare(*now);
  if (now->kind == Kind::chain) {
    std::vector<TimeSpan> spans;
    const auto all = items();
    for (const LessonItem& i : chainedBy(*now, all)) spans.push_back(i.span);
    if (spans.size() > 1) return bench_.practice().startChain(spans, true);
  }
  if (now->kind == Kind::upToTempo && bench_.selection().passage()) return bench_.practice().startLadder();
  bench_.transport().togglePlay();
}

/// Tones of the strings as they are to be tuned for what sounds now, from the lowest. What is not settled tunes nobody.
void LessonKeeper::soundNextString() {
  const auto& guitar = bench_.brief().guitar;
  if (!isSettled(guitar)) {
    bench_.say(tr("How this guitar is tuned is open: settle it on the desk with Shift+G before anybody tunes by it."));
    return;
  }
  const FittingGuitar target = fitting(guitar->value, bench_.document().offset(), bench_.transport().sounding().shift);
  const auto strings = tuneUp(target.setup, target.offset);
  string_ = string_ ? (*string_ + 1) % static_cast<int>(strings.size()) : 0;
  bench_.voice().pitch(strings[static_cast<std::size_t>(*string_)].pitch);
  emit changed();
}

Seconds LessonKeeper::elapsed() const {
  return begun_ ? clock() - *begun_ : Seconds(0);
}

std::vector<std::string> LessonKeeper::left() const {
  return plan() == nullptr ? std::vector<std::string>() : whatIsLeft(*plan(), bench_.document().study(), done_);
}

void LessonKeeper::end() {
  if (begun_ && !done_.empty() && bench_.take() != nullptr) {
    const LessonGiven given{beganAt_, bench_.take()->id, elapsed(), left()};
    bench_.document().record([&](Study& s) { s.lessons.change().push_back(given); });
  }
  begun_.reset();
  done_.clear();
  string_.reset();
  // The desk is found as it was left.
  if (const auto desk = std::exchange(desk_, std::nullopt); desk && bench_.take() != nullptr) {
    stopSound();
    if (desk->kept.empty())
      bench_.selection().set(desk->passage);
    else
      bench_.selection().open(desk->kept);
    bench_.transport().setSpeed(desk->speed);
  }
  emit changed();
}

const LessonGiven* LessonKeeper::last() const {
  if (bench_.take() == nullptr) return nullptr;
  const auto& given = *bench_.document().study().lessons;
  const auto found =
      std::find_if(given.rbegin(), given.rend(), [&](const LessonGiven& g) { return g.take == bench_.take()->id; });
  return found == given.rend() ? nullptr : &*found;
}

}  // namespace ear
