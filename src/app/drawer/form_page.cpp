#include "app/drawer/form_page.h"

#include <QGridLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/study/form_edit.h"
#include "core/text.h"

namespace ear {
namespace {
enum Column { kStart, kLetter, kName, kBars };
}  // namespace

FormPage::FormPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Form", parent) {
  table_ = new QTableWidget(0, 4, this);
  table_->setObjectName("form-table");
  table_->setHorizontalHeaderLabels({tr("Start"), tr("Part"), tr("Name"), tr("Bars")});
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(30);
  table_->setShowGrid(false);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->horizontalHeader()->setSectionResizeMode(kName, QHeaderView::Stretch);
  table_->setColumnWidth(kStart, 66);
  table_->setColumnWidth(kLetter, 46);
  table_->setColumnWidth(kBars, 46);
  table_->setToolTip(tr("Click a start to go there; double-click a letter or a name to change it"));
  body()->addWidget(table_, 1);

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
  body()->addLayout(grid);

  connect(table_, &QTableWidget::cellClicked, this, [this](int r, int c) {
    const auto form = bench_.brief().form;
    if (c == kStart && form && static_cast<std::size_t>(r) < form->value.size())
      bench_.seek(form->value[static_cast<std::size_t>(r)].span.start);
  });
  connect(table_, &QTableWidget::cellChanged, this, [this](int r, int) {
    const QString letter = table_->item(r, kLetter)->text().trimmed(), name = table_->item(r, kName)->text().trimmed();
    change(tr("Rename section"),
           [&](Form& f) { renameSection(f, static_cast<std::size_t>(r), letter.toStdString(), name.toStdString()); });
  });
  connect(split_, &QPushButton::clicked, this,
          [this] { change(tr("Split section"), [&](Form& f) { splitSection(f, bench_.position()); }); });
  connect(merge_, &QPushButton::clicked, this, [this] {
    const int r = row();
    if (r > 0) change(tr("Join sections"), [&](Form& f) { mergeWithPrevious(f, static_cast<std::size_t>(r)); });
  });
  connect(border_, &QPushButton::clicked, this, [this] {
    const int r = row();
    if (r > 0)
      change(tr("Move border"), [&](Form& f) { moveBorder(f, static_cast<std::size_t>(r), bench_.position()); });
  });
  connect(loop_, &QPushButton::clicked, this, [this] {
    const auto form = bench_.brief().form;
    const int r = row();
    if (!form || r < 0) return;
    bench_.setPassage(std::nullopt);
    bench_.setPassage(form->value[static_cast<std::size_t>(r)].span);
    bench_.seek(bench_.passage()->start);
  });
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    merge_->setEnabled(row() > 0);
    border_->setEnabled(row() > 0);
    loop_->setEnabled(row() >= 0);
  });
  refresh();
}

int FormPage::row() const {
  return table_->selectedItems().isEmpty() ? -1 : table_->currentRow();
}

void FormPage::change(const QString& label, const std::function<void(Form&)>& edit) {
  const Take* take = bench_.take();
  const auto now = bench_.brief().form;
  if (take == nullptr) return;
  Form form = now ? now->value : Form{{{Seconds(0), bench_.duration()}, "A", "", Origin::set, 1.0}};
  edit(form);
  if (now && form == now->value) return;
  decide(label, &Take::form, form, Origin::set, tr("Corrected by hand."));
}

void FormPage::confirm() {
  auto form = bench_.brief().form;
  if (!form) return;
  for (auto& s : form->value) s.origin = Origin::confirmed, s.certainty = 1.0;
  decide(tr("Confirm form"), &Take::form, form->value, Origin::confirmed, tr("Confirmed by ear."));
}

void FormPage::takeMeasured() {
  undecide(tr("Back to measured form"), &Take::form);
}

void FormPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.form, found != nullptr ? measuredBrief(*found).form : std::nullopt);
  const QSignalBlocker blocked(table_);
  const int kept = row();
  table_->setRowCount(brief.form ? static_cast<int>(brief.form->value.size()) : 0);
  for (int r = 0; r < table_->rowCount(); ++r) {
    const Section& s = brief.form->value[static_cast<std::size_t>(r)];
    QString bars;
    if (found != nullptr && found->rhythm) {
      int count = 0;
      for (const Seconds d : found->rhythm->downbeats)
        if (s.span.contains(d + Seconds(0.05))) ++count;
      bars = QString::number(count);
    }
    const QString cells[] = {text(clockTenths(s.span.start)), text(s.letter), text(s.name), bars};
    for (int c = 0; c < 4; ++c) {
      auto* item = new QTableWidgetItem(cells[c]);
      if (c == kStart || c == kBars) item->setFlags(item->flags() & ~Qt::ItemIsEditable);
      QFont font = Theme::font(Theme::Face::text);
      if (s.origin == Origin::confirmed) font.setWeight(QFont::Bold);
      item->setFont(font);
      if (c == kLetter) item->setBackground(Theme::current().block(text(s.letter)));
      item->setToolTip(tr("Start %1%2")
                           .arg(QString::fromUtf8(originWord(s.origin).data()),
                                s.origin == Origin::measured
                                    ? ", " + QString::fromUtf8(certaintyWord(s.certainty).data())
                                    : QString()));
      table_->setItem(r, c, item);
    }
  }
  if (kept >= 0 && kept < table_->rowCount()) table_->selectRow(kept);
  merge_->setEnabled(row() > 0);
  border_->setEnabled(row() > 0);
  loop_->setEnabled(row() >= 0);
  split_->setEnabled(bench_.hasSound());
}

}  // namespace ear
