// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/keys/command_finder.h"

#include <QApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QTimer>
#include <algorithm>

#include "app/keys/key_map.h"
#include "app/theme/pieces.h"

namespace ear {
namespace {

QString nameOf(const QAction& action) {
  return QString(action.text()).remove('&').remove(QStringLiteral(" …"));
}

/// Every word is in the name or its tip.
bool fits(const QAction& action, const QStringList& words) {
  const QString where = nameOf(action) + ' ' + action.toolTip();
  return std::all_of(words.begin(), words.end(),
                     [&](const QString& word) { return where.contains(word, Qt::CaseInsensitive); });
}

}  // namespace

CommandFinder::CommandFinder(const KeyMap& map, QWidget* parent) : QDialog(parent), map_(map) {
  setWindowTitle(tr("Find a command"));
  setObjectName("finder");
  setAttribute(Qt::WA_DeleteOnClose);
  resize(460, 380);
  auto* column = windowColumn(this);
  field_ = new QLineEdit(this);
  field_->setObjectName("finder-field");
  field_->setPlaceholderText(tr("Words of its name, such as “slower” or “bar”"));
  field_->setAccessibleName(tr("Words of a command's name"));
  field_->installEventFilter(this);
  list_ = new QListWidget(this);
  list_->setObjectName("finder-list");
  list_->setAccessibleName(tr("Commands that fit"));
  column->addWidget(field_);
  column->addWidget(list_, 1);
  connect(field_, &QLineEdit::textChanged, this, &CommandFinder::find);
  connect(field_, &QLineEdit::returnPressed, this, &CommandFinder::runChosen);
  connect(list_, &QListWidget::itemActivated, this, &CommandFinder::runChosen);
  find({});
  field_->setFocus();
}

void CommandFinder::find(const QString& typed) {
  list_->clear();
  const QStringList words = typed.split(' ', Qt::SkipEmptyParts);
  for (std::size_t i = 0; i < map_.entries().size(); ++i) {
    const auto& [action, group, standard] = map_.entries()[i];
    if (!fits(*action, words)) continue;
    const QString key = action->shortcut().toString(QKeySequence::NativeText);
    auto* item = new QListWidgetItem(
        group + ": " + nameOf(*action) + (key.isEmpty() ? QString() : QStringLiteral("   (%1)").arg(key)), list_);
    item->setData(Qt::UserRole, QVariant::fromValue(i));
    if (action->isEnabled()) continue;
    item->setFlags(item->flags() & ~Qt::ItemIsEnabled);  // shown with its key, but of no use now
  }
  for (int row = 0; row < list_->count(); ++row)
    if (list_->item(row)->flags().testFlag(Qt::ItemIsEnabled)) {
      list_->setCurrentRow(row);
      return;
    }
}

void CommandFinder::runChosen() {
  const QListWidgetItem* item = list_->currentItem();
  if (item == nullptr || !item->flags().testFlag(Qt::ItemIsEnabled)) return;
  QAction* action = map_.entries()[item->data(Qt::UserRole).value<std::size_t>()].action;
  close();
  // Later: what it opens is to stand over the desk, not over this window.
  QTimer::singleShot(0, action, &QAction::trigger);
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
  if (watched == field_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Up || key == Qt::Key_Down) {
      QApplication::sendEvent(list_, event);
      return true;
    }
  }
  return QDialog::eventFilter(watched, event);
}

}  // namespace ear
