// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <pugixml.hpp>
#include <string>

#include "core/base/text.h"

namespace ear::musicxml {

/// A child with a text, appended.
inline pugi::xml_node add(pugi::xml_node to, const char* name, const std::string& text) {
  pugi::xml_node child = to.append_child(name);
  child.text().set(text.c_str());
  return child;
}

inline pugi::xml_node add(pugi::xml_node to, const char* name, int number) {
  return add(to, name, std::to_string(number));
}

/// "0.5", "120": up to six decimals, none that say nothing.
inline std::string plainNumber(double value) {
  std::string text = fixed(value, 6);
  text.erase(text.find_last_not_of('0') + 1);
  if (text.ends_with('.')) text.pop_back();
  return text;
}

}  // namespace ear::musicxml
