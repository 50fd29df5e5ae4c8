// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/study.h"

#include <algorithm>

namespace ear {
namespace {

template <class T>
const T* findById(const Pieces<T>& list, const std::string& id) {
  const auto found = std::find_if(list.begin(), list.end(), [&](const T& item) { return item.id == id; });
  return found == list.end() ? nullptr : &*found;
}

template <class T>
T* changeById(Pieces<T>& list, const std::string& id) {
  for (std::size_t i = 0; i < list.size(); ++i)
    if (list[i].id == id) return &list.change(i);
  return nullptr;
}

}  // namespace

const Take* Study::take(const std::string& id) const {
  return findById(takes, id);
}
Take* Study::take(const std::string& id) {
  return changeById(takes, id);
}
GuitarPart* Study::part(const std::string& id) {
  return changeById(parts, id);
}
const Passage* Study::passage(const std::string& id) const {
  return findById(passages, id);
}
Passage* Study::passage(const std::string& id) {
  return changeById(passages, id);
}
const Phrase* Study::phrase(const std::string& id) const {
  return findById(phrases, id);
}
Phrase* Study::phrase(const std::string& id) {
  return changeById(phrases, id);
}
const LessonPlan* Study::plan(const std::string& id) const {
  const auto found = std::find_if(plans.begin(), plans.end(), [&](const LessonPlan& p) { return p.take == id; });
  return found == plans.end() ? nullptr : &*found;
}

std::string freshId(const Study& study, const std::string& prefix) {
  for (int n = 1;; ++n) {
    std::string id = prefix + std::to_string(n);
    if (findById(study.takes, id) == nullptr && findById(study.parts, id) == nullptr &&
        findById(study.passages, id) == nullptr && findById(study.phrases, id) == nullptr &&
        findById(study.questions, id) == nullptr)
      return id;
  }
}

std::string_view certaintyWord(double certainty) {
  if (certainty >= kSure) return "sure";
  if (certainty >= kLikely) return "likely";
  return "guess";
}

}  // namespace ear
