// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/exchange/import_window.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QListWidget>
#include <QSpinBox>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"
#include "core/exchange/import.h"
#include "core/study/grid.h"

namespace ear {

bool isTabFile(const QString& file) {
  return QStringList{"musicxml", "mxl", "xml", "jams"}.contains(QFileInfo(file).suffix().toLower());
}

ImportWindow::ImportWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Tab from another program"));
  setObjectName("import-window");
  auto* column = windowColumn(this);
  sentence_ = wrappingLabel(this, "import-sentence", Theme::Face::sentence);
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  pieces_ = new QListWidget(this);
  pieces_->setObjectName("import-pieces");
  pieces_->setAccessibleName(tr("Guitars of the file"));
  pieces_->setToolTip(tr("Double-click or Return takes one as a phrase"));
  bar_ = new QSpinBox(this);
  bar_->setObjectName("import-bar");
  bar_->setRange(1, 9999);
  bar_->setAccessibleName(tr("Bar of the recording in which its first bar lies"));
  bar_->setToolTip(tr("The bar of the recording in which its first bar lies"));
  part_ = new QComboBox(this);
  part_->setObjectName("import-part");
  part_->setAccessibleName(tr("Guitar that plays it"));
  part_->setToolTip(tr("Whose phrase it becomes"));
  take_ = plainButton(this, "primary", tr("Take it as a phrase"), tr("One step of undo takes it away again"));
  auto* other = plainButton(this, "import-choose", tr("Choose a file …"), tr("MusicXML, packed or not, MIDI or JAMS"));
  column->addWidget(sentence_);
  column->addWidget(pieces_, 1);
  column->addLayout(
      rowOf({new QLabel(tr("Its first bar is bar"), this), bar_, new QLabel(tr("played by"), this), part_}));
  column->addWidget(state_);
  facts_ = plainButton(this, "import-facts", tr("Take what it says of the recording"),
                       tr("Beats, chords, sections and key, as set; one step of undo brings the old ones back"));
  facts_->hide();
  column->addLayout(rowOf({take_, other}));
  column->addLayout(rowOf({facts_}));
  connect(pieces_, &QListWidget::currentRowChanged, this, &ImportWindow::showPiece);
  connect(pieces_, &QListWidget::itemActivated, this, &ImportWindow::take);
  connect(take_, &QPushButton::clicked, this, &ImportWindow::take);
  connect(facts_, &QPushButton::clicked, this, &ImportWindow::takeKnown);
  connect(other, &QPushButton::clicked, this, &ImportWindow::chooseFile);
  resize(520, 420);
  refresh();
}

void ImportWindow::refresh() {
  part_->clear();
  for (const auto& p : bench_.document().parts()) part_->addItem(text(p.name), text(p.id));
  part_->setCurrentIndex(std::max(0, part_->findData(text(bench_.document().part().id))));
  if (read_.empty() && sentence_->text().isEmpty()) {
    sentence_->setText(tr("Choose a file"));
    state_->setText(
        tr("One can also be dropped on the desk. Notes without a string are placed on the guitar in hand."));
  }
  for (QWidget* w : {static_cast<QWidget*>(bar_), static_cast<QWidget*>(part_), static_cast<QWidget*>(take_)})
    w->setEnabled(!read_.empty());
}

void ImportWindow::chooseFile() {
  const QString file =
      QFileDialog::getOpenFileName(this, tr("Tab from another program"), {},
                                   tr("Tab and notes (*.musicxml *.xml *.mxl *.mid *.midi *.jams);;All files (*)"));
  if (!file.isEmpty()) read(file);
}

