// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

namespace ear {

/// A figure whose digits all take the same room, so that it does not tremble while it counts.
class TabularLabel : public QWidget {
  Q_OBJECT
 public:
  explicit TabularLabel(const QFont& font, QWidget* parent = nullptr);
  void setText(const QString& text);
  const QString& text() const { return text_; }
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  int widthOf(QChar c) const;
  QString text_;
};

}  // namespace ear
