// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <filesystem>

namespace ear {

// Names of files are bytes, those of the interface are Unicode. Bytes that are no UTF-8 go through QString as single
// low surrogates and come back as they were (the way of Python's PEP 383).

QString pathText(const std::filesystem::path& path);
std::filesystem::path toPath(const QString& text);

/// A name beside a study that is not taken: "song (older copy).innerear", with a number where need be.
std::filesystem::path freeName(const std::filesystem::path& file, const QString& what);

}  // namespace ear
