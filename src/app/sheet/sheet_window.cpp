// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTimer>
#include <QVBoxLayout>
#include <set>

#include "app/paper/sheet_files.h"
#include "app/sheet/sheet_preview.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "core/sheet/sheet_changes.h"

namespace ear {
namespace {

constexpr int kChoicesWide = 264;
constexpr int kSoon = 120;  // ms after the last edit

}  // namespace

SheetWindow::SheetWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setObjectName("sheet-window");
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(0);
  row->addWidget(makeChoices());
  auto* column = new QVBoxLayout;
  column->setSpacing(0);
  column->addWidget(makeButtons());
  preview_ = new SheetPreview(this);
  changes_ = new QListWidget(this);
  changes_->setObjectName("sheet-changes");
  changes_->setAccessibleName(tr("What has changed since"));
  changes_->setWordWrap(true);
  shown_ = new QStackedWidget(this);
  shown_->addWidget(preview_);
  shown_->addWidget(changes_);
  column->addWidget(shown_, 1);
  row->addLayout(column, 1);
  later_ = new QTimer(this);
  later_->setSingleShot(true);
  later_->setInterval(kSoon);
  connect(later_, &QTimer::timeout, this, &SheetWindow::refresh);
  connect(preview_, &SheetPreview::zoomed, this, [this] { zoom_->setText(percent(preview_->zoom())); });
  readSettings();
  listPhrases();
  refresh();
  connect(since_, &QComboBox::currentIndexChanged, this, &SheetWindow::showChanges);
  for (auto* box : {extent_, first_, last_, level_, paper_})
    connect(box, &QComboBox::currentIndexChanged, this, &SheetWindow::refresh);
  connect(large_, &QCheckBox::toggled, this, &SheetWindow::refresh);
  for (auto* line : {header_, footer_}) connect(line, &QLineEdit::textEdited, later_, qOverload<>(&QTimer::start));
  bench.session().whenChanged(Changed::everything, this, [this] { later_->start(); });
  preview_->setFocus();
}

QWidget* SheetWindow::makeChoices() {
  auto* panel = new QWidget(this);
  panel->setObjectName("panel");
  panel->setFixedWidth(kChoicesWide);
  auto* column = new QVBoxLayout(panel);
  column->setContentsMargins(16, 16, 16, 16);
  column->setSpacing(8);
  const auto box = [&](const char* name, const QString& label, const QString& tip) {
    auto* made = new QComboBox(panel);
    made->setObjectName(name);
    made->setAccessibleName(label);
    made->setToolTip(tip);
    column->addWidget(caption(label, panel));
    column->addWidget(made);
    return made;
  };
  extent_ = box("sheet-extent", tr("What goes onto it"), tr("How much of the study the sheet holds"));
  extent_->addItems({tr("All that is known"), tr("What fits on one page"), tr("Some phrases, and how to tune"),
                     tr("Chords and grips alone"), tr("Form alone")});
  first_ = box("sheet-first", tr("First phrase"), tr("The phrase that the sheet begins with"));
  last_ = box("sheet-last", tr("Last phrase"), tr("The phrase that the sheet ends with"));
  level_ = box("sheet-level", tr("Level"), tr("Phrases that have this level are shown by it, others as recorded"));
  paper_ = box("sheet-paper", tr("Paper"), tr("Size of the pages"));
  paper_->addItems({tr("A4"), tr("Letter")});
  large_ = new QCheckBox(tr("Large print"), panel);
  large_->setObjectName("sheet-large");
  large_->setToolTip(tr("A third larger, for a music stand and for tired eyes"));
  column->addWidget(large_);
  const auto line = [&](const char* name, const QString& label, const QString& example) {
    auto* made = new QLineEdit(panel);
    made->setObjectName(name);
    made->setAccessibleName(label);
    made->setPlaceholderText(example);
    made->setMaxLength(120);
    column->addWidget(caption(label, panel));
    column->addWidget(made);
    return made;
  };
  header_ = line("sheet-header", tr("Over every page"), tr("studio, teacher, date"));
  footer_ = line("sheet-footer", tr("Under every page"), tr("who may copy it"));
  since_ = box("sheet-since", tr("Changed since"), tr("What is otherwise than on a sheet that was handed out before"));
  state_ = new QLabel(panel);
  state_->setObjectName("soft");
  state_->setWordWrap(true);
  column->addStretch();
  column->addWidget(state_);
  return panel;
}

