// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/keys/key_window.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTextDocument>
#include <QVBoxLayout>

#include "app/keys/key_map.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"

namespace ear {

KeyWindow::KeyWindow(KeyMap& map, QWidget* parent) : QDialog(parent), map_(map) {
  setWindowTitle(tr("Keys and pedals"));
  setObjectName("keys");
  resize(640, 640);
  auto* column = windowColumn(this);
  filter_ = new QLineEdit(this);
  filter_->setObjectName("keys-filter");
  filter_->setPlaceholderText(tr("Find a command or a key"));
  filter_->setAccessibleName(filter_->placeholderText());
  table_ = new QTableWidget(0, 3, this);
  table_->setObjectName("keys-table");
  table_->setAccessibleName(tr("Commands"));
  table_->setHorizontalHeaderLabels({tr("Command"), tr("Key"), tr("Pedal")});
  table_->verticalHeader()->hide();
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setShowGrid(false);
  table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  table_->setColumnWidth(1, 130);
  table_->setColumnWidth(2, 170);
  key_ = new QKeySequenceEdit(this);
  key_->setObjectName("keys-key");
  key_->setAccessibleName(tr("New key"));
  set_ = plainButton(this, "keys-set", tr("Give it this key"), tr("The command gets the key on the left"));
  none_ = plainButton(this, "keys-none", tr("No key"), tr("The command keeps its place in the menu"));
  standard_ = plainButton(this, "keys-standard", tr("Standard key"), tr("The key it came with"));
  learn_ = plainButton(this, "keys-learn", tr("Learn a pedal"), tr("Then press the switch that shall do it"));
  forget_ = plainButton(this, "keys-forget", tr("Forget its pedal"), tr("No switch does it any more"));
  state_ = wrappingLabel(this, "keys-state", Theme::Face::text);
  pedals_ = wrappingLabel(this, "soft", Theme::Face::text);
  auto* keys = new QHBoxLayout;
  for (QWidget* w : std::initializer_list<QWidget*>{key_, set_, none_, standard_}) keys->addWidget(w);
  auto* pedals = rowOf({learn_, forget_});
  if (auto* simulated = dynamic_cast<SimulatedPedal*>(map.pedal())) {
    for (int n = 1; n <= 3; ++n) {
      auto* b =
          plainButton(this, "keys-switch", tr("Switch %1").arg(n), tr("A switch of the simulated pedal, to try it"));
      b->setObjectName("keys-switch-" + QString::number(n));
      connect(b, &QPushButton::clicked, this, [simulated, n] { simulated->press(63 + n); });
      pedals->addWidget(b);
    }
  }
  auto* all = plainButton(this, "keys-reset", tr("All standard keys"), tr("Every command gets the key it came with"));
  auto* print = plainButton(this, "keys-print", tr("Print the card …"), tr("All keys on paper"));
  auto* pdf = plainButton(this, "keys-pdf", tr("Card as PDF …"), tr("All keys in a file"));
  column->addWidget(filter_);
  column->addWidget(table_, 1);
  column->addLayout(keys);
  column->addWidget(state_);
  column->addLayout(pedals);
  column->addWidget(pedals_);
  column->addLayout(rowOf({all, print, pdf}));
  connect(filter_, &QLineEdit::textChanged, this, &KeyWindow::fill);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    key_->clear();
    refresh();
  });
  connect(key_, &QKeySequenceEdit::keySequenceChanged, this, &KeyWindow::refresh);
  connect(set_, &QPushButton::clicked, this, &KeyWindow::tryKey);
  connect(none_, &QPushButton::clicked, this, [this] { map_.setKey(chosen(), {}); });
  connect(standard_, &QPushButton::clicked, this, [this] {
    for (const auto& e : map_.entries())
      if (e.action == chosen()) map_.setKey(e.action, e.standard);
  });
  connect(learn_, &QPushButton::clicked, this, [this] { map_.learn(map_.learning() != nullptr ? nullptr : chosen()); });
  connect(forget_, &QPushButton::clicked, this, [this] { map_.forgetPedal(chosen()); });
  connect(all, &QPushButton::clicked, this, [this] { map_.reset(); });
  connect(print, &QPushButton::clicked, this, [this] { printCard(false); });
  connect(pdf, &QPushButton::clicked, this, [this] { printCard(true); });
  connect(&map, &KeyMap::changed, this, [this] {
    fill();
    refresh();
  });
  connect(this, &QDialog::finished, this, [this] { map_.learn(nullptr); });
  fill();
  refresh();
}

