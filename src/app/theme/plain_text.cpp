// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/theme/plain_text.h"

#include <QApplication>
#include <QEvent>
#include <QLabel>

namespace ear {
namespace {

/// Labels are polished before they are shown first; the tip that every tip is shown in is a label too.
class PlainText : public QObject {
 public:
  using QObject::QObject;
  bool eventFilter(QObject* watched, QEvent* event) override {
    if (event->type() == QEvent::Polish)
      if (auto* label = qobject_cast<QLabel*>(watched); label != nullptr && label->textFormat() == Qt::AutoText)
        label->setTextFormat(Qt::PlainText);
    return false;
  }
};

}  // namespace

void showTextAsItIs(QApplication& app) {
  static auto* filter = new PlainText(&app);
  app.installEventFilter(filter);
}

}  // namespace ear
