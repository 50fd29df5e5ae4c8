// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/form_page.h"

#include <QGridLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/drawer/time_charts.h"
#include "app/form/section_menu.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/study/form_edit.h"
#include "core/study/running_order.h"

namespace ear {
namespace {
enum Column { kStart, kLetter, kName, kBars };
constexpr int kGuess = Qt::UserRole;

/// A guess is drawn where no name stands, and is not what one edits.
class NameDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

 protected:
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override {
    QStyledItemDelegate::initStyleOption(option, index);
    if (option->text.isEmpty()) option->text = index.data(kGuess).toString();
  }
};
}  // namespace

FormPage::FormPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Form", parent) {
  body()->addWidget(caption(tr("In order")));
  order_ = new QLineEdit(this);
  order_->setObjectName("form-order");
  order_->setAccessibleName(tr("Running order"));
  order_->setToolTip(
      tr("The sections in order, with commas between. Change a word to rename its section, take one away to "
         "join it to the one before, write one more to cut it off; an apostrophe marks a repeat that differs"));
  body()->addWidget(order_);
  connect(order_, &QLineEdit::editingFinished, this, &FormPage::takeOrder);
  makeTable();
  makeButtons();
  body()->addWidget(caption(tr("Which bars are alike")));
  picture_ = new SimilarityChart(this);
  body()->addWidget(picture_);
  body()->addStretch();
  connect(picture_, &SimilarityChart::clicked, this, [this](Seconds at) { bench_.transport().seek(at); });
  followTable();
  refresh();
}

void FormPage::makeTable() {
  table_ = new QTableWidget(0, 4, this);
  table_->setObjectName("form-table");
  table_->setHorizontalHeaderLabels({tr("Start"), tr("Part"), tr("Name"), tr("Bars")});
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(30);
  table_->setShowGrid(false);
  table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->horizontalHeader()->setSectionResizeMode(kName, QHeaderView::Stretch);
  table_->setItemDelegateForColumn(kName, new NameDelegate(table_));
  table_->setColumnWidth(kStart, 66);
  table_->setColumnWidth(kLetter, 46);
  table_->setColumnWidth(kBars, 46);
  table_->setToolTip(tr("Click a start to go there; double-click a letter or a name to change it"));
  body()->addWidget(table_);
  difference_ = new QLabel(this);
  difference_->setObjectName("form-difference");
  difference_->setWordWrap(true);
  body()->addWidget(difference_);
}

