// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/lesson_json.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

const EnumWords<Kind> kKinds = {
    {"play-through", Kind::playThrough}, {"tuning", Kind::tuning}, {"chords", Kind::chords},   {"hear", Kind::hear},
    {"numbers", Kind::numbers},          {"slow", Kind::slow},     {"hardest", Kind::hardest}, {"chain", Kind::chain},
    {"up-to-tempo", Kind::upToTempo},    {"whole", Kind::whole},   {"left", Kind::left},       {"own", Kind::own}};

Json stepToJson(const LessonStep& s) {
  Json json{{"id", s.id}, {"kind", enumName(s.kind, kKinds)}};
  if (!s.about.empty()) json["about"] = s.about;
  if (!s.words.empty()) json["words"] = s.words;
  if (s.planned > Seconds(0)) json["planned_s"] = s.planned.value;
  if (s.speed != 1.0) json["speed"] = s.speed;
  if (s.beginners) json["beginners"] = true;
  if (s.hand) json["hand"] = true;
  return json;
}

LessonStep stepFrom(const Json& json) {
  LessonStep s{wholeAt(json, "id"), enumFrom(json.at("kind"), kKinds), json.value("about", ""),
               json.value("words", "")};
  if (json.contains("planned_s")) s.planned = Seconds(finiteAt(json, "planned_s"));
  if (json.contains("speed")) s.speed = finiteAt(json, "speed");
  s.beginners = json.value("beginners", false);
  s.hand = json.value("hand", false);
  return s;
}

}  // namespace

Json planToJson(const LessonPlan& plan) {
  Json json{{"take", plan.take}, {"target_s", plan.target.value}, {"steps", Json::array()}};
  if (!plan.level.empty()) json["level"] = plan.level;
  for (const LessonStep& s : plan.steps) json["steps"].push_back(stepToJson(s));
  return json;
}

LessonPlan planFrom(const Json& json) {
  LessonPlan plan{json.at("take").get<std::string>(), {}, Seconds(finiteAt(json, "target_s")), json.value("level", "")};
  for (const Json& s : json.at("steps")) plan.steps.push_back(stepFrom(s));
  return plan;
}

Json givenToJson(const LessonGiven& given) {
  Json json{{"when", given.when}, {"take", given.take}, {"lasted_s", given.lasted.value}};
  if (!given.left.empty()) json["left"] = given.left;
  return json;
}

LessonGiven givenFrom(const Json& json) {
  LessonGiven given{json.at("when").get<std::string>(), json.at("take").get<std::string>(),
                    Seconds(finiteAt(json, "lasted_s"))};
  if (json.contains("left"))
    for (const Json& words : json.at("left")) given.left.push_back(words.get<std::string>());
  return given;
}

}  // namespace ear
