// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/recent_studies.h"

#include <QFileInfo>
#include <QSettings>

namespace ear {
namespace {

constexpr int kMostRecent = 10;

}  // namespace

QStringList recentStudies() {
  QStringList files;
  for (const QString& file : QSettings().value("recent").toStringList())
    if (QFileInfo::exists(file)) files.append(file);
  return files;
}

void rememberStudy(const QString& file) {
  QStringList files = recentStudies();
  const QString path = QFileInfo(file).absoluteFilePath();
  files.removeAll(path);
  files.prepend(path);
  QSettings().setValue("recent", files.mid(0, kMostRecent));
}

}  // namespace ear