QAction* KeyWindow::chosen() const {
  const auto rows = table_->selectionModel()->selectedRows();
  if (rows.isEmpty()) return nullptr;
  const QString name = table_->item(rows.front().row(), 0)->data(Qt::UserRole).toString();
  for (const auto& e : map_.entries())
    if (e.action->objectName() == name) return e.action;
  return nullptr;
}

void KeyWindow::fill() {
  const QAction* before = chosen();
  const QString wanted = filter_->text();
  const QSignalBlocker quiet(table_);
  table_->setRowCount(0);
  for (const auto& e : map_.entries()) {
    const QString title = e.group + ": " + e.action->text().remove('&');
    const QString key = e.action->shortcut().toString(QKeySequence::NativeText);
    if (!title.contains(wanted, Qt::CaseInsensitive) && key.compare(wanted, Qt::CaseInsensitive) != 0) continue;
    const int row = table_->rowCount();
    table_->insertRow(row);
    auto* item = new QTableWidgetItem(title);
    item->setData(Qt::UserRole, e.action->objectName());
    table_->setItem(row, 0, item);
    table_->setItem(row, 1, new QTableWidgetItem(key + (e.action->shortcut() == e.standard ? "" : " *")));
    table_->setItem(row, 2, new QTableWidgetItem(map_.pedalOf(e.action)));
    if (e.action == before) table_->selectRow(row);
  }
}

void KeyWindow::tryKey() {
  if (QAction* action = chosen()) map_.setKey(action, key_->keySequence());
  key_->clear();
}

void KeyWindow::refresh() {
  const QAction* action = chosen();
  const QKeySequence key = key_->keySequence();
  const QString taken = action != nullptr ? map_.takenBy(key, action) : QString();
  bool fixed = !taken.isEmpty();
  for (const auto& e : map_.entries())
    if (e.action->shortcut() == key) fixed = false;
  set_->setEnabled(action != nullptr && !key.isEmpty() && !fixed);
  set_->setText(taken.isEmpty() || fixed ? tr("Give it this key") : tr("Take the key over"));
  for (auto* button : {none_, standard_, learn_}) button->setEnabled(action != nullptr);
  forget_->setEnabled(action != nullptr && !map_.pedalOf(action).isEmpty());
  learn_->setText(map_.learning() != nullptr ? tr("Stop learning") : tr("Learn a pedal"));
  state_->setText(map_.learning() != nullptr
                      ? tr("Press the switch that shall do “%1”.").arg(map_.learning()->text().remove('&'))
                  : action == nullptr ? tr("Choose a command, then press its new key in the field.")
                  : fixed             ? tr("This key belongs to %1 and stays there: choose another.").arg(taken)
                  : !taken.isEmpty()  ? tr("This key belongs to “%1”, which would lose it.").arg(taken)
                                      : QString());
  QStringList ports;
  if (map_.pedal() != nullptr)
    for (const auto& port : map_.pedal()->ports()) ports << text(port);
  pedals_->setText(ports.isEmpty()
                       ? tr("No MIDI pedal is plugged in. A pedal that sends keys works as a keyboard does.")
                       : tr("Listening to: %1").arg(ports.join(", ")));
}

void KeyWindow::printCard(bool pdf) {
  QPrinter printer(QPrinter::HighResolution);
  if (pdf) {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Card of keys as PDF"), folder + "/" + tr("keys.pdf"), tr("PDF (*.pdf)"));
    if (file.isEmpty()) return;
    printer.setOutputFormat(QPrinter::PdfFormat);
    printer.setOutputFileName(file);
  } else if (QPrintDialog(&printer, this).exec() != QDialog::Accepted) {
    return;
  }
  QTextDocument document;
  document.setDefaultFont(Theme::font(Theme::Face::small));
  document.setHtml(map_.card());
  document.print(&printer);
}

}  // namespace ear
