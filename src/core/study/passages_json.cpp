// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/passages_json.h"

namespace ear {
namespace {

using Channel = Isolation::Channel;
using Panned = Isolation::Panned;
using Component = Isolation::Component;

const EnumWords<Channel> kChannels = {{"both", Channel::both},
                                      {"left", Channel::left},
                                      {"right", Channel::right},
                                      {"middle", Channel::middle},
                                      {"sides", Channel::sides}};
const EnumWords<Panned> kPlaces = {{"all", Panned::all}, {"keep", Panned::keep}, {"remove", Panned::remove}};
const EnumWords<Component> kParts = {
    {"all", Component::all}, {"harmonic", Component::harmonic}, {"percussive", Component::percussive}};
const EnumWords<PracticeEntry::Kind> kKinds = {{"ladder", PracticeEntry::Kind::ladder},
                                               {"chain", PracticeEntry::Kind::chain},
                                               {"answer", PracticeEntry::Kind::answer}};

Json isolationToJson(const Isolation& i) {
  return {{"channel", enumName(i.channel, kChannels)},
          {"place", enumName(i.place, kPlaces)},
          {"centre", i.centre},
          {"width", i.width},
          {"part", enumName(i.part, kParts)},
          {"low_cut_hz", i.lowCut.value},
          {"high_cut_hz", i.highCut.value},
          {"focus_hz", i.focus.value},
          {"bass_up", i.bassUp}};
}

Isolation isolationFrom(const Json& json) {
  return {enumFrom(json.at("channel"), kChannels),
          enumFrom(json.at("place"), kPlaces),
          finiteAt(json, "centre"),
          finiteAt(json, "width"),
          enumFrom(json.at("part"), kParts),
          Hertz(finiteAt(json, "low_cut_hz")),
          Hertz(finiteAt(json, "high_cut_hz")),
          Hertz(finiteAt(json, "focus_hz")),
          json.at("bass_up").get<bool>()};
}

}  // namespace

Json passageToJson(const Passage& p) {
  Json json{{"id", p.id}, {"take", p.take}, {"name", p.name}};
  json.update(spanToJson(p.span));
  json.update({{"speed", p.speed}, {"shift_cents", p.shift.value}, {"text", p.text}});
  if (!p.isolation.plain()) json["isolation"] = isolationToJson(p.isolation);
  if (!p.part.empty()) json["part"] = p.part;
  return json;
}

Passage passageFrom(const Json& json) {
  Passage p{json.at("id").get<std::string>(),
            json.at("take").get<std::string>(),
            json.at("name").get<std::string>(),
            spanFrom(json),
            finiteAt(json, "speed"),
            Cents(finiteAt(json, "shift_cents")),
            json.at("text").get<std::string>()};
  if (json.contains("isolation")) p.isolation = isolationFrom(json.at("isolation"));
  p.part = json.value("part", "");
  return p;
}

Json questionToJson(const OpenQuestion& q) {
  Json json{{"id", q.id}, {"take", q.take}};
  json.update(spanToJson(q.span));
  json["text"] = q.text;
  if (!q.readings.empty()) json["readings"] = q.readings;
  if (!q.who.empty()) json["who"] = q.who;
  if (!q.answer.empty()) json["answer"] = q.answer;
  return json;
}

OpenQuestion questionFrom(const Json& json) {
  OpenQuestion q{json.at("id").get<std::string>(), json.at("take").get<std::string>(), spanFrom(json),
                 json.at("text").get<std::string>()};
  if (json.contains("readings"))
    for (const Json& reading : json.at("readings")) q.readings.push_back(reading.get<std::string>());
  q.who = json.value("who", "");
  q.answer = json.value("answer", "");
  return q;
}

Json noteToJson(const LessonNote& n) {
  return {{"take", n.take}, {"time_s", n.time.value}, {"text", n.text}};
}

LessonNote noteFrom(const Json& json) {
  return {json.at("take").get<std::string>(), Seconds(finiteAt(json, "time_s")), json.at("text").get<std::string>()};
}

Json entryToJson(const PracticeEntry& e) {
  Json json{{"when", e.when}, {"take", e.take}, {"kind", enumName(e.kind, kKinds)}};
  json.update(spanToJson(e.span));
  json.update({{"speed", e.speed}, {"times", e.times}});
  if (!e.reached.empty()) json["reached"] = e.reached;
  return json;
}

PracticeEntry entryFrom(const Json& json) {
  return {json.at("when").get<std::string>(),
          json.at("take").get<std::string>(),
          spanFrom(json),
          enumFrom(json.at("kind"), kKinds),
          finiteAt(json, "speed"),
          wholeAt(json, "times"),
          json.value("reached", std::string())};
}

}  // namespace ear
