// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/results/form_findings.h"

namespace ear {

std::string_view roleWord(Role role) {
  switch (role) {
    case Role::none:
      return "";
    case Role::countIn:
      return "count-in";
    case Role::intro:
      return "intro";
    case Role::verse:
      return "verse";
    case Role::chorus:
      return "chorus";
    case Role::bridge:
      return "bridge";
    case Role::solo:
      return "solo";
    case Role::breakdown:
      return "breakdown";
    case Role::outro:
      return "outro";
    case Role::noMusic:
      return "no music";
  }
  return "";
}

}  // namespace ear
