// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/study/json_values.h"
#include "core/study/lesson.h"

namespace ear {

Json planToJson(const LessonPlan& plan);
LessonPlan planFrom(const Json& json);
Json givenToJson(const LessonGiven& given);
LessonGiven givenFrom(const Json& json);

}  // namespace ear
