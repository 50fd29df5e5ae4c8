#include "core/study/study_json.h"

#include <set>

#include "core/study/findings_json.h"
#include "core/study/json_values.h"
#include "core/study/parts.h"
#include "core/study/passages_json.h"

namespace ear {
namespace {

const EnumWords<Origin> kOrigins = {
    {"measured", Origin::measured}, {"set", Origin::set}, {"confirmed", Origin::confirmed}};
const EnumWords<Side> kSides = {{"left", Side::left}, {"middle", Side::centre}, {"right", Side::right}};
const EnumWords<TakeKind> kKinds = {{"studio", TakeKind::studio}, {"live", TakeKind::live}, {"other", TakeKind::other}};

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
  return {{"strings", v.tuning.strings}, {"capo", v.capo.fret}, {"capo_strings", v.capo.strings}};
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
  v = {Cents(numberIn(j, "cents", -50, 50))};
}
void fromJson(const Json& j, Key& v) {
  const auto key = parseKey(j.at("tonic").get<std::string>() + " " + j.at("mode").get<std::string>());
  require(key.has_value(), "a key that is none");
  v = *key;
}
void fromJson(const Json& j, TimeValue& v) {
  v = {Bpm(numberIn(j, "bpm", 10, 600)), static_cast<int>(numberIn(j, "meter", 1, 32)), {numberIn(j, "swing", 0.3, 5)}};
  if (j.value("swing_of", "") == "sixteenths") v.swing.level = SwingLevel::sixteenths;
}
void fromJson(const Json& j, GuitarSetup& v) {
  v.tuning.strings = j.at("strings").get<std::vector<int>>();
  v.capo = {j.at("capo").get<int>(), j.at("capo_strings").get<std::uint16_t>()};
  require(isGuitar(v.tuning, v.capo), "a guitar that is none");
}
void fromJson(const Json& j, Form& form) {
  for (const auto& item : j)
    form.push_back({spanFrom(item), item.at("letter").get<std::string>(), item.at("name").get<std::string>(),
                    enumFrom(item.at("origin"), kOrigins), numberIn(item, "certainty", 0, 1),
                    item.value("difference", ""), item.value("guess", "")});
}
void fromJson(const Json& j, Grid& grid) {
  for (const auto& t : j.at("beats")) {
    const Beat beat{Seconds(t.get<double>())};
    require(std::isfinite(beat.time.value) && (grid.empty() || grid.back().time < beat.time), "beats that do not rise");
    grid.push_back(beat);
  }
  for (const auto& i : j.at("bars")) grid.at(i.get<std::size_t>()).bar = true;
  for (const auto& i : j.at("fixed")) grid.at(i.get<std::size_t>()).fixed = true;
}

template <class T>
void putDecision(Json& json, const char* key, const std::optional<Decision<T>>& d) {
  if (d)
    json[key] = {{"value", toJson(d->value)},
                 {"origin", enumName(d->origin, kOrigins)},
                 {"certainty", d->certainty},
                 {"evidence", d->evidence}};
}

template <class T>
void getDecision(const Json& json, const char* key, std::optional<Decision<T>>& d) {
  if (!json.contains(key)) return;
  const Json& j = json.at(key);
  d.emplace();
  fromJson(j.at("value"), d->value);
  d->origin = enumFrom(j.at("origin"), kOrigins);
  d->certainty = numberIn(j, "certainty", 0, 1);
  d->evidence = j.at("evidence").get<std::string>();
}

/// Relative when the recording lies at or near the study, so that the folder can be moved as a whole.
std::string storedPath(const std::filesystem::path& file, const std::filesystem::path& folder) {
  const auto relative = file.lexically_relative(folder);
  return relative.empty() ? file.generic_string() : relative.generic_string();
}

Json takeToJson(const Take& t, const Findings* findings, const std::filesystem::path& folder) {
  Json json{{"id", t.id},
            {"name", t.name},
            {"kind", enumName(t.kind, kKinds)},
            {"file", storedPath(t.file, folder)},
            {"sha256", t.hash},
            {"duration_s", t.duration.value}};
  putDecision(json, "pitch", t.pitch);
  putDecision(json, "key", t.key);
  putDecision(json, "time", t.time);
  putDecision(json, "grid", t.grid);
  putDecision(json, "form", t.form);
  for (const auto& c : t.cues) json["cues"].push_back({{"time_s", c.time.value}, {"text", c.text}});
  for (const auto& c : t.chords) {
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
  const auto file = json.at("file").get<std::string>();
  require(!t.id.empty() && !file.empty(), "a take without id or file");
  t.file = (folder / file).lexically_normal();
  t.hash = json.at("sha256").get<std::string>();
  t.duration = Seconds(numberIn(json, "duration_s", 0, 1e6));
  getDecision(json, "pitch", t.pitch);
  getDecision(json, "key", t.key);
  getDecision(json, "time", t.time);
  getDecision(json, "grid", t.grid);
  getDecision(json, "form", t.form);
  if (json.contains("cues"))
    for (const auto& c : json.at("cues"))
      t.cues.push_back({Seconds(numberIn(c, "time_s", 0, 1e6)), c.at("text").get<std::string>()});
  if (json.contains("chords"))
    for (const auto& c : json.at("chords")) {
      const auto name = c.at("name").get<std::string>();
      decideChord(t, {spanFrom(c), parseChord(name), enumFrom(c.at("origin"), kOrigins)});
      require(name.empty() || parseChord(name).has_value(), "a chord that is none");
    }
  return t;
}

/// Files from before guitars were parts kept the semitones of all strings with the pitch.
void shiftStringsOfOldFile(const Json& json, Study& study) {
  if (!json.contains("pitch")) return;
  const int semitones = json.at("pitch").at("value").value("semitones", 0);
  const Take* take = study.take(json.at("id").get<std::string>());
  if (semitones == 0 || take == nullptr) return;
  keepParts(study, *take, nullptr);
  GuitarSetup setup;
  for (int& string : setup.tuning.strings) string += semitones;
  require(isGuitar(setup.tuning, setup.capo), "strings out of range");
  study.parts.back().setup =
      Decision<GuitarSetup>{setup, take->pitch->origin, take->pitch->certainty, take->pitch->evidence};
}

}  // namespace

Json studyToJson(const Study& study, const Measurements& measurements, const std::filesystem::path& folder) {
  Json root{{"title", study.title},
            {"frets_from_nut", study.fretsFromNut},
            {"takes", Json::array()},
            {"parts", Json::array()},
            {"passages", Json::array()}};
  for (const auto& take : study.takes) {
    const auto found = measurements.find(take.id);
    root["takes"].push_back(takeToJson(take, found == measurements.end() ? nullptr : found->second.get(), folder));
  }
  for (const auto& p : study.parts) {
    Json json{
        {"id", p.id}, {"take", p.take}, {"name", p.name}, {"side", enumName(p.side, kSides)}, {"arranged", p.arranged}};
    putDecision(json, "setup", p.setup);
    root["parts"].push_back(json);
  }
  for (const auto& p : study.passages) root["passages"].push_back(passageToJson(p));
  if (study.ear.guesses > 0) root["ear"] = {{"guesses", study.ear.guesses}, {"hits", study.ear.hits}};
  for (const auto& n : study.notes) root["notes"].push_back(noteToJson(n));
  for (const auto& e : study.log) root["log"].push_back(entryToJson(e));
  return root;
}

void studyFromJson(const Json& root, const std::filesystem::path& folder, Study& study, Measurements& measurements) {
  study.title = root.at("title").get<std::string>();
  std::set<std::string> ids;
  for (const auto& json : root.at("takes")) {
    study.takes.push_back(takeFrom(json, folder));
    require(ids.insert(study.takes.back().id).second, "two takes with one id");
    if (json.contains("measured"))
      measurements[study.takes.back().id] = std::make_shared<Findings>(findingsFromJson(json.at("measured")));
  }
  study.fretsFromNut = root.value("frets_from_nut", false);
  if (root.contains("parts"))
    for (const auto& json : root.at("parts")) {
      GuitarPart p{json.at("id").get<std::string>(), json.at("take").get<std::string>(),
                   json.at("name").get<std::string>(), enumFrom(json.at("side"), kSides),
                   json.at("arranged").get<bool>()};
      getDecision(json, "setup", p.setup);
      require(study.take(p.take) != nullptr, "a guitar of a take that is not there");
      require(ids.insert(p.id).second, "two things with one id");
      study.parts.push_back(std::move(p));
    }
  for (const auto& json : root.at("takes")) shiftStringsOfOldFile(json, study);
  for (const auto& json : root.at("passages")) {
    Passage p = passageFrom(json);
    require(study.take(p.take) != nullptr, "a passage of a take that is not there");
    require(ids.insert(p.id).second, "two things with one id");
    study.passages.push_back(std::move(p));
  }
  if (root.contains("ear")) {
    study.ear = {static_cast<int>(numberIn(root.at("ear"), "guesses", 0, 1e9)),
                 static_cast<int>(numberIn(root.at("ear"), "hits", 0, 1e9))};
    require(study.ear.hits <= study.ear.guesses, "more hits than guesses");
  }
  if (root.contains("notes"))
    for (const auto& json : root.at("notes")) {
      study.notes.push_back(noteFrom(json));
      require(study.take(study.notes.back().take) != nullptr, "a note on a take that is not there");
    }
  if (root.contains("log"))
    for (const auto& json : root.at("log")) study.log.push_back(entryFrom(json));
}

}  // namespace ear
