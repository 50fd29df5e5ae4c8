// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

class QApplication;

namespace ear {

/// From now on every label and tip shows its text as it is. Left to themselves they guess whether it is HTML, and what
/// comes from studies, tags and names of files would be obeyed: "<img src=...>" reads any file.
void showTextAsItIs(QApplication& app);

}  // namespace ear
