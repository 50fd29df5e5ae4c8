// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/theme/pieces.h"

namespace ear {
namespace {

QVBoxLayout* column(QWidget* widget, int side, int edge, int spacing) {
  auto* layout = new QVBoxLayout(widget);
  layout->setContentsMargins(side, edge, side, edge);
  layout->setSpacing(spacing);
  return layout;
}

}  // namespace

QVBoxLayout* windowColumn(QWidget* window) {
  return column(window, 20, 16, 8);
}

QVBoxLayout* pageColumn(QWidget* page) {
  return column(page, 16, 12, 6);
}

QLabel* wrappingLabel(QWidget* parent, const char* name, Theme::Face face) {
  auto* label = new QLabel(parent);
  label->setObjectName(name);
  label->setFont(Theme::font(face));
  label->setWordWrap(true);
  return label;
}

QPushButton* plainButton(QWidget* parent, const char* name, const QString& title, const QString& tip) {
  auto* button = new QPushButton(title, parent);
  button->setObjectName(name);
  button->setToolTip(tip);
  button->setAutoDefault(false);
  return button;
}

QHBoxLayout* rowOf(std::initializer_list<QWidget*> widgets) {
  auto* row = new QHBoxLayout;
  for (QWidget* widget : widgets) row->addWidget(widget);
  row->addStretch();
  return row;
}

}  // namespace ear
