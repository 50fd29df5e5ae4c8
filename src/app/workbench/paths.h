// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <filesystem>

namespace ear {

// Names of files are bytes, those of the interface are Unicode. Bytes that are no UTF-8 go through QString as single
// low surrogates and come back as they were (the way of Python's PEP 383).

QString pathText(const std::filesystem::path& path);
std::filesystem::path toPath(const QString& text);

}  // namespace ear
