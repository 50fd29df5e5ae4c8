#pragma once

#include <filesystem>
#include <string>

#include "core/outcome.h"
#include "core/study/document.h"

namespace ear {

/// The format is described in docs/study-file.md; keep the two together.
inline constexpr int kStudyFileVersion = 1;
inline constexpr const char* kStudyFileExtension = ".innerear";

struct StoredStudy {
  Study study;
  Measurements measurements;
};

/// The contents of a study file.
/// @param folder  where the file will lie; recordings are written relative to it
std::string writeStudyText(const Study& study, const Measurements& measurements, const std::filesystem::path& folder);

/// @return the study, or a sentence when the text was cut short, is damaged, no study, or of a newer version
Outcome<StoredStudy> readStudyText(const std::string& text, const std::filesystem::path& folder,
                                   const std::string& name);

Outcome<StoredStudy> loadStudy(const std::filesystem::path& file);

/// Writes atomically and durably. Refuses to replace a file that holds no study this version can read.
Outcome<Done> saveStudy(const std::filesystem::path& file, const Study& study, const Measurements& measurements);

/// Where the unsaved state of a study file is kept while it is edited.
std::filesystem::path autosaveFor(const std::filesystem::path& file);

}  // namespace ear