void ImportWindow::read(const QString& file) {
  auto found = readPieces(toPath(file), bench_.document().guitar());
  const QSignalBlocker quiet(pieces_);
  pieces_->clear();
  read_.clear();
  const QString name = QFileInfo(file).fileName();
  known_ = readFacts(toPath(file));
  facts_->setVisible(known_.has_value());
  if (!found && known_) {
    sentence_->setText(known_->title.empty() ? name : text(known_->title));
    state_->setText(tr("It has no tab, but says of the recording: %1.").arg(text(factsIn(*known_))));
    return refresh();
  }
  if (!found) {
    sentence_->setText(tr("%1 cannot be read").arg(name));
    state_->setText(text(found.problem()));
    return refresh();
  }
  read_ = std::move(*found);
  sentence_->setText(read_.front().title.empty() ? name : text(read_.front().title));
  for (const TabPiece& p : read_)
    pieces_->addItem(tr("%1: %2 in %3, %4")
                         .arg(p.name.empty() ? tr("Guitar") : text(p.name),
                              counted(static_cast<int>(p.notes.size()), tr("note"), tr("notes")),
                              counted(static_cast<int>(p.barLines.size()) - 1, tr("bar"), tr("bars")),
                              text(sentenceOf(GuitarSetup{p.guitar.tuning, p.guitar.capo}))));
  pieces_->setCurrentRow(0);
  refresh();
  showPiece();
}

void ImportWindow::showPiece() {
  const int row = pieces_->currentRow();
  if (row < 0 || static_cast<std::size_t>(row) >= read_.size()) return;
  const TabPiece& p = read_[static_cast<std::size_t>(row)];
  // A file of this song knows its own bar; another one goes where the passage is.
  const auto passage = bench_.selection().passage();
  const Take* take = bench_.take();
  const auto here = barPlaceAt(take != nullptr ? gridOf(*take, bench_.session().findings()) : Grid{},
                               passage ? passage->start : bench_.transport().position());
  const bool own = p.title == bench_.document().study().title;
  bar_->setValue(own ? std::max(1, p.firstBar) : here ? std::max(1, here->bar) : 1);
  if (const int named = part_->findText(text(p.name)); named >= 0) part_->setCurrentIndex(named);
  QStringList words;
  const Guitar& hand = bench_.document().guitar();
  if (p.guitar.tuning != hand.tuning || p.guitar.capo != hand.capo)
    words << tr("It is for a guitar in %1: frets and strings are kept, so that it sounds otherwise here.")
                 .arg(text(sentenceOf(GuitarSetup{p.guitar.tuning, p.guitar.capo})));
  for (const auto& loss : p.notKept) words << text(loss);
  if (known_) words << tr("It also says of the recording: %1.").arg(text(factsIn(*known_)));
  state_->setText(words.join("\n"));
}

void ImportWindow::takeKnown() {
  const Take* take = bench_.take();
  if (!known_ || take == nullptr) return;
  std::string taken, problem;
  bench_.document().edit(tr("Take what a file says").toStdString(), [&, id = take->id](Study& study) {
    const auto done = takeFacts(study, id, *known_);
    done ? taken = *done : problem = done.problem();
  });
  state_->setText(problem.empty() ? tr("Taken: %1. Undo brings the old ones back.").arg(text(taken)) : text(problem));
}

void ImportWindow::take() {
  const int row = pieces_->currentRow();
  const Take* take = bench_.take();
  if (row < 0 || take == nullptr || static_cast<std::size_t>(row) >= read_.size()) return;
  const TabPiece& piece = read_[static_cast<std::size_t>(row)];
  std::string made, problem;
  const bool changed = bench_.document().edit(tr("Take tab from a file").toStdString(), [&](Study& study) {
    const auto added = addAsPhrase(study, *take, bench_.document().findings(take->id),
                                   part_->currentData().toString().toStdString(), piece, bar_->value());
    added ? made = *added : problem = added.problem();
  });
  if (!changed || made.empty()) {
    if (!problem.empty()) state_->setText(text(problem));
    return;
  }
  bench_.phrases().open(made);
  bench_.say(tr("%1 notes stand from bar %2 on. Check them by ear: nobody knows how they were made.")
                 .arg(piece.notes.size())
                 .arg(bar_->value()));
  close();
}

}  // namespace ear
