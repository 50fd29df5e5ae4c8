// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/own_tunings.h"

#include <QSettings>

#include "app/theme/words.h"

namespace ear {
namespace {

constexpr char kGroup[] = "tunings";

// A name may hold what a settings key may not.
QString keyOf(const QString& name) {
  return QString::fromLatin1(name.toUtf8().toHex());
}

}  // namespace

std::vector<OwnTuning> ownTunings() {
  QSettings settings;
  settings.beginGroup(kGroup);
  std::vector<OwnTuning> list;
  for (const QString& key : settings.childKeys()) {
    const QStringList letters = settings.value(key).toString().split(' ', Qt::SkipEmptyParts);
    const auto tuning = parseTuning(letters.join(' ').toStdString(), static_cast<std::size_t>(letters.size()));
    if (tuning) list.push_back({QString::fromUtf8(QByteArray::fromHex(key.toLatin1())), *tuning});
  }
  return list;
}

void rememberTuning(const QString& name, const Tuning& tuning) {
  QSettings settings;
  settings.beginGroup(kGroup);
  settings.setValue(keyOf(name), text(tuningLetters(tuning, Spelling::sharps, true)));
}

}  // namespace ear
