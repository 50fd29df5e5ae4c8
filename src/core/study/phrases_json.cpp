// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/phrases_json.h"

#include <charconv>

namespace ear {
namespace {

const EnumWords<Origin> kOrigins = {
    {"set", Origin::set}, {"measured", Origin::measured}, {"confirmed", Origin::confirmed}};
const EnumWords<Finger> kFingers = {{"", Finger::unsaid}, {"1", Finger::first},  {"2", Finger::second},
                                    {"3", Finger::third}, {"4", Finger::fourth}, {"T", Finger::thumb}};
const EnumWords<Picking> kPickings = {{"", Picking::unsaid}, {"down", Picking::down},     {"up", Picking::up},
                                      {"p", Picking::thumb}, {"i", Picking::index},       {"m", Picking::middle},
                                      {"a", Picking::ring},  {"hybrid", Picking::hybrid}, {"slap", Picking::slap}};
const EnumWords<Attack> kAttacks = {{"plucked", Attack::plucked},
                                    {"hammered", Attack::hammeredOn},
                                    {"pulled", Attack::pulledOff},
                                    {"slid", Attack::slidInto},
                                    {"slid-from-below", Attack::slidFromBelow},
                                    {"slid-from-above", Attack::slidFromAbove},
                                    {"tapped", Attack::tapped},
                                    {"raked", Attack::raked}};
const EnumWords<Ending> kEndings = {{"plain", Ending::plain},        {"slid-up", Ending::slidUp},
                                    {"slid-down", Ending::slidDown}, {"pulled", Ending::pulledOff},
                                    {"choked", Ending::choked},      {"faded", Ending::faded}};
const EnumWords<Tone> kTones = {{"full", Tone::full}, {"ghost", Tone::ghost}, {"dead", Tone::dead}};
const EnumWords<Vibrato::Kind> kVibratos = {
    {"finger", Vibrato::Kind::finger}, {"wide", Vibrato::Kind::wide}, {"bar", Vibrato::Kind::bar}};
const EnumWords<PlayedHarmonic::Kind> kHarmonics = {{"natural", PlayedHarmonic::Kind::natural},
                                                    {"pinch", PlayedHarmonic::Kind::pinch},
                                                    {"tapped", PlayedHarmonic::Kind::tapped}};
const EnumWords<SlideBar> kBars = {{"", SlideBar::none}, {"at-fret", SlideBar::atFret}, {"lifted", SlideBar::lifted}};
const EnumWords<Faith> kFaiths = {
    {"as-recorded", Faith::asRecorded}, {"arranged", Faith::arranged}, {"in-the-style", Faith::inTheStyle}};
const EnumWords<OpenStretch::Kind> kOpen = {{"unclear", OpenStretch::Kind::unclear},
                                            {"free-fill", OpenStretch::Kind::freeFill}};

/// Whole numbers of beats as numbers, others as text: 3, "3/2".
Json beatsToJson(Beats b) {
  return b.bottom() == 1 ? Json(b.top()) : Json(b.text());
}

Beats beatsFrom(const Json& json) {
  if (json.is_number()) return whole(json);
  const auto text = json.get<std::string>();
  const auto* end = text.data() + text.size();
  std::int64_t top = 0, bottom = 0;
  const auto slash = std::from_chars(text.data(), end, top);
  require(slash.ec == std::errc() && slash.ptr != end && *slash.ptr == '/', "a place in beats that is none");
  const auto last = std::from_chars(slash.ptr + 1, end, bottom);
  require(last.ec == std::errc() && last.ptr == end && bottom > 0, "a place in beats that is none");
  require(bottom <= Rational::kFinest && top / bottom < Rational::kGreatest && top / bottom > -Rational::kGreatest,
          "a place in beats that is out of range");
  return {top, bottom};
}

template <class Enum>
void put(Json& json, const char* key, Enum value, const EnumWords<Enum>& words) {
  if (value != words.front().second) json[key] = enumName(value, words);
}

template <class Enum>
Enum get(const Json& json, const char* key, const EnumWords<Enum>& words) {
  return json.contains(key) ? enumFrom(json.at(key), words) : words.front().second;
}

void put(Json& json, const char* key, bool value) {
  if (value) json[key] = true;
}

void put(Json& json, const char* key, const std::string& text) {
  if (!text.empty()) json[key] = text;
}

void put(Json& json, const char* key, Size size) {
  if (size) json[key] = size->value;
}

Size sizeFrom(const Json& json, const char* key) {
  return json.contains(key) ? Size(Cents(finiteAt(json, key))) : std::nullopt;
}

void put(Json& json, const char* key, std::optional<Hertz> rate) {
  if (rate) json[key] = rate->value;
}

std::optional<Hertz> rateFrom(const Json& json, const char* key) {
  return json.contains(key) ? std::optional(Hertz(finiteAt(json, key))) : std::nullopt;
}

int wholeOr(const Json& json, const char* key, int usual) {
  return json.contains(key) ? wholeAt(json, key) : usual;
}

Json bendToJson(const Bend& bend) {
  Json json = Json::object();
  put(json, "cents", bend.size);
  put(json, "before", bend.before), put(json, "released", bend.released);
  if (bend.again > 0) json["again"] = bend.again;
  return json;
}

Bend bendFrom(const Json& json) {
  return {sizeFrom(json, "cents"), json.value("before", false), json.value("released", false),
          wholeOr(json, "again", 0)};
}

Json readingToJson(const NoteReading& r) {
  Json json{{"at", beatsToJson(r.at)},
            {"length", beatsToJson(r.length)},
            {"string", r.place.string},
            {"fret", r.place.fret},
            {"certainty", r.certainty}};
  if (r.bend) json["bend"] = bendToJson(*r.bend);
  put(json, "why", r.why);
  return json;
}

NoteReading readingFrom(const Json& json) {
  NoteReading r{
      beatsFrom(json.at("at")),    beatsFrom(json.at("length")), {wholeAt(json, "string"), wholeAt(json, "fret")}, {},
      finiteAt(json, "certainty"), json.value("why", "")};
  if (json.contains("bend")) r.bend = bendFrom(json.at("bend"));
  return r;
}

/// What a note does, all but its place in time and on the neck.
void putGestures(Json& json, const Note& n) {
  put(json, "attack", n.attack, kAttacks);
  if (n.slidFrom) json["from"] = *n.slidFrom;
  put(json, "tone", n.tone, kTones);
  if (n.bend) json["bend"] = bendToJson(*n.bend);
  if (n.vibrato) {
    Json vibrato{{"kind", enumName(n.vibrato->kind, kVibratos)}};
    put(vibrato, "hz", n.vibrato->rate), put(vibrato, "cents", n.vibrato->width);
    json["vibrato"] = vibrato;
  }
  if (n.dive) {
    Json dive = Json::object();
    put(dive, "cents", n.dive->depth), put(dive, "back", n.dive->back);
    json["dive"] = dive;
  }
  if (n.trill) {
    json["trill"] = {{"fret", n.trill->fret}};
    put(json["trill"], "hz", n.trill->rate);
  }
  if (n.harmonic) {
    json["harmonic"] = {{"kind", enumName(n.harmonic->kind, kHarmonics)}};
    if (n.harmonic->node != 0) json["harmonic"]["node"] = n.harmonic->node;
  }
  if (n.tremolo) json["tremolo"] = n.tremolo->strokesInBeat;
  put(json, "bar", n.bar, kBars);
  put(json, "let_ring", n.letRing), put(json, "palm_mute", n.palmMuted), put(json, "staccato", n.staccato);
  put(json, "feedback", n.feedback);
  put(json, "ending", n.ending, kEndings);
}

void getGestures(const Json& json, Note& n) {
  n.attack = get(json, "attack", kAttacks);
  if (json.contains("from")) n.slidFrom = wholeAt(json, "from");
  n.tone = get(json, "tone", kTones);
  if (json.contains("bend")) n.bend = bendFrom(json.at("bend"));
  if (json.contains("vibrato")) {
    const Json& v = json.at("vibrato");
    n.vibrato = Vibrato{enumFrom(v.at("kind"), kVibratos), rateFrom(v, "hz"), sizeFrom(v, "cents")};
  }
  if (json.contains("dive")) n.dive = Dive{sizeFrom(json.at("dive"), "cents"), json.at("dive").value("back", false)};
  if (json.contains("trill")) n.trill = Trill{wholeAt(json.at("trill"), "fret"), rateFrom(json.at("trill"), "hz")};
  if (json.contains("harmonic"))
    n.harmonic =
        PlayedHarmonic{enumFrom(json.at("harmonic").at("kind"), kHarmonics), wholeOr(json.at("harmonic"), "node", 0)};
  if (json.contains("tremolo")) n.tremolo = Tremolo{wholeAt(json, "tremolo")};
  n.bar = get(json, "bar", kBars);
  n.letRing = json.value("let_ring", false), n.palmMuted = json.value("palm_mute", false);
  n.staccato = json.value("staccato", false), n.feedback = json.value("feedback", false);
  n.ending = get(json, "ending", kEndings);
}

Json noteToJson(const Note& n) {
  Json json{{"id", n.id},
            {"at", beatsToJson(n.at)},
            {"length", beatsToJson(n.length)},
            {"string", n.place.string},
            {"fret", n.place.fret}};
  if (n.voice != 0) json["voice"] = n.voice;
  if (n.free) json.update(spanToJson(*n.free));
  put(json, "finger", n.finger, kFingers);
  put(json, "barred", n.barred), put(json, "kept_down", n.keptDown);
  put(json, "picking", n.picking, kPickings);
  putGestures(json, n);
  put(json, "origin", n.origin, kOrigins);
  if (n.certainty != 1.0) json["certainty"] = n.certainty;
  put(json, "why", n.why);
  for (const NoteReading& r : n.readings) json["readings"].push_back(readingToJson(r));
  return json;
}

Note noteFrom(const Json& json) {
  Note n;
  n.id = wholeAt(json, "id");
  n.at = beatsFrom(json.at("at")), n.length = beatsFrom(json.at("length"));
  n.place = {wholeAt(json, "string"), wholeAt(json, "fret")};
  n.voice = wholeOr(json, "voice", 0);
  if (json.contains("start_s")) n.free = spanFrom(json);
  n.finger = get(json, "finger", kFingers);
  n.barred = json.value("barred", false), n.keptDown = json.value("kept_down", false);
  n.picking = get(json, "picking", kPickings);
  getGestures(json, n);
  n.origin = get(json, "origin", kOrigins);
  if (json.contains("certainty")) n.certainty = finiteAt(json, "certainty");
  n.why = json.value("why", "");
  if (json.contains("readings"))
    for (const Json& r : json.at("readings")) n.readings.push_back(readingFrom(r));
  return n;
}

Json levelToJson(const Arrangement& a) {
  Json json = Json::object();
  put(json, "name", a.name), put(json, "made_easier", a.made);
  if (a.hardest) json["hardest"] = {beatsToJson(a.hardest->first), beatsToJson(a.hardest->second)};
  for (const OpenStretch& o : a.open) {
    Json item{{"from", beatsToJson(o.from)}, {"to", beatsToJson(o.to)}, {"kind", enumName(o.kind, kOpen)}};
    put(item, "words", o.words);
    json["open"].push_back(item);
  }
  json["notes"] = Json::array();
  for (const Note& n : a.notes) json["notes"].push_back(noteToJson(n));
  return json;
}

Arrangement levelFrom(const Json& json) {
  Arrangement a{json.value("name", ""), json.value("made_easier", "")};
  if (json.contains("hardest"))
    a.hardest = std::pair{beatsFrom(json.at("hardest").at(0)), beatsFrom(json.at("hardest").at(1))};
  if (json.contains("open"))
    for (const Json& o : json.at("open"))
      a.open.push_back(
          {beatsFrom(o.at("from")), beatsFrom(o.at("to")), enumFrom(o.at("kind"), kOpen), o.value("words", "")});
  for (const Json& n : json.at("notes")) a.notes.push_back(noteFrom(n));
  return a;
}

Json linkToJson(const PhraseLink& link) {
  Json json{{"to", link.to}};
  if (link.frets != 0) json["frets"] = link.frets;
  if (link.strings != 0) json["strings"] = link.strings;
  put(json, "how", link.how);
  if (!link.without.empty()) json["without"] = link.without;
  for (const Note& n : link.changed) json["changed"].push_back(noteToJson(n));
  return json;
}

PhraseLink linkFrom(const Json& json) {
  PhraseLink link{json.at("to").get<std::string>(), wholeOr(json, "frets", 0), wholeOr(json, "strings", 0)};
  link.how = json.value("how", "");
  if (json.contains("without"))
    for (const Json& id : json.at("without")) link.without.push_back(whole(id));
  if (json.contains("changed"))
    for (const Json& n : json.at("changed")) link.changed.push_back(noteFrom(n));
  return link;
}

Scale scaleFrom(const Json& json) {
  const auto tonic = parsePitchClass(json.at("tonic").get<std::string>());
  const auto kind = scaleKindOf(json.at("kind").get<std::string>());
  require(tonic && kind, "a scale that is not known");
  return {*tonic, *kind};
}

}  // namespace

Json phraseToJson(const Phrase& p) {
  Json json{{"id", p.id}, {"take", p.take}, {"part", p.part}};
  json.update(spanToJson(p.span));
  put(json, "name", p.name);
  if (p.number != 0) json["number"] = p.number;
  put(json, "faith", p.faith, kFaiths);
  if (p.certainty != 1.0) json["certainty"] = p.certainty;
  put(json, "remark", p.remark);
  for (const ScaleStretch& s : p.scales) {
    Json stretch{{"from", beatsToJson(s.from)}, {"tonic", sharpName(s.scale.tonic)}, {"kind", scaleName(s.scale.kind)}};
    if (s.box != 0) stretch["box"] = s.box;
    json["scales"].push_back(std::move(stretch));
  }
  if (!p.meant.empty()) json["meant"] = p.meant;
  if (p.link) json["same_as"] = linkToJson(*p.link);
  for (const Arrangement& a : *p.levels) json["levels"].push_back(levelToJson(a));
  return json;
}

Phrase phraseFrom(const Json& json) {
  Phrase p{json.at("id").get<std::string>(), json.at("take").get<std::string>(), json.at("part").get<std::string>()};
  p.span = spanFrom(json);
  p.name = json.value("name", "");
  p.number = wholeOr(json, "number", 0);
  p.faith = get(json, "faith", kFaiths);
  if (json.contains("certainty")) p.certainty = finiteAt(json, "certainty");
  p.remark = json.value("remark", "");
  if (json.contains("scale")) p.scales.push_back({Beats(0), scaleFrom(json.at("scale"))});  // of the whole phrase
  if (json.contains("scales"))
    for (const Json& s : json.at("scales")) {
      p.scales.push_back({beatsFrom(s.at("from")), scaleFrom(s), wholeOr(s, "box", 0)});
      require(p.scales.back().box >= 0, "a box below the first");
      require(p.scales.size() < 2 || p.scales[p.scales.size() - 2].from < p.scales.back().from, "scales out of order");
    }
  if (json.contains("meant"))
    for (const Json& id : json.at("meant")) p.meant.insert(whole(id));
  if (json.contains("same_as")) p.link = linkFrom(json.at("same_as"));
  auto& levels = p.levels.change();
  levels.clear();
  for (const Json& level : json.at("levels")) levels.push_back(levelFrom(level));
  require(!levels.empty(), "a phrase without a level");
  return p;
}

}  // namespace ear
