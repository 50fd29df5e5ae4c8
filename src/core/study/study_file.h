// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/base/outcome.h"
#include "core/study/document.h"

namespace ear {

/// The format is described in docs/study-file.md; keep the two together.
inline constexpr int kStudyFileVersion = 3;
inline constexpr const char* kStudyFileExtension = ".innerear";

struct StoredStudy {
  Study study;
  Measurements measurements;
};

/// The contents of a study file, once they have been read back and found equal.
/// @param folder  where the file will lie; recordings are written relative to it
/// @return the text, or a sentence where the study holds what no file can (see core/study/validity.h). Measurements
///         that cannot be written are left out: they can be had again
Outcome<std::string> writeStudyText(const Study& study, const Measurements& measurements,
                                    const std::filesystem::path& folder);

/// @return the study, or a sentence when the text was cut short, is damaged, no study, or of a newer version
Outcome<StoredStudy> readStudyText(const std::string& text, const std::filesystem::path& folder,
                                   const std::string& name);

Outcome<StoredStudy> loadStudy(const std::filesystem::path& file);

/// Writes atomically and durably; what the file held before is kept beside it (see generationBefore). Refuses to
/// replace a file that holds no study this version can read. On any failure the old file stands as it was.
Outcome<Done> saveStudy(const std::filesystem::path& file, const Study& study, const Measurements& measurements);

/// The automatic copy of a study: the same, but whatever lies there is replaced and not kept.
Outcome<Done> saveCopy(const std::filesystem::path& copy, const Study& study, const Measurements& measurements);

/// Where the unsaved state of a study file is kept while it is edited.
std::filesystem::path autosaveFor(const std::filesystem::path& file);

}  // namespace ear
