// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/form/jump_window.h"

#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSaveFile>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/study/form_edit.h"

namespace ear {

JumpWindow::JumpWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Times"));
  setObjectName("jumps");
  resize(460, 520);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->setSpacing(10);
  auto* intro = new QLabel(tr("Sections, passages and marks of this take. Click one to go there."), this);
  intro->setObjectName("soft");
  column->addWidget(intro);
  table_ = new QTableWidget(0, 3, this);
  table_->setObjectName("jumps-table");
  table_->setHorizontalHeaderLabels({tr("Start"), tr("End"), tr("What")});
  table_->verticalHeader()->hide();
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setShowGrid(false);
  table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
  column->addWidget(table_, 1);
  said_ = new QLabel(this);
  said_->setObjectName("jumps-said");
  said_->setWordWrap(true);
  column->addWidget(said_);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& label, const QString& name, const QString& tip, auto run) {
    auto* b = new QPushButton(label, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
  };
  const QString kinds = tr("Label text, start and end by tabs (*.txt);;Table (*.csv);;Reading text (*.text)");
  button(tr("Copy"), "jumps-copy", tr("Copy as text, to a tenth of a second"), [this] { copy(); });
  button(tr("Write to a file …"), "jumps-write", tr("As label text, as a table or as text to read"), [this, kinds] {
    QString kind, file = QFileDialog::getSaveFileName(this, tr("Write times"), {}, kinds, &kind);
    if (!file.isEmpty() && QFileInfo(file).suffix().isEmpty())
      file += kind.contains("csv") ? ".csv" : kind.contains("text)") ? ".text" : ".txt";
    if (!file.isEmpty()) writeTo(file);
  });
  button(tr("Read from a file …"), "jumps-read",
         tr("Spans that lie end to end become the form, single times become marks; undo takes it back"), [this] {
           const QString file = QFileDialog::getOpenFileName(this, tr("Read times"), {},
                                                             tr("Times (*.txt *.csv *.text);;All files (*)"));
           if (!file.isEmpty()) readFrom(file);
         });
  row->addStretch();
  column->addLayout(row);
  connect(table_, &QTableWidget::cellClicked, this, [this](int r, int) {
    const auto list = jumps();
    if (static_cast<std::size_t>(r) < list.size())
      bench_.transport().seek(list[static_cast<std::size_t>(r)].span.start);
  });
  bench.session().whenChanged(kOfBrief | Changed::cues | Changed::passages, this, &JumpWindow::refresh);
  refresh();
}

std::vector<Jump> JumpWindow::jumps() const {
  const Take* take = bench_.take();
  if (take == nullptr) return {};
  const auto form = bench_.brief().form;
  return jumpsOf(bench_.document().study(), *take, form ? form->value : Form{});
}

void JumpWindow::refresh() {
  const auto list = jumps();
  table_->setRowCount(static_cast<int>(list.size()));
  for (std::size_t i = 0; i < list.size(); ++i) {
    const bool spot = list[i].span.length() == Seconds(0);
    const QString cells[] = {text(clockTenths(list[i].span.start)),
                             spot ? QString() : text(clockTenths(list[i].span.end)), text(list[i].label)};
    for (int c = 0; c < 3; ++c) table_->setItem(static_cast<int>(i), c, new QTableWidgetItem(cells[c]));
  }
}

void JumpWindow::copy() {
  QApplication::clipboard()->setText(text(writeJumps(jumps(), JumpFormat::text)));
  said_->setText(tr("Copied."));
}

bool JumpWindow::writeTo(const QString& file) {
  const QString ending = QFileInfo(file).suffix().toLower();
  const auto format = ending == "csv" ? JumpFormat::csv : ending == "text" ? JumpFormat::text : JumpFormat::labels;
  QSaveFile out(file);
  const std::string what = writeJumps(jumps(), format);
  const bool fine =
      out.open(QIODevice::WriteOnly) && out.write(what.data(), static_cast<qint64>(what.size())) >= 0 && out.commit();
  said_->setText(fine ? tr("Written to %1.").arg(QFileInfo(file).fileName())
                      : tr("%1 could not be written: %2. Choose another folder.")
                            .arg(QFileInfo(file).fileName(), out.errorString()));
  return fine;
}

bool JumpWindow::readFrom(const QString& file) {
  QFile in(file);
  if (!in.open(QIODevice::ReadOnly) || in.size() > 1'000'000) {
    said_->setText(tr("%1 could not be read: %2")
                       .arg(QFileInfo(file).fileName(),
                            in.isOpen() ? tr("it is too large for a list of times.") : in.errorString()));
    return false;
  }
  const auto read = readJumps(in.readAll().toStdString());
  if (!read || bench_.take() == nullptr) {
    said_->setText(read ? tr("Open a recording first.") : text(read.problem()));
    return false;
  }
  const Form form = formOfJumps(*read, bench_.analysis().duration());
  int marks = 0;
  bench_.document().edit(tr("Read times").toStdString(), [&, id = bench_.take()->id](Study& s) {
    Take& take = *s.take(id);
    if (!form.empty()) take.form = Decision<Shared<Form>>{form, Origin::set, 1.0, Evidence::Kind::readFromFile};
    for (const auto& j : *read)
      if (isSpot(j) && j.span.start < bench_.analysis().duration()) setCue(take, j.span.start, j.label), ++marks;
  });
  said_->setText(tr("Read: %1 sections and %2 marks. Undo takes it back.").arg(form.size()).arg(marks));
  return true;
}

}  // namespace ear
