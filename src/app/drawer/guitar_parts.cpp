// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/guitar_parts.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"

namespace ear {

GuitarParts::GuitarParts(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  parts_ = new QComboBox(this);
  parts_->setObjectName("guitar-parts");
  parts_->setAccessibleName(tr("Guitar in hand"));
  parts_->setEditable(true);
  parts_->setInsertPolicy(QComboBox::NoInsert);
  parts_->setToolTip(tr("The guitar in hand: the neck, the tuner and the sheet follow it. Type to rename it."));
  auto* add = new QPushButton(tr("Add"), this);
  add->setObjectName("guitar-add");
  add->setToolTip(tr("Another guitar of this recording, or an arrangement of your own"));
  remove_ = new QPushButton(tr("Remove"), this);
  remove_->setObjectName("guitar-remove");
  remove_->setToolTip(tr("Take this guitar off the study; Ctrl+Z brings it back"));
  row->addWidget(parts_, 1);
  row->addWidget(add);
  row->addWidget(remove_);
  rows->addLayout(row);
  auto* where = new QHBoxLayout;
  where->setSpacing(6);
  side_ = new QComboBox(this);
  side_->setObjectName("guitar-side");
  side_->setAccessibleName(tr("Where it sits"));
  for (const Side side : kAllSides)
    side_->addItem(tr("sits %1").arg(side == Side::centre ? tr("in the middle") : text(sideWord(side))));
  kind_ = new QComboBox(this);
  kind_->setObjectName("guitar-kind");
  kind_->setAccessibleName(tr("As recorded or arranged"));
  kind_->addItems({tr("as recorded"), tr("arranged")});
  kind_->setToolTip(tr("Arranged: parts are merged or changed for one pair of hands"));
  where->addWidget(side_, 1);
  where->addWidget(kind_, 1);
  rows->addLayout(where);
  connect(add, &QPushButton::clicked, this, &GuitarParts::add);
  connect(remove_, &QPushButton::clicked, this, &GuitarParts::remove);
  follow();
}

void GuitarParts::follow() {
  connect(parts_, &QComboBox::activated, this, [this](int i) {
    const auto all = bench_.document().parts();
    if (i >= 0 && static_cast<std::size_t>(i) < all.size())
      bench_.document().takeInHand(all[static_cast<std::size_t>(i)].id);
  });
  connect(parts_->lineEdit(), &QLineEdit::editingFinished, this, [this] {
    const GuitarPart part = bench_.document().part();
    const auto name = parts_->lineEdit()->text().trimmed().toStdString();
    if (!name.empty() && name != part.name && parts_->findText(text(name)) < 0)
      bench_.document().editPart(tr("Rename guitar").toStdString(), part.id, [&](GuitarPart& p) { p.name = name; });
  });
  connect(side_, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("FretPosition guitar").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.side = static_cast<Side>(i); });
  });
  connect(kind_, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("Mark guitar").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.arranged = i == 1; });
  });
}

void GuitarParts::add() {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  std::string id;
  bench_.document().edit(tr("Add guitar").toStdString(),
                         [&, on = *take, found = bench_.session().findings()](Study& s) {
                           keepParts(s, on, found);
                           id = freshId(s, "guitar");
                           s.parts.push_back({id, on.id, "Guitar " + std::to_string(s.parts.size() + 1), Side::centre});
                         });
  bench_.document().takeInHand(id);
}

void GuitarParts::remove() {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  const std::string id = bench_.document().part().id;
  bench_.document().edit(tr("Remove guitar").toStdString(),
                         [&, on = *take, found = bench_.session().findings()](Study& s) {
                           keepParts(s, on, found);
                           removePart(s, id);
                         });
}

void GuitarParts::refresh() {
  const auto all = bench_.document().parts();
  const GuitarPart part = bench_.document().part();
  const QSignalBlocker a(parts_), b(side_), c(kind_);
  parts_->clear();
  for (const auto& p : all) parts_->addItem(text(p.name));
  parts_->setCurrentIndex(parts_->findText(text(part.name)));
  side_->setCurrentIndex(static_cast<int>(part.side));
  kind_->setCurrentIndex(part.arranged ? 1 : 0);
  remove_->setEnabled(all.size() > 1);
  for (QWidget* w : {parts_, side_, kind_}) w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
