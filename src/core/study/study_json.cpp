// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/study_json.h"

#include "core/base/text.h"
#include "core/study/findings_json.h"
#include "core/study/json_values.h"
#include "core/study/lesson_json.h"
#include "core/study/parts.h"
#include "core/study/passages_json.h"
#include "core/study/phrases_json.h"
#include "core/study/validity.h"

namespace ear {
namespace {

const EnumWords<Origin> kOrigins = {
    {"measured", Origin::measured}, {"set", Origin::set}, {"confirmed", Origin::confirmed}};
const EnumWords<Side> kSides = {{"left", Side::left}, {"middle", Side::centre}, {"right", Side::right}};
const EnumWords<Instrument> kInstrumentWords = {{"unknown", Instrument::unknown},
                                                {"steel-string", Instrument::steelString},
                                                {"nylon-string", Instrument::nylonString},
                                                {"electric", Instrument::electric},
                                                {"twelve-string", Instrument::twelveString},
                                                {"resonator", Instrument::resonator},
                                                {"bass", Instrument::bass},
                                                {"other", Instrument::other}};
const EnumWords<Evidence::Kind> kEvidence = {{"none", Evidence::Kind::none},
                                             {"words", Evidence::Kind::words},
                                             {"set", Evidence::Kind::setByHand},
                                             {"corrected", Evidence::Kind::correctedByHand},
                                             {"reading", Evidence::Kind::takenFromReadings},
                                             {"file", Evidence::Kind::readFromFile},
                                             {"ear", Evidence::Kind::confirmedByEar},
                                             {"half-tempo", Evidence::Kind::halfTempo},
                                             {"double-tempo", Evidence::Kind::doubleTempo},
                                             {"bars-moved", Evidence::Kind::barsMoved},
                                             {"bars-set", Evidence::Kind::barsSet},
                                             {"beats-held", Evidence::Kind::beatsHeld},
                                             {"beats-tapped", Evidence::Kind::beatsTapped},
                                             {"beats-follow", Evidence::Kind::beatsFollow}};
const EnumWords<TakeKind> kKinds = {
    {"unknown", TakeKind::unknown}, {"studio", TakeKind::studio}, {"live", TakeKind::live}, {"other", TakeKind::other}};

Json toJson(const PitchValue& v) {
  return {{"cents", v.offset.value}};
}
Json toJson(const Key& v) {
  return {{"tonic", sharpName(v.tonic)}, {"mode", modeName(v.mode)}};
}
Json toJson(const TimeValue& v) {
  return {{"bpm", v.tempo.value},
          {"meter", v.meter},
          {"swing", v.swing.ratio},
          {"swing_of", v.swing.level == SwingLevel::sixteenths ? "sixteenths" : "eighths"}};
}
Json toJson(const GuitarSetup& v) {
  Json json{{"strings", v.tuning.strings}, {"capo", v.capo.fret}, {"capo_strings", v.capo.strings}};
  if (!v.nickname.empty()) json["nickname"] = v.nickname;
  return json;
}
Json toJson(const Form& form) {
  Json list = Json::array();
  for (const auto& s : form) {
    Json item = spanToJson(s.span);
    item.update(
        {{"letter", s.letter}, {"name", s.name}, {"origin", enumName(s.origin, kOrigins)}, {"certainty", s.certainty}});
    if (!s.difference.empty()) item["difference"] = s.difference;
    if (!s.guess.empty()) item["guess"] = s.guess;
    list.push_back(item);
  }
  return list;
}
/// Times of all beats, and which of them start a bar or are fixed, by number.
Json toJson(const Grid& grid) {
  Json json{{"beats", Json::array()}, {"bars", Json::array()}, {"fixed", Json::array()}};
  for (std::size_t i = 0; i < grid.size(); ++i) {
    json["beats"].push_back(grid[i].time.value);
    if (grid[i].bar) json["bars"].push_back(i);
    if (grid[i].fixed) json["fixed"].push_back(i);
  }
  return json;
}

void fromJson(const Json& j, PitchValue& v) {
  v = {Cents(finiteAt(j, "cents"))};
}
void fromJson(const Json& j, Key& v) {
  const auto key = parseKey(j.at("tonic").get<std::string>() + " " + j.at("mode").get<std::string>());
  require(key.has_value(), "a key that is none");
  v = *key;
}
void fromJson(const Json& j, TimeValue& v) {
  v = {Bpm(finiteAt(j, "bpm")), wholeAt(j, "meter"), {finiteAt(j, "swing")}};
  if (j.value("swing_of", "") == "sixteenths") v.swing.level = SwingLevel::sixteenths;
}
void fromJson(const Json& j, GuitarSetup& v) {
  v.tuning.strings.clear();
  for (const auto& string : j.at("strings")) v.tuning.strings.push_back(whole(string));
  const int under = wholeAt(j, "capo_strings");
  require(under >= 0 && under <= 0xFFFF, "a capo that is none");
  v.capo = {wholeAt(j, "capo"), static_cast<std::uint16_t>(under)};
  v.nickname = j.value("nickname", "");
}
void fromJson(const Json& j, Form& form) {
  for (const auto& item : j)
    form.push_back({spanFrom(item), item.at("letter").get<std::string>(), item.at("name").get<std::string>(),
                    enumFrom(item.at("origin"), kOrigins), finiteAt(item, "certainty"), item.value("difference", ""),
                    item.value("guess", "")});
}
void fromJson(const Json& j, Grid& grid) {
  for (const auto& t : j.at("beats")) grid.push_back({Seconds(finite(t))});
  for (const auto& i : j.at("bars")) grid[indexBelow(i, grid.size())].bar = true;
  for (const auto& i : j.at("fixed")) grid[indexBelow(i, grid.size())].fixed = true;
}

template <class T>
void fromJson(const Json& j, Shared<T>& v) {
  fromJson(j, v.change());
}

Json toJson(const Evidence& evidence) {
  Json json{{"kind", enumName(evidence.kind, kEvidence)}};
  if (!evidence.numbers.empty()) json["numbers"] = evidence.numbers;
  if (evidence.kind == Evidence::Kind::words) json["words"] = evidence.sentence;
  return json;
}

/// Files of version 1 have the sentence: where it is that of a fact it is read as one.
Evidence evidenceOfOldFile(const std::string& sentence) {
  for (const auto& [word, kind] : kEvidence)
    if (numbersOf(kind) == 0 && sentenceOf(kind) == sentence) return kind;
  return sentence;
}

Evidence evidenceFrom(const Json& json) {
  if (json.is_string()) return evidenceOfOldFile(json.get<std::string>());
  Evidence evidence = enumFrom(json.at("kind"), kEvidence);
  if (json.contains("numbers"))
    for (const auto& number : json.at("numbers")) evidence.numbers.push_back(finite(number));
  require(evidence.numbers.size() == numbersOf(evidence.kind), "evidence without its numbers");
  if (evidence.kind == Evidence::Kind::words) evidence.sentence = json.at("words").get<std::string>();
  return evidence;
}

template <class T>
void putDecision(Json& json, const char* key, const std::optional<Decision<T>>& d) {
  if (d)
    json[key] = {{"value", toJson(d->value)},
                 {"origin", enumName(d->origin, kOrigins)},
                 {"certainty", d->certainty},
                 {"evidence", toJson(d->evidence)}};
}

template <class T>
void getDecision(const Json& json, const char* key, std::optional<Decision<T>>& d) {
  if (!json.contains(key)) return;
  const Json& j = json.at(key);
  d.emplace();
  fromJson(j.at("value"), d->value);
  d->origin = enumFrom(j.at("origin"), kOrigins);
  d->certainty = finiteAt(j, "certainty");
  d->evidence = evidenceFrom(j.at("evidence"));
}

/// Relative when the recording lies at or near the study, so that the folder can be moved as a whole.
std::filesystem::path storedPath(const std::filesystem::path& file, const std::filesystem::path& folder) {
  const auto relative = file.lexically_relative(folder.lexically_normal());
  return relative.empty() ? file : relative;
}

/// JSON is UTF-8 and names of files are bytes: those that are no UTF-8 are kept as numbers beside what can be shown.
void putPath(Json& json, const std::filesystem::path& path) {
  json["file"] = shownPath(path);
  if (json["file"] != Json(path.native()))
    for (const char c : path.native()) json["file_bytes"].push_back(static_cast<unsigned char>(c));
}

std::filesystem::path pathFrom(const Json& json) {
  if (!json.contains("file_bytes")) return json.at("file").get<std::string>();
  std::string bytes;
  for (const auto& byte : json.at("file_bytes")) bytes += static_cast<char>(indexBelow(byte, 256));
  return bytes;
}

Json takeToJson(const Take& t, const Findings* findings, const std::filesystem::path& folder) {
  Json json{{"id", t.id}, {"name", t.name}, {"kind", enumName(t.kind, kKinds)}};
  putPath(json, storedPath(t.file, folder));
  json["sha256"] = t.hash;
  json["duration_s"] = t.duration.value;
  putDecision(json, "pitch", t.pitch);
  putDecision(json, "key", t.key);
  putDecision(json, "time", t.time);
  putDecision(json, "grid", t.grid);
  putDecision(json, "form", t.form);
  for (const auto& c : t.cues) json["cues"].push_back({{"time_s", c.time.value}, {"text", c.text}});
  for (const auto& c : *t.chords) {
    Json item = spanToJson(c.span);
    item.update(
        {{"name", c.chord ? chordName(*c.chord, Spelling::sharps) : ""}, {"origin", enumName(c.origin, kOrigins)}});
    json["chords"].push_back(item);
  }
  if (findings != nullptr) json["measured"] = findingsToJson(*findings);
  return json;
}

Take takeFrom(const Json& json, const std::filesystem::path& folder) {
  Take t;
  t.id = json.at("id").get<std::string>();
  t.name = json.at("name").get<std::string>();
  t.kind = enumFrom(json.at("kind"), kKinds);
  const auto file = pathFrom(json);
  require(!t.id.empty() && !file.empty(), "a take without id or file");
  t.file = (folder / file).lexically_normal();
  t.hash = json.at("sha256").get<std::string>();
  t.duration = Seconds(finiteAt(json, "duration_s"));
  getDecision(json, "pitch", t.pitch);
  getDecision(json, "key", t.key);
  getDecision(json, "time", t.time);
  getDecision(json, "grid", t.grid);
  getDecision(json, "form", t.form);
  if (json.contains("cues"))
    for (const auto& c : json.at("cues"))
      t.cues.push_back({Seconds(finiteAt(c, "time_s")), c.at("text").get<std::string>()});
  if (json.contains("chords"))
    for (const auto& c : json.at("chords")) {
      const auto name = c.at("name").get<std::string>();
      auto& chords = t.chords.change();
      chords.push_back({spanFrom(c), parseChord(name), enumFrom(c.at("origin"), kOrigins)});
      require(name.empty() || chords.back().chord.has_value(), "a chord that is none");
    }
  return t;
}

/// Files from before guitars were parts kept the semitones of all strings with the pitch.
void shiftStringsOfOldFile(const Json& json, Study& study) {
  if (!json.contains("pitch")) return;
  const Json& pitch = json.at("pitch").at("value");
  const int semitones = pitch.contains("semitones") ? wholeAt(pitch, "semitones") : 0;
  const Take* take = study.take(json.at("id").get<std::string>());
  if (semitones == 0 || take == nullptr) return;
  keepParts(study, *take, nullptr);
  GuitarSetup setup;
  for (int& string : setup.tuning.strings) string += semitones;
  study.parts.change(study.parts.size() - 1).setup =
      Decision<GuitarSetup>{setup, take->pitch->origin, take->pitch->certainty, take->pitch->evidence};
}

/// Earlier files said once for all guitars where frets are counted from.
void countFromNutOfOldFile(Study& study, const Measurements& measurements) {
  for (const auto& take : study.takes) {
    const auto found = measurements.find(take.id);
    keepParts(study, take, found == measurements.end() ? nullptr : found->second.get());
  }
  study.parts.changeEach([](GuitarPart& part) { part.fretsFromNut = true; });
}

}  // namespace

Json studyToJson(const Study& study, const Measurements& measurements, const std::filesystem::path& folder) {
  Json root{{"title", study.title}, {"takes", Json::array()}, {"parts", Json::array()}, {"passages", Json::array()}};
  for (const auto& take : study.takes) {
    const auto found = measurements.find(take.id);
    root["takes"].push_back(takeToJson(take, found == measurements.end() ? nullptr : found->second.get(), folder));
  }
  for (const auto& p : study.parts) {
    Json json{
        {"id", p.id}, {"take", p.take}, {"name", p.name}, {"side", enumName(p.side, kSides)}, {"arranged", p.arranged}};
    putDecision(json, "setup", p.setup);
    if (p.fretsFromNut) json["frets_from_nut"] = true;
    if (p.frets != kUsualFrets) json["frets"] = p.frets;
    if (p.instrument != Instrument::unknown) json["instrument"] = enumName(p.instrument, kInstrumentWords);
    if (!p.sound.empty()) json["sound"] = p.sound;
    if (p.range) json["range"] = {p.range->lowest, p.range->highest};
    if (!p.doubledBy.empty()) json["doubled_by"] = p.doubledBy;
    root["parts"].push_back(json);
  }
  for (const auto& p : study.passages) root["passages"].push_back(passageToJson(p));
  for (const auto& p : study.phrases) root["phrases"].push_back(phraseToJson(p));
  for (const auto& q : study.questions) root["questions"].push_back(questionToJson(q));
  if (study.ear.guesses > 0) root["ear"] = {{"guesses", study.ear.guesses}, {"hits", study.ear.hits}};
  if (study.audioForStudents) root["audio_for_students"] = true;
  for (const auto& n : *study.notes) root["notes"].push_back(noteToJson(n));
  for (const auto& r : *study.revisions)
    root["revisions"].push_back({{"number", r.number}, {"when", r.when}, {"take", r.take}, {"text", r.text}});
  for (const auto& plan : study.plans) root["lesson_plans"].push_back(planToJson(plan));
  for (const auto& given : *study.lessons) root["lessons"].push_back(givenToJson(given));
  for (const auto& e : *study.log) root["log"].push_back(entryToJson(e));
  return root;
}

void studyFromJson(const Json& root, const std::filesystem::path& folder, Study& study, Measurements& measurements) {
  study.title = root.at("title").get<std::string>();
  for (const auto& json : root.at("takes")) {
    study.takes.push_back(takeFrom(json, folder));
    if (json.contains("measured"))
      measurements[study.takes.back().id] = std::make_shared<Findings>(findingsFromJson(json.at("measured")));
  }
  if (root.contains("parts"))
    for (const auto& json : root.at("parts")) {
      GuitarPart p{json.at("id").get<std::string>(), json.at("take").get<std::string>(),
                   json.at("name").get<std::string>(), enumFrom(json.at("side"), kSides),
                   json.at("arranged").get<bool>()};
      getDecision(json, "setup", p.setup);
      p.fretsFromNut = json.value("frets_from_nut", false);
      if (json.contains("frets")) p.frets = wholeAt(json, "frets");
      if (json.contains("instrument")) p.instrument = enumFrom(json.at("instrument"), kInstrumentWords);
      p.sound = json.value("sound", "");
      if (json.contains("range")) p.range = NoteRange{whole(json.at("range").at(0)), whole(json.at("range").at(1))};
      p.doubledBy = json.value("doubled_by", "");
      study.parts.push_back(std::move(p));
    }
  for (const auto& json : root.at("takes")) shiftStringsOfOldFile(json, study);
  if (root.value("frets_from_nut", false)) countFromNutOfOldFile(study, measurements);
  for (const auto& json : root.at("passages")) study.passages.push_back(passageFrom(json));
  if (root.contains("phrases"))
    for (const auto& json : root.at("phrases")) study.phrases.push_back(phraseFrom(json));
  if (root.contains("questions"))
    for (const auto& json : root.at("questions")) study.questions.push_back(questionFrom(json));
  if (root.contains("ear")) study.ear = {wholeAt(root.at("ear"), "guesses"), wholeAt(root.at("ear"), "hits")};
  study.audioForStudents = root.value("audio_for_students", false);
  if (root.contains("notes"))
    for (const auto& json : root.at("notes")) study.notes.change().push_back(noteFrom(json));
  if (root.contains("lesson_plans"))
    for (const auto& json : root.at("lesson_plans")) study.plans.push_back(planFrom(json));
  if (root.contains("lessons"))
    for (const auto& json : root.at("lessons")) study.lessons.change().push_back(givenFrom(json));
  if (root.contains("revisions"))
    for (const auto& json : root.at("revisions"))
      study.revisions.change().push_back({wholeAt(json, "number"), json.at("when").get<std::string>(),
                                          json.at("take").get<std::string>(), json.at("text").get<std::string>()});
  if (root.contains("log"))
    for (const auto& json : root.at("log")) study.log.change().push_back(entryFrom(json));
  tidy(study);
  if (const auto fault = faultOf(study)) throw std::runtime_error(*fault);
}

}  // namespace ear
