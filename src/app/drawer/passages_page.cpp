// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/passages_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawer/lesson_notes_box.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {
PassagesPage::PassagesPage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->setSpacing(8);
  hint_ = new QLabel(this);
  hint_->setObjectName("soft");
  hint_->setWordWrap(true);
  list_ = new QListWidget(this);
  list_->setObjectName("passage-list");
  list_->setAccessibleName(tr("Kept passages"));
  list_->setToolTip(tr("Choose a passage to loop it"));
  keep_ = new QPushButton(tr("Keep the passage"), this);
  keep_->setObjectName("passage-keep");
  keep_->setToolTip(tr("Keep what loops now, with a name, its speed and its pitch (K)"));
  remove_ = new QPushButton(tr("Remove"), this);
  remove_->setObjectName("passage-remove");
  remove_->setToolTip(tr("Take the chosen passage off the list; Ctrl+Z brings it back"));
  name_ = new QLineEdit(this);
  name_->setObjectName("passage-name");
  name_->setPlaceholderText(tr("Name of the passage"));
  name_->setAccessibleName(tr("Name of the passage"));
  part_ = new QComboBox(this);
  part_->setObjectName("passage-part");
  part_->setAccessibleName(tr("Guitar of the passage"));
  part_->setToolTip(tr("Which guitar the passage belongs to: it comes to hand when the passage is opened"));
  settings_ = new QLabel(this);
  settings_->setObjectName("soft");
  settings_->setWordWrap(true);
  text_ = new QPlainTextEdit(this);
  text_->setObjectName("passage-text");
  text_->setAccessibleName(tr("What you hear in the passage"));
  text_->setFont(Theme::font(Theme::Face::mono));
  text_->setLineWrapMode(QPlainTextEdit::NoWrap);
  text_->setTabChangesFocus(true);
  text_->setPlaceholderText(tr("What you hear: words or typed tab"));
  auto* buttons = new QHBoxLayout;
  back_ = new QPushButton(tr("Back"), this);
  back_->setObjectName("passage-back");
  back_->setToolTip(tr("Hear the passage as it is kept; once more brings your change back (Shift+K)"));
  buttons->addWidget(keep_);
  buttons->addWidget(back_);
  buttons->addWidget(remove_);
  buttons->addStretch();
  column->addWidget(hint_);
  column->addWidget(list_, 2);
  column->addLayout(buttons);
  auto* named = new QHBoxLayout;
  named->addWidget(name_, 3);
  named->addWidget(part_, 2);
  column->addLayout(named);
  column->addWidget(settings_);
  column->addWidget(text_, 2);
  notes_ = new LessonNotesBox(bench, this);
  column->addWidget(notes_, 2);

  connect(list_, &QListWidget::currentRowChanged, this, [this](int r) {
    if (r >= 0) bench_.selection().open(list_->item(r)->data(Qt::UserRole).toString().toStdString());
  });
  connect(keep_, &QPushButton::clicked, this, [this] { bench_.selection().keep(); });
  connect(back_, &QPushButton::clicked, this, [this] { bench_.selection().backToKept(); });
  connect(remove_, &QPushButton::clicked, this, [this] { bench_.selection().remove(bench_.selection().keptId()); });
  connect(name_, &QLineEdit::textEdited, this, [this](const QString& name) {
    const std::string id = bench_.selection().keptId();
    bench_.document().edit(
        "Rename passage",
        [&](Study& s) {
          if (auto* p = s.passage(id)) p->name = name.toStdString();
        },
        "name " + id);
  });
  connect(part_, &QComboBox::activated, this, [this](int i) { givePart(part_->itemData(i).toString()); });
  connect(text_, &QPlainTextEdit::textChanged, this, &PassagesPage::changeText);
  bench.session().whenChanged(kOfTake | Changed::passages | Changed::parts, this, &PassagesPage::refresh);
  connect(&bench.transport(), &Transport::changed, this, &PassagesPage::refresh);
  connect(&bench.selection(), &Selection::changed, this, &PassagesPage::refresh);
  refresh();
}

void PassagesPage::givePart(const QString& part) {
  const std::string id = bench_.selection().keptId();
  bench_.document().edit("Give the passage to a guitar", [&](Study& s) {
    if (auto* p = s.passage(id)) p->part = part.toStdString();
  });
  if (!part.isEmpty()) bench_.document().takeInHand(part.toStdString());
}

void PassagesPage::showParts(const Passage* open) {
  const auto parts = bench_.document().parts();
  const QSignalBlocker quiet(part_);
  part_->clear();
  part_->addItem(tr("of any guitar"), QString());
  for (const auto& p : parts) part_->addItem(tr("of: %1").arg(text(p.name)), text(p.id));
  part_->setCurrentIndex(open != nullptr ? std::max(0, part_->findData(text(open->part))) : 0);
  part_->setVisible(parts.size() > 1);
  part_->setEnabled(open != nullptr);
}

void PassagesPage::changeText() {
  const std::string id = bench_.selection().keptId();
  bench_.document().edit(
      "Write in passage",
      [&](Study& s) {
        if (auto* p = s.passage(id)) p->text = text_->toPlainText().toStdString();
      },
      "text " + id);
}

void PassagesPage::writeNote() {
  notes_->startTyping();
}

void PassagesPage::editName() {
  if (!name_->isEnabled()) return;
  name_->setFocus();
  name_->selectAll();
}

void PassagesPage::refresh() {
  const Study& study = bench_.document().study();
  const QSignalBlocker a(list_), b(text_), c(name_);
  list_->clear();
  const Passage* open = study.passage(bench_.selection().keptId());
  for (const auto& p : study.passages) {
    if (bench_.take() == nullptr || p.take != bench_.take()->id) continue;
    auto* item = new QListWidgetItem(
        tr("%1   %2").arg(text(clockTenths(p.span.start)), p.name.empty() ? tr("(no name)") : text(p.name)), list_);
    item->setData(Qt::UserRole, text(p.id));
    if (&p == open) list_->setCurrentItem(item);
  }
  hint_->setText(
      bench_.take() == nullptr ? tr("Open a recording first.")
      : list_->count() == 0
          ? tr("Drag a passage on the map or the close-up, loop it with Space, and keep it here with what you hear.")
          : tr("%1 kept. Choose one to loop it.").arg(list_->count()));
  showParts(open);
  const bool changed = bench_.selection().differsFromKept();
  keep_->setEnabled(bench_.selection().passage().has_value() && (open == nullptr || changed));
  keep_->setText(changed ? tr("Keep the change") : tr("Keep the passage"));
  back_->setVisible(changed);
  remove_->setEnabled(open != nullptr);
  name_->setEnabled(open != nullptr);
  text_->setEnabled(open != nullptr);
  if (name_->text() != (open ? text(open->name) : QString())) name_->setText(open ? text(open->name) : QString());
  if (text_->toPlainText() != (open ? text(open->text) : QString()))
    text_->setPlainText(open ? text(open->text) : QString());
  const auto words = [](const Passage::Settings& s) {
    return tr("%1 to %2 at %3 %%4")
        .arg(text(clockTenths(s.span.start)), text(clockTenths(s.span.end)), text(fixed(100 * s.speed, 0)),
             s.shift == Cents(0) ? QString() : tr(", shifted %1").arg(text(signedCents(s.shift))));
  };
  settings_->setText(open ? (changed ? tr("Changed since it was kept: ") : tr("Kept: ")) + words(open->settings())
                     : bench_.selection().passage() ? tr("Not kept yet: press K to keep it with what you hear.")
                                                    : QString());
}

}  // namespace ear
