// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/paths.h"

#include <utf8cpp/utf8.h>

#include "core/study/study_file.h"

namespace ear {
namespace {
constexpr char16_t kEscape = 0xDC00;
}

QString pathText(const std::filesystem::path& path) {
  const std::string& bytes = path.native();
  QString text;
  for (auto at = bytes.begin(); at != bytes.end();) {
    const auto bad = utf8::find_invalid(at, bytes.end());
    text += QString::fromUtf8(&*at, bad - at);
    at = bad;
    if (at != bytes.end()) text += QChar(static_cast<char16_t>(kEscape + static_cast<unsigned char>(*at++)));
  }
  return text;
}

std::filesystem::path toPath(const QString& text) {
  std::string bytes;
  for (qsizetype i = 0; i < text.size();) {
    if (text[i].isLowSurrogate()) {  // one without the high one before it
      bytes += static_cast<char>(text[i++].unicode() - kEscape);
      continue;
    }
    const qsizetype length = text[i].isHighSurrogate() && i + 1 < text.size() ? 2 : 1;
    bytes += text.mid(i, length).toStdString();
    i += length;
  }
  return bytes;
}

std::filesystem::path freeName(const std::filesystem::path& file, const QString& what) {
  for (int n = 1;; ++n) {
    const std::string number = n == 1 ? "" : " " + std::to_string(n);
    auto name =
        file.parent_path() / (file.stem().native() + " (" + what.toStdString() + number + ")" + kStudyFileExtension);
    if (!std::filesystem::exists(name)) return name;
  }
}

}  // namespace ear
