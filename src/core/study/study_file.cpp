#include "core/study/study_file.h"

#include <nlohmann/json.hpp>

#include "core/study/durable_file.h"
#include "core/study/study_json.h"

namespace ear {
namespace {

using Json = nlohmann::ordered_json;

constexpr const char* kFormat = "inner-ear-study";
constexpr std::uintmax_t kLargest = 256U << 20;  // bytes

Problem damaged(const std::string& name, const std::string& why) {
  return Problem{
      "“" + name + "” is damaged (" + why +
      "). It was left as it is. If there is an automatic copy beside it, ending in .autosave, open that one."};
}

}  // namespace

std::string writeStudyText(const Study& study, const Measurements& measurements, const std::filesystem::path& folder) {
  Json root{{"format", kFormat}, {"version", kStudyFileVersion}};
  root.update(studyToJson(study, measurements, folder));
  root["end"] = true;
  return root.dump(1) + "\n";
}

Outcome<StoredStudy> readStudyText(const std::string& text, const std::filesystem::path& folder,
                                   const std::string& name) {
  if (text.empty()) return damaged(name, "it is empty");
  const Json root = Json::parse(text, nullptr, false);
  if (root.is_discarded())
    return text.starts_with("{") ? damaged(name, "it was cut short or changed by another program")
                                 : Problem{"“" + name + "” is no study of Inner Ear."};
  if (!root.is_object() || root.value("format", Json()) != Json(kFormat))
    return Problem{"“" + name + "” is no study of Inner Ear."};
  const Json version = root.value("version", Json());
  if (!version.is_number_integer() || version < 1) return damaged(name, "its version is missing");
  if (version > kStudyFileVersion)
    return Problem{"“" + name + "” was written by a newer Inner Ear (file version " + version.dump() +
                   ", this one reads " + std::to_string(kStudyFileVersion) +
                   "). Update Inner Ear to open it; the file was left as it is."};
  if (root.value("end", Json()) != Json(true)) return damaged(name, "its end is missing");
  try {
    StoredStudy stored;
    studyFromJson(root, folder, stored.study, stored.measurements);
    return stored;
  } catch (const std::exception& error) {
    return damaged(name, error.what());
  }
}

Outcome<StoredStudy> loadStudy(const std::filesystem::path& file) {
  const auto text = readWhole(file, kLargest);
  if (!text) return Problem{text.problem()};
  return readStudyText(*text, std::filesystem::absolute(file).parent_path(), file.filename().string());
}

Outcome<Done> saveStudy(const std::filesystem::path& file, const Study& study, const Measurements& measurements) {
  std::error_code error;
  if (std::filesystem::exists(file, error))
    if (const auto there = loadStudy(file); !there)
      return Problem{
          "“" + file.filename().string() +
          "” was not replaced: what lies there is not a study this Inner Ear can read. Save under another name."};
  return writeDurably(file, writeStudyText(study, measurements, std::filesystem::absolute(file).parent_path()));
}

std::filesystem::path autosaveFor(const std::filesystem::path& file) {
  return file.string() + ".autosave";
}

}  // namespace ear
