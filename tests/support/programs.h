// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

namespace ear::test {

/// Runs a command of the shell and says nothing. @return its exit status, 0 where all went well
int run(const std::string& command);

/// The whole file as it is; empty where there is none.
std::string contentOf(const std::filesystem::path& file);

/// Whether the published schema of MusicXML, of version 3.0, allows a text. What is newer is taken out: ties that
/// ring, swing.
bool isValidMusicXml(std::string xml);

}  // namespace ear::test
