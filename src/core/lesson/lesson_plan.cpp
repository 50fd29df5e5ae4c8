// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lesson/lesson_plan.h"

#include <algorithm>

#include "core/base/text.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

constexpr double kSlow = 0.6;
constexpr Seconds kMinute{60.0};

/// Puts steps together, with the minutes that each kind usually takes.
class Steps {
 public:
  Steps(int firstId, Seconds take) : id_(firstId), take_(take) {}

  void add(Kind kind, const std::string& about = {}, double speed = 1.0) {
    LessonStep step{id_++, kind, about};
    step.speed = speed;
    step.planned = usual(kind) + (about.empty() && (kind == Kind::playThrough || kind == Kind::whole)
                                      ? Seconds(take_.value / speed)
                                      : Seconds(0));
    step.hand = kind == Kind::numbers || kind == Kind::hardest;
    all_.push_back(step);
  }
  /// A whole repeat of another phrase is heard and joined, nothing more.
  void teach(const LessonItem& item, const Study& study, bool first) {
    const Phrase* phrase = study.phrase(item.id);
    const bool repeat = phrase != nullptr && phrase->link && phrase->link->changed.empty() &&
                        phrase->link->without.empty() && study.phrase(phrase->link->to) != nullptr;
    add(Kind::hear, item.id);
    if (!repeat) {
      if (item.written) add(Kind::numbers, item.id, kSlow);
      add(Kind::slow, item.id, kSlow);
    }
    if (!first) add(Kind::chain, item.id);
    if (!repeat) add(Kind::upToTempo, item.id);
  }
  std::vector<LessonStep> take() && { return std::move(all_); }

 private:
  static Seconds usual(Kind kind) {
    switch (kind) {
      case Kind::playThrough:
      case Kind::whole:
      case Kind::hear:
        return kMinute;
      case Kind::tuning:
      case Kind::numbers:
      case Kind::hardest:
      case Kind::upToTempo:
        return kMinute * 3.0;
      case Kind::slow:
      case Kind::chords:
        return kMinute * 4.0;
      case Kind::chain:
      case Kind::left:
        return kMinute * 2.0;
      case Kind::own:
        return Seconds(0);
    }
    return Seconds(0);
  }

  int id_;
  Seconds take_;
  std::vector<LessonStep> all_;
};

bool hasHardest(const Study& study, const LessonItem& item) {
  const Phrase* phrase = study.phrase(item.id);
  return phrase != nullptr && phrase->levels->front().hardest.has_value();
}

/// Each letter once, with the items that start within a section of it, each where it comes first.
void addSections(Steps& steps, const Study& study, const Form& form, const std::vector<LessonItem>& items) {
  std::set<std::string> taught, letters;
  for (const Section& section : form) {
    if (letters.insert(section.letter).second) steps.add(Kind::chords, section.letter);
    for (const LessonItem& item : items)
      if (section.span.contains(item.span.start) && taught.insert(item.id).second) steps.teach(item, study, true);
  }
  for (const LessonItem& item : items)
    if (taught.insert(item.id).second) steps.teach(item, study, true);
}

std::string kindWords(Kind kind) {
  switch (kind) {
    case Kind::hear:
      return "hear it";
    case Kind::numbers:
      return "strings and frets";
    case Kind::slow:
      return "slowly";
    case Kind::hardest:
      return "the hardest spot";
    case Kind::chain:
      return "joined to what came before";
    case Kind::upToTempo:
      return "up to tempo";
    default:
      return "";
  }
}

const LessonItem* itemOf(const LessonStep& step, std::span<const LessonItem> items) {
  const auto found = std::find_if(items.begin(), items.end(), [&](const LessonItem& i) { return i.id == step.about; });
  return found == items.end() ? nullptr : &*found;
}

std::string itemName(const LessonItem& item) {
  return (item.written ? "Phrase " : "Passage ") +
         (item.number > 0 ? std::to_string(item.number) : "at " + clockTenths(item.span.start)) +
         (item.name.empty() ? "" : " (" + item.name + ")");
}

}  // namespace

std::string lessonOrderName(LessonOrder order) {
  switch (order) {
    case LessonOrder::joined:
      return "Phrase by phrase, joined";
    case LessonOrder::wholeFirst:
      return "Whole slowly, then phrases";
    case LessonOrder::sections:
      return "Section by section";
    case LessonOrder::hardSpots:
      return "Hardest spots alone";
  }
  return "";
}

std::vector<LessonItem> lessonItems(const Study& study, const std::string& take) {
  std::vector<const Phrase*> phrases;
  for (const Phrase& p : study.phrases)
    if (p.take == take) phrases.push_back(&p);
  std::stable_sort(phrases.begin(), phrases.end(), [](const Phrase* a, const Phrase* b) {
    if ((a->number > 0) != (b->number > 0)) return a->number > 0;
    return a->number != b->number ? a->number < b->number : a->span.start < b->span.start;
  });
  std::vector<LessonItem> items;
  for (const Phrase* p : phrases) items.push_back({p->id, 0, p->name, p->span, true});
  if (items.empty()) {
    for (const Passage& p : study.passages)
      if (p.take == take) items.push_back({p.id, 0, p.name, p.span});
    std::stable_sort(items.begin(), items.end(),
                     [](const LessonItem& a, const LessonItem& b) { return a.span.start < b.span.start; });
  }
  const bool chained = std::any_of(phrases.begin(), phrases.end(), [](const Phrase* p) { return p->number > 0; });
  for (std::size_t i = 0; i < items.size(); ++i)
    items[i].number = chained ? phrases[i]->number : static_cast<int>(i) + 1;
  return items;
}

