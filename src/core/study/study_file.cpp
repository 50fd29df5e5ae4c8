// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/study_file.h"

#include <algorithm>
#include <new>
#include <nlohmann/json.hpp>

#include "core/base/text.h"
#include "core/study/durable_file.h"
#include "core/study/findings_json.h"
#include "core/study/study_json.h"
#include "core/study/validity.h"

namespace ear {
namespace {

using Json = nlohmann::ordered_json;

constexpr const char* kFormat = "inner-ear-study";
constexpr std::uintmax_t kLargest = 256U << 20;  // bytes
constexpr int kDeepest = 32;                     // brackets; a study has less than ten

Problem damaged(const std::string& name, const std::string& why) {
  return Problem{
      "“" + name + "” is damaged (" + why +
      "). It was left as it is. If there is an automatic copy beside it, ending in .autosave, open that one."};
}

/// Brackets within brackets, outside of strings: a file of brackets alone would use up the stack of whoever walks it.
int nestingOf(std::string_view text) {
  int deepest = 0, now = 0;
  bool quoted = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (quoted && c == '\\')
      ++i;
    else if (c == '"')
      quoted = !quoted;
    else if (!quoted && (c == '[' || c == '{'))
      deepest = std::max(deepest, ++now);
    else if (!quoted && (c == ']' || c == '}'))
      --now;
  }
  return deepest;
}

std::filesystem::path folderOf(const std::filesystem::path& file) {
  return std::filesystem::absolute(file).parent_path();
}

/// Whatever is thrown on the way (no memory, a name that is none) ends as a sentence.
template <class Work>
auto guarded(const std::filesystem::path& file, Work work) -> decltype(work()) {
  try {
    return work();
  } catch (const std::bad_alloc&) {
    return Problem{"There is not enough memory for “" + shownPath(file.filename()) +
                   "”. Close other programs and try again; nothing was changed."};
  } catch (const std::exception& error) {
    return Problem{"“" + shownPath(file.filename()) + "” failed: " + error.what() + ". Nothing was changed."};
  }
}

/// As JSON is usually set, but with each note in a line of its own, so that two versions of a study can be merged.
std::string laidOut(const Json& json, std::size_t depth = 1) {
  if (!json.is_structured() || json.empty()) return json.dump();
  const std::string indent(depth, ' ');
  std::string text;
  for (const auto& [key, value] : json.items()) {
    text += (text.empty() ? "\n" : ",\n") + indent;
    if (json.is_object()) text += Json(key).dump() + ": ";
    const bool notes = json.is_object() && (key == "notes" || key == "changed");
    if (!notes) {
      text += laidOut(value, depth + 1);
      continue;
    }
    text += '[';
    for (const Json& note : value) text += (&note == &value.front() ? "\n " : ",\n ") + indent + note.dump();
    text += value.empty() ? "]" : "\n" + indent + "]";
  }
  text += "\n" + std::string(depth - 1, ' ');
  return json.is_object() ? "{" + text + "}" : "[" + text + "]";
}

/// Empty where what would be read differs from what was to be written.
std::string proven(const Study& study, const Measurements& measurements, const std::filesystem::path& folder) {
  Json root{{"format", kFormat}, {"version", kStudyFileVersion}};
  root.update(studyToJson(study, measurements, folder));
  root["end"] = true;
  std::string text = laidOut(root) + "\n";
  StoredStudy back;
  try {
    studyFromJson(Json::parse(text), folder, back.study, back.measurements);
  } catch (const std::exception&) {
    return {};
  }
  if (back.study != study) return {};
  for (const auto& take : study.takes) {
    const auto kept = measurements.find(take.id);
    const auto read = back.measurements.find(take.id);
    const bool had = kept != measurements.end() && kept->second != nullptr;
    if (had != (read != back.measurements.end())) return {};
    if (had && findingsToJson(*kept->second) != findingsToJson(*read->second)) return {};
  }
  return text;
}

Outcome<Done> write(const std::filesystem::path& file, const Study& study, const Measurements& measurements,
                    Before before) {
  const auto text = writeStudyText(study, measurements, folderOf(file));
  if (!text) return Problem{text.problem()};
  return writeDurably(file, *text, before);
}

}  // namespace

Outcome<std::string> writeStudyText(const Study& study, const Measurements& measurements,
                                    const std::filesystem::path& folder) {
  Study kept = study;
  tidy(kept);
  if (const auto fault = faultOf(kept))
    return Problem{"The study cannot be saved as it is: " + *fault + ". Undo (Ctrl+Z) takes that back."};
  std::string text = proven(kept, measurements, folder);
  if (text.empty()) text = proven(kept, {}, folder);
  if (text.empty())
    return Problem{
        "The study was not saved: what would have been written reads back differently. Undo (Ctrl+Z) the "
        "last edits until it can be saved; the file was left as it is."};
  return text;
}

Outcome<StoredStudy> readStudyText(const std::string& text, const std::filesystem::path& folder,
                                   const std::string& name) {
  if (text.empty()) return damaged(name, "it is empty");
  if (nestingOf(text) > kDeepest) return damaged(name, "its contents are nested deeper than any study");
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
  return guarded(file, [&]() -> Outcome<StoredStudy> {
    const auto text = readWhole(file, kLargest);
    if (!text) return Problem{text.problem()};
    return readStudyText(*text, folderOf(file), shownPath(file.filename()));
  });
}

Outcome<Done> saveStudy(const std::filesystem::path& file, const Study& study, const Measurements& measurements) {
  return guarded(file, [&]() -> Outcome<Done> {
    std::error_code error;
    if (std::filesystem::exists(file, error) && !loadStudy(file))
      return Problem{
          "“" + shownPath(file.filename()) +
          "” was not replaced: what lies there is not a study this Inner Ear can read. Save under another name."};
    return write(file, study, measurements, Before::keep);
  });
}

Outcome<Done> saveCopy(const std::filesystem::path& copy, const Study& study, const Measurements& measurements) {
  return guarded(copy, [&] { return write(copy, study, measurements, Before::drop); });
}

std::filesystem::path autosaveFor(const std::filesystem::path& file) {
  return file.native() + ".autosave";
}

}  // namespace ear
