// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

namespace ear {

/// The one place of all colours, sizes and faces.
struct Theme {
  bool dark = false;
  QColor ground, panel, hairline, ink, softInk, accent, accentWash, warning, error, onAccent, sound;

  /// Muted hues that stay apart for colour-blind eyes; picked by a section's letter. Text on them is `ink`.
  QColor block(const QString& letter) const;

  static const Theme& current();
  /// Ink on white, for what is printed.
  static const Theme& paper();
  enum class Choice { system, light, dark };
  static void apply(QApplication& app, Choice choice);
  /// Makes the text face known; apply() does so itself. @pre there is an application
  static void loadFaces();

  // Sizes in pixels, on a grid of eight.
  static constexpr int kGrid = 8, kControl = 36, kDeckControl = 44;
  static constexpr int kStudyLine = 44, kBriefRow = 92, kBriefLine = 34, kMap = 102, kDeck = 96, kDrawer = 340,
                       kCloseUpLeast = 260;

  enum class Face { text, small, strong, sentence, figure, mono };
  static QFont font(Face face);
};

}  // namespace ear
