// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/lesson_notes_box.h"

#include <QInputDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/study/lesson_notes.h"

namespace ear {

LessonNotesBox::LessonNotesBox(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  column->addWidget(caption(tr("Notes for the lesson"), this));
  line_ = new QLineEdit(this);
  line_->setObjectName("note-line");
  line_->setPlaceholderText(tr("Type while it plays; Return pins it"));
  line_->setAccessibleName(tr("Note for the lesson"));
  line_->setToolTip(tr("Pinned to where the sound is when you type the first letter  (Shift+M)"));
  list_ = new QListWidget(this);
  list_->setObjectName("note-list");
  list_->setAccessibleName(tr("Notes for the lesson"));
  list_->setToolTip(tr("Click to go there, double-click to change it; without words it goes"));
  list_->setWordWrap(true);
  list_->setMinimumHeight(70);
  column->addWidget(line_);
  column->addWidget(list_, 1);
  connect(line_, &QLineEdit::textEdited, this, [this](const QString& words) {
    if (words.isEmpty())
      begun_.reset();
    else if (!begun_)
      begun_ = bench_.transport().position();
  });
  connect(line_, &QLineEdit::returnPressed, this, &LessonNotesBox::keep);
  connect(list_, &QListWidget::itemClicked, this,
          [this](QListWidgetItem* item) { bench_.transport().seek(Seconds(item->data(Qt::UserRole).toDouble())); });
  connect(list_, &QListWidget::itemDoubleClicked, this, [this](QListWidgetItem* item) { edit(list_->row(item)); });
  bench.session().whenChanged(kOfTake | Changed::notes, this, &LessonNotesBox::refresh);
  refresh();
}

void LessonNotesBox::startTyping() {
  line_->setFocus();
  line_->selectAll();
}

void LessonNotesBox::keep() {
  const QString words = line_->text().trimmed();
  if (words.isEmpty() || bench_.take() == nullptr) return;
  const LessonNote note{bench_.take()->id, begun_.value_or(bench_.transport().position()), words.toStdString()};
  begun_.reset();
  line_->clear();
  bench_.document().edit(tr("Note for the lesson").toStdString(), [&](Study& s) { pinNote(s, note); });
}

void LessonNotesBox::edit(int row) {
  if (bench_.take() == nullptr) return;
  const auto notes = notesOf(bench_.document().study(), bench_.take()->id);
  if (row < 0 || static_cast<std::size_t>(row) >= notes.size()) return;
  const LessonNote& note = notes[static_cast<std::size_t>(row)];
  bool fine = false;
  const QString words = QInputDialog::getText(this, tr("Note for the lesson"), tr("Words (empty: no note):"),
                                              QLineEdit::Normal, text(note.text), &fine);
  if (fine)
    bench_.document().edit(tr("Change note").toStdString(),
                           [&](Study& s) { rewriteNote(s, note, words.trimmed().toStdString()); });
}

void LessonNotesBox::refresh() {
  list_->clear();
  line_->setEnabled(bench_.take() != nullptr);
  if (bench_.take() == nullptr) return;
  for (const auto& n : notesOf(bench_.document().study(), bench_.take()->id)) {
    auto* item = new QListWidgetItem(tr("%1   %2").arg(text(clockTenths(n.time)), text(n.text)), list_);
    item->setData(Qt::UserRole, n.time.value);
  }
}

}  // namespace ear
