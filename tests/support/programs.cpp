// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/programs.h"

#include <cstdlib>
#include <fstream>
#include <sstream>

#include "support/sounds.h"

namespace ear::test {

int run(const std::string& command) {
  return std::system(("(" + command + ") >/dev/null 2>&1").c_str());
}

std::string contentOf(const std::filesystem::path& file) {
  std::stringstream text;
  text << std::ifstream(file, std::ios::binary).rdbuf();
  return text.str();
}

bool isValidMusicXml(std::string xml) {
  const std::string ring = "<tied type=\"let-ring\" />", open = "<notations>", close = "</notations>";
  for (std::size_t at; (at = xml.find(ring)) != std::string::npos;) xml.erase(at, ring.size());
  const std::string swing = "<swing>", behind = "</swing>";
  for (std::size_t at; (at = xml.find(swing)) != std::string::npos;)
    xml.erase(at, xml.find(behind, at) + behind.size() - at);
  for (std::size_t at = 0; (at = xml.find(open, at)) != std::string::npos;) {
    const std::size_t end = xml.find(close, at), first = xml.find_first_not_of(" \n", at + open.size());
    if (first == end)  // nothing else stood there
      xml.erase(at, end + close.size() - at);
    else
      at += open.size();
  }
  const auto file = freshFolder("schema") / "valid.musicxml";
  std::ofstream(file) << xml;
  const std::string schema = std::string(TEST_FOLDER) + "/core/exchange/schema/";
  return run("XML_CATALOG_FILES=" + schema + "catalog.xml xmllint --nonet --noout --schema " + schema +
             "musicxml.xsd " + file.string()) == 0;
}

}  // namespace ear::test
