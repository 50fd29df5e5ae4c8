// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/questions_box.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kMostHigh = 150;  // pixels of the list

}  // namespace

QuestionsBox::QuestionsBox(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 6, 0, 0);
  column->setSpacing(6);
  column->addWidget(caption(tr("Open questions"), this));
  state_ = wrappingLabel(this, "question-state", Theme::Face::text);
  column->addWidget(state_);
  list_ = new QListWidget(this);
  list_->setObjectName("question-list");
  list_->setAccessibleName(tr("Open questions"));
  list_->setToolTip(tr("Choose one to loop its spot"));
  list_->setWordWrap(true);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setTextElideMode(Qt::ElideNone);
  column->addWidget(list_);
  answer_ = new QLineEdit(this);
  answer_->setObjectName("question-answer");
  answer_->setPlaceholderText(tr("What it turned out to be; Return settles it"));
  answer_->setAccessibleName(tr("Answer to the question"));
  remove_ =
      plainButton(this, "question-remove", tr("Remove"), tr("Take the question off the list; Ctrl+Z brings it back"));
  auto* row = new QHBoxLayout;
  row->addWidget(answer_, 1);
  row->addWidget(remove_);
  column->addLayout(row);
  text_ = new QLineEdit(this);
  text_->setObjectName("question-text");
  text_->setPlaceholderText(tr("A question: hammered or picked? / who could tell"));
  text_->setAccessibleName(tr("A new open question"));
  text_->setToolTip(
      tr("About the passage in hand; behind a / who could settle it. Return puts it on the list  (Ctrl+Shift+O)"));
  column->addWidget(text_);
  connect(text_, &QLineEdit::returnPressed, this, &QuestionsBox::add);
  connect(answer_, &QLineEdit::returnPressed, this, &QuestionsBox::answer);
  connect(remove_, &QPushButton::clicked, this, [this] {
    bench_.document().edit(tr("Remove the question").toStdString(), [id = chosen()](Study& s) {
      s.questions.removeIf([&](const OpenQuestion& q) { return q.id == id; });
    });
  });
  connect(list_, &QListWidget::itemClicked, this, [this] {
    for (const OpenQuestion& q : bench_.document().study().questions)
      if (q.id == chosen()) bench_.selection().put(q.span);
    refresh();
  });
  connect(list_, &QListWidget::currentRowChanged, this, &QuestionsBox::refresh);
  bench.session().whenChanged(kOfTake | Changed::questions, this, &QuestionsBox::refresh);
  refresh();
}

void QuestionsBox::startTyping() {
  text_->setFocus();
}

std::string QuestionsBox::chosen() const {
  const QListWidgetItem* item = list_->currentItem();
  return item != nullptr ? item->data(Qt::UserRole).toString().toStdString() : std::string();
}

void QuestionsBox::add() {
  const QStringList said = text_->text().split('/');
  const auto& passage = bench_.selection().passage();
  if (said.front().trimmed().isEmpty() || bench_.take() == nullptr) return;
  if (!passage) return bench_.say(tr("A question belongs to a spot: drag over it, or press O to take the bar here."));
  OpenQuestion q;
  q.id = freshId(bench_.document().study(), "question");
  q.take = bench_.take()->id;
  q.span = *passage;
  q.text = said.front().trimmed().toStdString();
  if (said.size() > 1) q.who = said[1].trimmed().toStdString();
  bench_.document().edit(tr("Ask a question").toStdString(), [&](Study& s) { s.questions.push_back(q); });
  text_->clear();
}

void QuestionsBox::answer() {
  const std::string id = chosen();
  const QString words = answer_->text().trimmed();
  bench_.document().edit(tr("Answer the question").toStdString(), [&](Study& s) {
    s.questions.changeEach([&](OpenQuestion& q) {
      if (q.id == id) q.answer = words.toStdString();
    });
  });
}

void QuestionsBox::refresh() {
  const std::string now = chosen();
  const QSignalBlocker quiet(list_);
  list_->clear();
  int open = 0;
  for (const OpenQuestion& q : bench_.document().study().questions) {
    if (bench_.take() == nullptr || q.take != bench_.take()->id) continue;
    QString words = tr("%1   %2").arg(text(clockTenths(q.span.start)), text(q.text));
    if (!q.readings.empty()) words += tr(" (%1)").arg(text(joined(q.readings, " / ")));
    if (!q.who.empty()) words += tr(" – %1").arg(text(q.who));
    if (q.answer.empty())
      ++open;
    else
      words += tr("  ✓ %1").arg(text(q.answer));
    auto* item = new QListWidgetItem(words, list_);
    item->setData(Qt::UserRole, text(q.id));
    if (!q.answer.empty()) item->setForeground(Theme::current().softInk);
    if (q.id == now) list_->setCurrentItem(item);
  }
  int high = 4;
  for (int i = 0; i < list_->count(); ++i)
    high += 14 +
            list_->fontMetrics()
                .boundingRect(0, 0, std::max(290, list_->width()) - 130, 1000, Qt::TextWordWrap, list_->item(i)->text())
                .height();
  list_->setFixedHeight(std::min(high, kMostHigh));
  list_->setVisible(list_->count() > 0);
  const bool any = !chosen().empty();
  answer_->setVisible(any);
  remove_->setVisible(any);
  state_->setText(list_->count() == 0 ? tr("Nothing is open in this take.")
                                      : tr("%1 open of %2.").arg(open).arg(list_->count()));
}

}  // namespace ear
