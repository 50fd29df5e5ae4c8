// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/passages_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/drawer/lesson_notes_box.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/kept_tree.h"

namespace ear {
PassagesPage::PassagesPage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->setSpacing(8);
  hint_ = new QLabel(this);
  hint_->setObjectName("soft");
  hint_->setWordWrap(true);
  tree_ = new QTreeWidget(this);
  tree_->setObjectName("passage-tree");
  tree_->setAccessibleName(tr("Kept passages and phrases"));
  tree_->setToolTip(tr("Choose one to loop it; the next and the one before with Alt+' and Alt+;"));
  tree_->setHeaderHidden(true);
  tree_->setIndentation(14);
  tree_->setRootIsDecorated(false);
  tree_->setItemsExpandable(false);
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
  column->addWidget(tree_, 3);
  column->addLayout(buttons);
  auto* named = new QHBoxLayout;
  named->addWidget(name_, 3);
  named->addWidget(part_, 2);
  column->addLayout(named);
  column->addWidget(settings_);
  column->addWidget(text_, 2);
  notes_ = new LessonNotesBox(bench, this);
  column->addWidget(notes_, 2);

  connect(tree_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) { openItem(item); });
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
  bench.session().whenChanged(kOfTake | Changed::passages | Changed::parts | Changed::phrases | Changed::form, this,
                              &PassagesPage::refresh);
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

/// Sections with what lies in them, and that with what lies in it.
void PassagesPage::fillTree() {
  const QSignalBlocker quiet(tree_);
  tree_->clear();
  if (bench_.take() == nullptr) return;
  const Study& study = std::as_const(bench_.document()).study();
  const Form form = bench_.form().form();
  std::vector<QTreeWidgetItem*> above;  // by depth
  for (const KeptSpan& k : keptTree(study, bench_.take()->id, form)) {
    QString words;
    if (k.kind == KeptSpan::Kind::section) {
      const Section& s = form[std::stoul(k.id)];
      words = s.name.empty() ? tr("Section %1").arg(text(s.letter)) : tr("%1  %2").arg(text(s.letter), text(s.name));
    } else if (k.kind == KeptSpan::Kind::phrase) {
      const Phrase& p = *study.phrase(k.id);
      words = p.name.empty() ? tr("(no name)") : text(p.name);
      if (p.number > 0) words = tr("%1 · %2").arg(p.number).arg(words);
      words += p.link ? tr(", tab, again") : tr(", tab");
    } else {
      const std::string& name = study.passage(k.id)->name;
      words = name.empty() ? tr("(no name)") : text(name);
    }
    above.resize(static_cast<std::size_t>(k.depth));
    auto* item = above.empty() ? new QTreeWidgetItem(tree_) : new QTreeWidgetItem(above.back());
    item->setText(0, tr("%1   %2").arg(text(clockTenths(k.span.start)), words));
    item->setData(0, Qt::UserRole, text(k.id));
    item->setData(0, Qt::UserRole + 1, static_cast<int>(k.kind));
    if (k.kind == KeptSpan::Kind::section) item->setForeground(0, Theme::current().softInk);
    item->setExpanded(true);
    above.push_back(item);
    const Phrase* inHand = bench_.phrases().phrase();
    const bool here = k.kind == KeptSpan::Kind::passage  ? k.id == bench_.selection().keptId()
                      : k.kind == KeptSpan::Kind::phrase ? inHand != nullptr && k.id == inHand->id
                                                         : false;
    if (here && (tree_->currentItem() == nullptr || k.kind == KeptSpan::Kind::passage)) tree_->setCurrentItem(item);
  }
  tree_->expandAll();
}

void PassagesPage::openItem(const QTreeWidgetItem* item) {
  if (item == nullptr) return;
  const std::string id = item->data(0, Qt::UserRole).toString().toStdString();
  switch (static_cast<KeptSpan::Kind>(item->data(0, Qt::UserRole + 1).toInt())) {
    case KeptSpan::Kind::section:
      bench_.selection().put(bench_.form().form()[std::stoul(id)].span);
      break;
    case KeptSpan::Kind::phrase:
      bench_.phrases().open(id);
      break;
    case KeptSpan::Kind::passage:
      bench_.selection().open(id);
      break;
  }
}

void PassagesPage::step(int by) {
  std::vector<QTreeWidgetItem*> kept;
  std::ptrdiff_t here = by > 0 ? -1 : 0;
  for (QTreeWidgetItemIterator it(tree_); *it != nullptr; ++it) {
    if ((*it)->data(0, Qt::UserRole + 1).toInt() == static_cast<int>(KeptSpan::Kind::section)) continue;
    if (*it == tree_->currentItem()) here = static_cast<std::ptrdiff_t>(kept.size());
    kept.push_back(*it);
  }
  const auto count = static_cast<std::ptrdiff_t>(kept.size());
  if (count == 0) return bench_.say(tr("Nothing is kept in this take yet: K keeps the passage in hand."));
  tree_->setCurrentItem(kept[static_cast<std::size_t>(((here + by) % count + count) % count)]);
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
  const QSignalBlocker b(text_), c(name_);
  fillTree();
  const Passage* open = study.passage(bench_.selection().keptId());
  const auto kept = std::count_if(study.passages.begin(), study.passages.end(), [&](const Passage& p) {
    return bench_.take() != nullptr && p.take == bench_.take()->id;
  });
  hint_->setText(
      bench_.take() == nullptr ? tr("Open a recording first.")
      : tree_->topLevelItemCount() == 0
          ? tr("Drag a passage on the map or the close-up, loop it with Space, and keep it here with what you hear.")
          : tr("%1 and %2 kept. Choose one to loop it.")
                .arg(counted(static_cast<int>(kept), tr("passage"), tr("passages")),
                     counted(static_cast<int>(bench_.phrases().ofTake().size()), tr("phrase"), tr("phrases"))));
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