std::vector<LessonStep> lessonSteps(LessonOrder order, const Study& study, const Take& take, const Form& form) {
  const auto items = lessonItems(study, take.id);
  Steps steps(1, take.duration);
  if (order != LessonOrder::hardSpots) steps.add(Kind::playThrough);
  steps.add(Kind::tuning);
  switch (order) {
    case LessonOrder::joined:
      for (const LessonItem& item : items) steps.teach(item, study, &item == &items.front());
      break;
    case LessonOrder::wholeFirst:
      steps.add(Kind::whole, {}, kSlow);
      for (const LessonItem& item : items) {
        if (item.written) steps.add(Kind::numbers, item.id, kSlow);
        steps.add(Kind::upToTempo, item.id);
      }
      break;
    case LessonOrder::sections:
      addSections(steps, study, form, items);
      break;
    case LessonOrder::hardSpots: {
      const bool any =
          std::any_of(items.begin(), items.end(), [&](const LessonItem& i) { return hasHardest(study, i); });
      for (const LessonItem& item : items) {
        if (any && !hasHardest(study, item)) continue;
        steps.add(any ? Kind::hardest : Kind::slow, item.id, kSlow);
        steps.add(Kind::upToTempo, item.id);
      }
    }
  }
  steps.add(Kind::whole);
  steps.add(Kind::left);
  return std::move(steps).take();
}

std::vector<LessonStep> stepsFor(const LessonPlan& plan, const Study& study, const LessonItem& item) {
  Steps steps(freshStepId(plan), {});
  steps.teach(item, study, lessonItems(study, plan.take).front().id == item.id);
  return std::move(steps).take();
}

std::vector<LessonItem> itemsWithoutStep(const LessonPlan& plan, const Study& study) {
  auto items = lessonItems(study, plan.take);
  std::erase_if(items, [&](const LessonItem& item) {
    return std::any_of(plan.steps.begin(), plan.steps.end(), [&](const LessonStep& s) { return s.about == item.id; });
  });
  return items;
}

int freshStepId(const LessonPlan& plan) {
  int id = 1;
  for (const LessonStep& s : plan.steps) id = std::max(id, s.id + 1);
  return id;
}

std::string stepTitle(const LessonStep& step, std::span<const LessonItem> items) {
  switch (step.kind) {
    case Kind::playThrough:
      return "Play it through";
    case Kind::tuning:
      return "Tune up";
    case Kind::chords:
      return "Chords of " + step.about;
    case Kind::whole:
      return step.speed < 1.0 ? "The whole, slowly" : "The whole";
    case Kind::left:
      return "What is left";
    case Kind::own:
      return step.words.empty() ? "A step of your own" : step.words;
    default:
      break;
  }
  const LessonItem* item = itemOf(step, items);
  if (item == nullptr) return "A phrase that is no longer there: " + kindWords(step.kind);
  if (step.kind == Kind::chain && item->number > 1)
    return (item->written ? "Phrases 1 to " : "Passages 1 to ") + std::to_string(item->number) + " joined";
  return itemName(*item) + ": " + kindWords(step.kind);
}

std::string stepRow(const LessonStep& step, std::span<const LessonItem> items) {
  const LessonItem* item = itemOf(step, items);
  if (item == nullptr || item->number == 0) return stepTitle(step, items);
  const std::string number = std::to_string(item->number);
  if (step.kind == Kind::chain && item->number > 1) return "1 to " + number + "  joined";
  return number + "  " + kindWords(step.kind) + (item->name.empty() ? "" : " (" + item->name + ")");
}

std::vector<LessonItem> chainedBy(const LessonStep& step, std::span<const LessonItem> items) {
  const LessonItem* last = itemOf(step, items);
  if (last == nullptr) return {};
  return {items.data(), last + 1};
}

std::vector<std::string> whatIsLeft(const LessonPlan& plan, const Study& study, const std::set<int>& done) {
  const auto items = lessonItems(study, plan.take);
  std::vector<std::string> left;
  std::vector<std::string> taken;  // ids of items that have their line
  for (const LessonStep& step : plan.steps) {
    if (done.contains(step.id) || step.kind == Kind::left) continue;
    const LessonItem* item = itemOf(step, items);
    if (item == nullptr) {
      // What is about a phrase that is gone is no work that is left.
      if (step.about.empty() || step.kind == Kind::chords) left.push_back(stepTitle(step, items));
      continue;
    }
    if (std::find(taken.begin(), taken.end(), item->id) != taken.end()) continue;
    taken.push_back(item->id);
    std::vector<std::string> open;
    bool all = true;
    for (const LessonStep& s : plan.steps) {
      if (s.about != item->id) continue;
      if (done.contains(s.id))
        all = false;
      else
        open.push_back(kindWords(s.kind));
    }
    left.push_back(itemName(*item) + (all ? "" : ": " + joined(open, ", ")));
  }
  for (const OpenQuestion& q : study.questions)
    if (q.take == plan.take && q.answer.empty()) left.push_back("Open at " + clockTenths(q.span.start) + ": " + q.text);
  return left;
}

LessonPace paceOf(const LessonPlan& plan, int step, Seconds elapsed) {
  LessonPace pace{};
  Seconds begins{}, ends{};
  for (const LessonStep& s : plan.steps) {
    if (s.id == step) begins = pace.planned, ends = pace.planned + s.planned;
    pace.planned += s.planned;
  }
  if (elapsed > ends)
    pace.behind = elapsed - ends;
  else if (elapsed < begins)
    pace.behind = elapsed - begins;
  return pace;
}

}  // namespace ear
