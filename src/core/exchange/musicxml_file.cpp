// SPDX-License-Identifier: GPL-3.0-or-later
#include <zip.h>

#include <fstream>
#include <memory>
#include <pugixml.hpp>
#include <sstream>

#include "core/base/text.h"
#include "core/exchange/musicxml.h"
#include "core/study/durable_file.h"

namespace ear {
namespace {

constexpr std::uint64_t kMostBytes = 32U << 20U;
constexpr const char* kContainer = "META-INF/container.xml";

struct Discard {
  void operator()(zip_t* archive) const { zip_discard(archive); }
  void operator()(zip_file_t* file) const { zip_fclose(file); }
};

Problem notReadable(const std::filesystem::path& file) {
  return {"“" + shownPath(file.filename()) + "” cannot be read. Check that it is there and may be opened."};
}

Outcome<std::string> contentOf(const std::filesystem::path& file) {
  std::error_code error;
  const auto size = std::filesystem::file_size(file, error);
  if (error) return notReadable(file);
  if (size > kMostBytes) return Problem{"The file is larger than 32 MB: no lesson needs so much."};
  std::ifstream in(file, std::ios::binary);
  std::ostringstream text;
  text << in.rdbuf();
  if (!in) return notReadable(file);
  return text.str();
}

/// A file of an archive; empty where there is none of that name, or it is too large.
std::string entryOf(zip_t* archive, const std::string& name) {
  zip_stat_t about;
  if (zip_stat(archive, name.c_str(), 0, &about) != 0 || (about.valid & ZIP_STAT_SIZE) == 0 || about.size > kMostBytes)
    return {};
  const std::unique_ptr<zip_file_t, Discard> file(zip_fopen(archive, name.c_str(), 0));
  if (file == nullptr) return {};
  std::string text(about.size, '\0');
  const auto read = zip_fread(file.get(), text.data(), text.size());
  return read == static_cast<zip_int64_t>(text.size()) ? text : std::string();
}

Outcome<std::string> unpacked(const std::string& bytes) {
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
  zip_t* opened = source != nullptr ? zip_open_from_source(source, ZIP_RDONLY, &error) : nullptr;
  zip_error_fini(&error);
  const Problem damaged{"This packed MusicXML is damaged: it cannot be unpacked. Export it again."};
  if (opened == nullptr) {
    if (source != nullptr) zip_source_free(source);
    return damaged;
  }
  const std::unique_ptr<zip_t, Discard> archive(opened);
  pugi::xml_document container;
  const std::string listed = entryOf(archive.get(), kContainer);
  std::string name;
  if (container.load_buffer(listed.data(), listed.size()))
    name = container.child("container").child("rootfiles").child("rootfile").attribute("full-path").as_string();
  std::string text = name.empty() ? std::string() : entryOf(archive.get(), name);
  if (text.empty()) return damaged;
  return text;
}

}  // namespace

Outcome<std::vector<TabPiece>> readMusicXmlFile(const std::filesystem::path& file) {
  auto content = contentOf(file);
  if (!content) return Problem{content.problem()};
  if (content->starts_with("PK")) {
    content = unpacked(*content);
    if (!content) return Problem{content.problem()};
  }
  return readMusicXml(*content);
}

Outcome<Done> writeMxl(const std::string& xml, const std::filesystem::path& file) {
  const std::string container =
      "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<container><rootfiles><rootfile full-path=\"score.musicxml\" "
      "media-type=\"application/vnd.recordare.musicxml+xml\"/></rootfiles></container>\n";
  const Problem cannot{"The packed MusicXML could not be made: there may be no memory left."};
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* sink = zip_source_buffer_create(nullptr, 0, 0, &error);
  if (sink == nullptr) return cannot;
  zip_source_keep(sink);
  zip_t* archive = zip_open_from_source(sink, ZIP_TRUNCATE, &error);
  zip_error_fini(&error);
  if (archive == nullptr) {
    zip_source_free(sink);
    zip_source_free(sink);
    return cannot;
  }
  bool fine = true;
  for (const auto& [name, text] :
       {std::pair<const char*, const std::string&>{kContainer, container}, {"score.musicxml", xml}}) {
    zip_source_t* source = zip_source_buffer(archive, text.data(), text.size(), 0);
    const zip_int64_t index = source != nullptr ? zip_file_add(archive, name, source, ZIP_FL_ENC_UTF_8) : -1;
    if (index < 0 && source != nullptr) zip_source_free(source);
    // The same score gives the same bytes, whenever it is written.
    fine = fine && index >= 0 && zip_file_set_dostime(archive, static_cast<zip_uint64_t>(index), 0, 0x21, 0) == 0;
  }
  if (!fine || zip_close(archive) != 0) {
    zip_discard(archive);
    zip_source_free(sink);
    return cannot;
  }
  std::string bytes;
  zip_stat_t about;
  if (zip_source_open(sink) == 0) {
    zip_source_stat(sink, &about);
    bytes.resize(about.size);
    zip_source_read(sink, bytes.data(), bytes.size());
    zip_source_close(sink);
  }
  zip_source_free(sink);
  return bytes.empty() ? Outcome<Done>(cannot) : writeDurably(file, bytes);
}

}  // namespace ear