void FormPage::makeButtons() {
  auto* grid = new QGridLayout;
  grid->setSpacing(6);
  const auto button = [&](const QString& label, const QString& name, const QString& tip, int at) {
    auto* b = new QPushButton(label, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    grid->addWidget(b, at / 2, at % 2);
    return b;
  };
  split_ = button(tr("Split at playhead"), "form-split", tr("Cut the section at the playhead in two"), 0);
  merge_ = button(tr("Join to previous"), "form-merge", tr("Take away the chosen section's first border"), 1);
  border_ =
      button(tr("Start at playhead"), "form-border", tr("Move the start of the chosen section to the playhead"), 2);
  loop_ = button(tr("Make it the passage"), "form-loop", tr("Loop the chosen section"), 3);
  auto* times =
      button(tr("Times …"), "form-times", tr("All times as a list to copy, write to a file or read from one"), 4);
  auto* mark = button(tr("Mark this spot …"), "form-cue", tr("Put a word of your own at the playhead  (M)"), 5);
  body()->addLayout(grid);
  connect(times, &QPushButton::clicked, this, &FormPage::timesWanted);
  connect(mark, &QPushButton::clicked, this, &FormPage::cueWanted);
  connect(split_, &QPushButton::clicked, this, [this] {
    bench_.form().edit(tr("Split section"), [&](Form& f) { splitSection(f, bench_.transport().position()); });
  });
  connect(merge_, &QPushButton::clicked, this, [this] {
    const int r = row();
    if (r > 0)
      bench_.form().edit(tr("Join sections"), [&](Form& f) { mergeWithPrevious(f, static_cast<std::size_t>(r)); });
  });
  connect(border_, &QPushButton::clicked, this, [this] {
    const int r = row();
    if (r > 0)
      bench_.form().edit(tr("Move border"),
                         [&](Form& f) { moveBorder(f, static_cast<std::size_t>(r), bench_.transport().position()); });
  });
  connect(loop_, &QPushButton::clicked, this, [this] {
    const auto form = bench_.brief().form;
    const int r = row();
    if (!form || r < 0) return;
    bench_.selection().set(std::nullopt);
    bench_.selection().set(form->value[static_cast<std::size_t>(r)].span);
    bench_.transport().seek(bench_.selection().passage()->start);
  });
}

void FormPage::followTable() {
  connect(table_, &QTableWidget::cellClicked, this, [this](int r, int c) {
    const auto form = bench_.brief().form;
    if (c == kStart && form && static_cast<std::size_t>(r) < form->value.size())
      bench_.transport().seek(form->value[static_cast<std::size_t>(r)].span.start);
  });
  connect(table_, &QTableWidget::cellChanged, this, [this](int r, int) {
    const QString letter = table_->item(r, kLetter)->text().remove(QChar(0x2032)).trimmed(),
                  name = table_->item(r, kName)->text().trimmed();
    bench_.form().edit(tr("Rename section"), [&](Form& f) {
      renameSection(f, static_cast<std::size_t>(r), letter.toStdString(), name.toStdString());
    });
  });
  connect(table_, &QTableWidget::itemSelectionChanged, this, &FormPage::showRow);
  table_->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(table_, &QTableWidget::customContextMenuRequested, this, [this](QPoint at) {
    const int r = table_->rowAt(at.y());
    if (r >= 0)
      openSectionMenu(bench_, static_cast<std::size_t>(r), bench_.transport().position(), this,
                      table_->viewport()->mapToGlobal(at));
  });
}

int FormPage::row() const {
  return table_->selectedItems().isEmpty() ? -1 : table_->currentRow();
}

void FormPage::takeOrder() {
  const auto form = bench_.brief().form;
  if (!form || order_->text() == text(runningOrder(form->value))) return;
  const auto edited = withRunningOrder(form->value, order_->text().toStdString(), bench_.time().grid());
  if (!edited) {
    bench_.say(text(edited.problem()));
    refresh();
    return;
  }
  bench_.form().edit(tr("Change the order"), [&](Form& f) { f = *edited; });
}

void FormPage::confirm() {
  auto form = bench_.brief().form;
  if (!form) return;
  for (auto& s : form->value) s.origin = Origin::confirmed, s.certainty = 1.0;
  decide(tr("Confirm form"), &Take::form, form->value, Origin::confirmed, Evidence::Kind::confirmedByEar);
}

void FormPage::takeMeasured() {
  undecide(tr("Back to measured form"), &Take::form);
}

void FormPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.form, found != nullptr ? measuredBrief(*found).form : std::nullopt);
  const QSignalBlocker blocked(table_), orderBlocked(order_);
  const Grid& beats = bench_.time().grid();
  order_->setText(brief.form ? text(runningOrder(brief.form->value)) : QString());
  order_->setEnabled(brief.form.has_value());
  picture_->show(found != nullptr ? found->alike : SelfSimilarityPicture{}, brief.form ? brief.form->value : Form{},
                 found != nullptr && found->rhythm ? found->rhythm->downbeats : std::vector<Seconds>{});
  const int kept = row();
  table_->setRowCount(brief.form ? static_cast<int>(brief.form->value.size()) : 0);
  for (int r = 0; r < table_->rowCount(); ++r) {
    const Section& s = brief.form->value[static_cast<std::size_t>(r)];
    const QString bars = beats.empty() ? QString() : QString::number(barsIn(beats, s.span));
    const QString mark = s.difference.empty() ? QString() : QStringLiteral("\u2032");
    const QString cells[] = {text(clockTenths(s.span.start)), text(s.letter) + mark, text(s.name), bars};
    for (int c = 0; c < 4; ++c) {
      auto* item = new QTableWidgetItem(cells[c]);
      if (c == kStart || c == kBars) item->setFlags(item->flags() & ~Qt::ItemIsEditable);
      QFont font = Theme::font(Theme::Face::text);
      if (s.origin == Origin::confirmed) font.setWeight(QFont::Bold);
      item->setFont(font);
      if (c == kName && s.name.empty() && !s.guess.empty()) {
        item->setData(kGuess, text(s.guess) + "?");
        item->setForeground(Theme::current().softInk);
      }
      if (c == kLetter) item->setBackground(Theme::current().block(text(s.letter)));
      item->setToolTip(tr("Start %1%2")
                           .arg(QString::fromUtf8(originWord(s.origin).data()),
                                s.origin == Origin::measured
                                    ? ", " + QString::fromUtf8(certaintyWord(s.certainty).data())
                                    : QString()));
      table_->setItem(r, c, item);
    }
  }
  constexpr int kMostRows = 9;  // seen without scrolling the table itself
  table_->setFixedHeight(std::clamp(table_->rowCount(), 2, kMostRows) * table_->verticalHeader()->defaultSectionSize() +
                         table_->horizontalHeader()->sizeHint().height() + 4);
  if (kept >= 0 && kept < table_->rowCount()) table_->selectRow(kept);
  showRow();
  split_->setEnabled(bench_.transport().hasSound());
}

void FormPage::showRow() {
  const int r = row();
  merge_->setEnabled(r > 0);
  border_->setEnabled(r > 0);
  loop_->setEnabled(r >= 0);
  const auto form = bench_.brief().form;
  const bool known = form && r >= 0 && static_cast<std::size_t>(r) < form->value.size();
  const Section section = known ? form->value[static_cast<std::size_t>(r)] : Section{};
  difference_->setText(section.difference.empty()
                           ? QString()
                           : tr("As the first %1, but: %2.").arg(text(section.letter), text(section.difference)));
  difference_->setVisible(!section.difference.empty());
}

}  // namespace ear
