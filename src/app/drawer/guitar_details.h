// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <string>

class QComboBox;
class QLineEdit;

namespace ear {

class Workbench;
struct GuitarPart;

/// What the guitar in hand is: what it is played on, how it sounds, from which note to which it goes, and which other
/// guitar plays the same.
class GuitarDetails : public QWidget {
  Q_OBJECT
 public:
  explicit GuitarDetails(Workbench& bench, QWidget* parent = nullptr);
  void refresh();

 private:
  void change(const QString& label, const std::function<void(GuitarPart&)>& change);
  void takeRange();

  Workbench& bench_;
  QComboBox *instrument_, *doubled_;
  QLineEdit *sound_, *range_;
  std::string shown_;  // the guitar that the fields are of
};

}  // namespace ear
