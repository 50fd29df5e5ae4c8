// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/own_speeds.h"

#include <QSettings>
#include <QStringList>
#include <algorithm>

namespace ear {
namespace {

constexpr char kKey[] = "speeds";
constexpr double kSame = 0.5;  // per cent

}  // namespace

std::vector<int> ownSpeeds() {
  std::vector<int> speeds;
  for (const QString& s : QSettings().value(kKey, QStringList{"50", "70", "85", "100"}).toStringList())
    if (const int percent = s.toInt(); percent > 0) speeds.push_back(percent);
  std::sort(speeds.begin(), speeds.end());
  return speeds;
}

bool toggleOwnSpeed(int percent) {
  auto speeds = ownSpeeds();
  const bool kept = std::erase(speeds, percent) == 0;
  if (kept) speeds.push_back(percent);
  QStringList words;
  for (const int s : speeds) words << QString::number(s);
  QSettings().setValue(kKey, words);
  return kept;
}

std::optional<int> ownSpeedBeside(double percent, bool faster) {
  std::optional<int> found;
  for (const int s : ownSpeeds()) {
    if (faster && s > percent + kSame) return s;
    if (!faster && s < percent - kSame) found = s;
  }
  return found;
}

}  // namespace ear