QWidget* SheetWindow::makeButtons() {
  auto* bar = new QWidget(this);
  auto* row = new QHBoxLayout(bar);
  row->setContentsMargins(16, 8, 16, 8);
  row->setSpacing(8);
  const auto button = [&](const QString& label, const QString& name, const QString& tip, auto&& does) {
    auto* b = new QPushButton(label, bar);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setFixedHeight(Theme::kControl);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, does);
    row->addWidget(b);
    return b;
  };
  button(tr("Keep as PDF …"), "primary", tr("A PDF to print or send (Ctrl+S)"), [this] {
    save(File::pdf);
  })->setShortcut(QKeySequence("Ctrl+S"));
  button(tr("As web page …"), "sheet-html", tr("One file for a phone or a screen"), [this] { save(File::html); });
  button(tr("As text …"), "sheet-text", tr("Plain text, tab in characters"), [this] { save(File::text); });
  button(tr("Print …"), "sheet-print", tr("Print on paper (Ctrl+P)"), [this] {
    print();
  })->setShortcut(QKeySequence("Ctrl+P"));
  row->addStretch();
  button(tr("−"), "sheet-smaller", tr("Smaller (- or Ctrl and the wheel)"), [this] { preview_->zoom(1 / 1.2); });
  zoom_ = new QLabel(bar);
  zoom_->setObjectName("soft");
  zoom_->setMinimumWidth(44);
  zoom_->setAlignment(Qt::AlignCenter);
  row->addWidget(zoom_);
  button(tr("+"), "sheet-larger", tr("Larger (+ or Ctrl and the wheel)"), [this] { preview_->zoom(1.2); });
  button(tr("Fit"), "sheet-fit", tr("As wide as the window (0)"), [this] { preview_->fitWidth(); });
  button(tr("Close"), "sheet-close", tr("Back to the desk (Escape)"), [this] { close(); });
  return bar;
}

void SheetWindow::readSettings() {
  const QSettings stored;
  paper_->setCurrentIndex(stored.value("sheet/paper", 0).toInt() == 1 ? 1 : 0);
  large_->setChecked(stored.value("sheet/large", false).toBool());
  header_->setText(stored.value("sheet/header").toString());
  footer_->setText(stored.value("sheet/footer").toString());
  resize(1120, 800);
  restoreGeometry(stored.value("sheet/geometry").toByteArray());
}

void SheetWindow::keepSettings() const {
  QSettings stored;
  stored.setValue("sheet/paper", paper_->currentIndex());
  stored.setValue("sheet/large", large_->isChecked());
  stored.setValue("sheet/header", header_->text());
  stored.setValue("sheet/footer", footer_->text());
  stored.setValue("sheet/geometry", saveGeometry());
}

void SheetWindow::closeEvent(QCloseEvent* event) {
  keepSettings();
  QDialog::closeEvent(event);
}

/// The phrases of the take and their levels, as far as they have changed.
void SheetWindow::listPhrases() {
  QStringList names;
  std::set<QString> levels;
  for (const Phrase* p : bench_.phrases().ofTake()) {
    const QString name = p->name.empty() ? tr("Phrase") : text(p->name);
    names << (p->number > 0 ? QStringLiteral("%1  %2").arg(p->number).arg(name) : name);
    for (std::size_t i = 1; i < p->levels->size(); ++i) levels.insert(text((*p->levels)[i].name));
  }
  const auto fill = [](QComboBox* box, const QStringList& items, bool atEnd) {
    QStringList there;
    for (int i = 0; i < box->count(); ++i) there << box->itemText(i);
    if (there == items) return;
    const QSignalBlocker blocker(box);
    const QString was = box->currentText();
    box->clear();
    box->addItems(items);
    box->setCurrentIndex(items.contains(was) ? static_cast<int>(items.indexOf(was)) : atEnd ? box->count() - 1 : 0);
  };
  fill(first_, names, false);
  fill(last_, names, true);
  QStringList all{tr("As recorded")};
  for (const QString& level : levels) all << level;
  fill(level_, all, false);
  level_->setEnabled(!levels.empty());
  const bool some = extent_->currentIndex() == static_cast<int>(SheetChoice::Extent::phrases);
  first_->setEnabled(some && names.size() > 1);
  last_->setEnabled(some && names.size() > 1);
}

void SheetWindow::listRevisions() {
  const QSignalBlocker quiet(since_);
  const QVariant was = since_->currentData();
  since_->clear();
  since_->addItem(tr("show the sheet"), -1);
  const auto& all = *bench_.document().study().revisions;
  const Take* take = bench_.take();
  for (std::size_t i = all.size(); i-- > 0;)
    if (take != nullptr && all[i].take == take->id)
      since_->addItem(tr("revision %1, %2").arg(all[i].number).arg(text(all[i].when).left(16).replace('T', ' ')),
                      static_cast<int>(i));
  since_->setCurrentIndex(std::max(0, since_->findData(was)));
  since_->setEnabled(since_->count() > 1);
}

