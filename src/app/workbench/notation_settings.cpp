// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/notation_settings.h"

#include <QSettings>

namespace ear {
namespace {

/// Each choice with its key and how many there are.
template <class Visit>
void eachChoice(NotationPreferences& s, Visit visit) {
  visit("strings", s.strings, 5);
  visit("letters", s.letters, 2);
  visit("signs", s.signs, 3);
  visit("key-lead", s.keyLead, 2);
  visit("neck-map", s.neckMap, 3);
  visit("bends", s.bends, 4);
  visit("counting", s.counting, 4);
  visit("places", s.places, 2);
}

}  // namespace

NotationPreferences loadNotation() {
  NotationPreferences schools;
  QSettings settings;
  settings.beginGroup("naming");
  eachChoice(schools, [&]<class Choice>(const char* key, Choice& choice, int count) {
    const int stored = settings.value(key, 0).toInt();
    if (stored >= 0 && stored < count) choice = static_cast<Choice>(stored);
  });
  return schools;
}

void saveNotation(const NotationPreferences& schools) {
  NotationPreferences copy = schools;
  QSettings settings;
  settings.beginGroup("naming");
  eachChoice(copy, [&](const char* key, auto& choice, int) { settings.setValue(key, static_cast<int>(choice)); });
}

}  // namespace ear
