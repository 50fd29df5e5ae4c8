// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>

namespace ear {

class DeskWindow;

/// Draws the desk (or another view) once the recording has been heard, saves the picture unless `file` is empty, then
/// quits: with 1 where the recording could not be opened or the picture not be written.
/// @param view  "desk", "sheet", "tune-up" ...: as the command line names them
void takePicture(DeskWindow& window, const QString& file, const QString& view);

}  // namespace ear