void SheetWindow::showChanges() {
  const int since = since_->currentData().toInt();
  shown_->setCurrentIndex(since < 0 ? 0 : 1);
  changes_->clear();
  const auto& all = *bench_.document().study().revisions;
  if (since < 0 || static_cast<std::size_t>(since) >= all.size()) return;
  std::string heading;
  for (const SheetChange& c : changesBetween(all[static_cast<std::size_t>(since)].text, whole_)) {
    if (c.heading != heading) {
      auto* item = new QListWidgetItem(text(c.heading), changes_);
      item->setFont(Theme::font(Theme::Face::strong));
      heading = c.heading;
    }
    const bool gone = c.kind == SheetChange::Kind::gone;
    auto* item = new QListWidgetItem((gone ? tr("gone:  ") : tr("new:  ")) + text(c.line).trimmed(), changes_);
    item->setForeground(gone ? Theme::current().softInk : Theme::current().ink);
  }
  if (changes_->count() == 0) changes_->addItem(tr("Nothing has changed."));
}

/// What somebody was given is a revision, if it is not the last one still.
void SheetWindow::handOut() {
  const Take* take = bench_.take();
  if (take == nullptr || revisionOf(bench_.document().study(), take->id, whole_) != sheet_.revision) return;
  bench_.document().record([&, id = take->id](Study& s) {
    keepRevision(s, id, whole_, QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
  });
}

SheetChoice SheetWindow::choice() const {
  SheetChoice choice;
  choice.extent = static_cast<SheetChoice::Extent>(extent_->currentIndex());
  if (choice.extent == SheetChoice::Extent::phrases) {
    choice.first = std::min(first_->currentIndex(), last_->currentIndex()) + 1;
    choice.last = std::max(first_->currentIndex(), last_->currentIndex()) + 1;
  }
  if (level_->currentIndex() > 0) choice.level = level_->currentText().toStdString();
  choice.header = header_->text().trimmed().toStdString();
  choice.footer = footer_->text().trimmed().toStdString();
  return choice;
}

void SheetWindow::refresh() {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  listPhrases();
  const Study& study = bench_.document().study();
  setWindowTitle(tr("Sheet: %1").arg(text(study.title)));
  sheet_ = layOutSheet(
      {study, *take, bench_.document().findings(take->id), bench_.session().notation(), bench_.document().part().id},
      choice());
  whole_ = sheetText(layOutSheet({study, *take, bench_.document().findings(take->id), bench_.session().notation()}));
  sheet_.revision = revisionOf(study, take->id, whole_);
  listRevisions();
  showChanges();
  const PageLook look{paper_->currentIndex() == 1 ? PageLook::Paper::letter : PageLook::Paper::a4, large_->isChecked()};
  pages_ = std::make_shared<SheetPages>(sheet_, look, choice().extent == SheetChoice::Extent::onePage);
  preview_->show(pages_);
  QString words = counted(pages_->count(), tr("page"), tr("pages"));
  if (pages_->leftOut()) words += ". " + tr("Not all of it fits on one page.");
  if (sheet_.blocks.empty()) words += ". " + tr("Nothing of this is known yet.");
  state_->setText(words);
}

void SheetWindow::save(File kind) {
  const QString ending = kind == File::pdf ? ".pdf" : kind == File::html ? ".html" : ".txt";
  QString name = text(sheet_.title);
  name.replace('/', '-');
  const QString folder = QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
  QString file = QFileDialog::getSaveFileName(this, tr("Keep the sheet"), folder + "/" + name + ending, "*" + ending);
  if (file.isEmpty()) return;
  if (!file.endsWith(ending)) file += ending;
  keep(kind, file);
}

bool SheetWindow::keep(File kind, const QString& file) {
  const auto done = kind == File::pdf    ? writeSheetPdf(*pages_, toPath(file), text(sheet_.title))
                    : kind == File::html ? writeSheetHtml(sheet_, toPath(file))
                                         : writeSheetText(sheet_, toPath(file));
  if (!done) {
    QMessageBox::warning(this, tr("Sheet"), text(done.problem()));
    return false;
  }
  handOut();
  state_->setText(tr("Kept as %1").arg(file));
  return true;
}

void SheetWindow::print() {
  QPrinter printer(QPrinter::HighResolution);
  printer.setDocName(text(sheet_.title));
  printer.setPageSize(pages_->pageSize());
  printer.setFullPage(true);
  QPrintDialog dialog(&printer, this);
  dialog.setMinMax(1, pages_->count());
  if (dialog.exec() != QDialog::Accepted) return;
  QPainter p(&printer);
  const double scale = printer.resolution() / static_cast<double>(kSheetResolution);
  p.scale(scale, scale);
  const int first = printer.fromPage() > 0 ? printer.fromPage() - 1 : 0;
  const int last = printer.toPage() > 0 ? std::min(printer.toPage(), pages_->count()) : pages_->count();
  for (int i = first; i < last; ++i) {
    if (i > first) printer.newPage();
    pages_->paint(p, i);
  }
  handOut();
}

}  // namespace ear
