// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/exchange/export_window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QListWidget>
#include <QSettings>
#include <QStandardPaths>

#include "app/paper/paper_picture.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr const char* kSvg = QT_TRANSLATE_NOOP("ear::ExportWindow", "SVG: a picture that stays sharp at any size");
constexpr const char* kPng = QT_TRANSLATE_NOOP("ear::ExportWindow", "PNG: a picture with 300 pixels to the inch");

}  // namespace

ExportWindow::ExportWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Files for other programs"));
  setObjectName("export-window");
  auto* column = windowColumn(this);
  auto* head = wrappingLabel(this, "export-head", Theme::Face::sentence);
  head->setText(tr("What kind of file?"));
  column->addWidget(head);
  formats_ = new QListWidget(this);
  formats_->setObjectName("export-formats");
  formats_->setAccessibleName(tr("Kinds of files"));
  formats_->setToolTip(tr("Double-click or Return writes one"));
  for (const ExportFormat& f : exportFormats()) formats_->addItem(text(f.words));
  for (const char* words : {kSvg, kPng}) formats_->addItem(tr(words));
  column->addWidget(formats_, 1);
  const auto box = [&](const char* name, const QString& label, const QString& tip) {
    auto* made = new QComboBox(this);
    made->setObjectName(name);
    made->setAccessibleName(label);
    made->setToolTip(tip);
    auto* words = new QLabel(label, this);
    words->setMinimumWidth(70);
    column->addLayout(rowOf({words, made}));
    return made;
  };
  part_ = box("export-part", tr("Guitar"), tr("Whose written notes go into the file"));
  phrase_ =
      box("export-phrase", tr("Phrase"), tr("One phrase in bars of its own, or all in the bars of the recording"));
  picture_ = box("export-picture", tr("Picture"), tr("What the picture shows"));
  for (const PictureKind& kind : pictureKinds()) picture_->addItem(text(kind.words));
  connect(picture_, &QComboBox::currentIndexChanged, this, &ExportWindow::refresh);
  repeats_ = new QCheckBox(tr("Bars that come again once, between repeat signs"), this);
  repeats_->setObjectName("export-repeats");
  repeats_->setToolTip(
      tr("What every guitar plays again at once is written once, with a first and a second ending where only its end "
         "is another one"));
  repeats_->setChecked(QSettings().value("export/repeats", false).toBool());
  column->addWidget(repeats_);
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  column->addWidget(state_);
  write_ = plainButton(this, "primary", tr("Write …"), tr("Choose where the file goes"));
  column->addLayout(rowOf({write_}));
  formats_->setCurrentRow(std::clamp(QSettings().value("export/format", 0).toInt(), 0, formats_->count() - 1));
  connect(formats_, &QListWidget::currentRowChanged, this, &ExportWindow::refresh);
  connect(formats_, &QListWidget::itemActivated, this, &ExportWindow::chooseFile);
  connect(part_, &QComboBox::currentIndexChanged, this, &ExportWindow::refresh);
  connect(write_, &QPushButton::clicked, this, &ExportWindow::chooseFile);
  bench.session().whenChanged(Changed::everything, this, &ExportWindow::refresh);
  resize(520, 590);
  refresh();
  formats_->setFocus();
}

const ExportFormat* ExportWindow::format() const {
  const auto row = static_cast<std::size_t>(std::max(0, formats_->currentRow()));
  return row < exportFormats().size() ? &exportFormats()[row] : nullptr;
}

QString ExportWindow::ending() const {
  return format() != nullptr ? text(format()->ending) : formats_->currentItem()->text() == tr(kSvg) ? ".svg" : ".png";
}

const PictureKind& ExportWindow::picture() const {
  return pictureKinds()[static_cast<std::size_t>(std::max(0, picture_->currentIndex()))];
}

void ExportWindow::refresh() {
  const QSignalBlocker quietPart(part_), quietPhrase(phrase_);
  const auto fill = [](QComboBox* box, const QString& all, const std::vector<std::pair<QString, QString>>& items) {
    const QVariant was = box->currentData();
    box->clear();
    box->addItem(all, QString());
    for (const auto& [name, id] : items) box->addItem(name, id);
    box->setCurrentIndex(std::max(0, box->findData(was)));
  };
  std::vector<std::pair<QString, QString>> parts, phrases;
  for (const auto& p : bench_.document().parts()) parts.emplace_back(text(p.name), text(p.id));
  fill(part_, tr("all guitars"), parts);
  const QString part = part_->currentData().toString();
  for (const Phrase* p : bench_.phrases().ofTake())
    if (part.isEmpty() || text(p->part) == part)
      phrases.emplace_back(p->name.empty() ? tr("Phrase") : text(p->name), text(p->id));
  fill(phrase_, tr("all of them"), phrases);
  const bool drawn = format() == nullptr;
  const bool notes = drawn ? picture().what == PictureOf::phrases : format()->notes;
  const bool ofPhrase = notes || (drawn && picture().what == PictureOf::neck);
  picture_->setEnabled(drawn);
  repeats_->setEnabled(!drawn && format()->repeats);
  part_->setEnabled(ofPhrase && parts.size() > 1);
  phrase_->setEnabled(ofPhrase && !phrases.empty());
  write_->setEnabled(bench_.take() != nullptr && (!notes || !phrases.empty()));
  state_->setText(notes && phrases.empty()
                      ? tr("No phrase of this guitar is written yet: this kind of file would be empty.")
                      : QString());
}

void ExportWindow::chooseFile() {
  if (!write_->isEnabled()) return;
  QString name = text(bench_.document().study().title);
  if (phrase_->isEnabled() && phrase_->currentIndex() > 0) name += ", " + phrase_->currentText();
  name.replace('/', '-');
  const QString folder =
      QSettings()
          .value("export/folder", QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation))
          .toString();
  QString file =
      QFileDialog::getSaveFileName(this, tr("Write the file"), folder + "/" + name + ending(), "*" + ending());
  if (file.isEmpty()) return;
  if (!file.endsWith(ending(), Qt::CaseInsensitive)) file += ending();
  write(file);
}

Outcome<std::vector<std::string>> ExportWindow::draw(const SheetSource& source, const ExportChoice& choice,
                                                     const QString& file) const {
  const auto blocks = pictureBlocks(source, picture().what, choice.part, choice.phrase);
  if (blocks.empty()) return Problem{std::string(picture().none)};
  const PaperPicture drawn(blocks);
  const auto done =
      ending() == ".png" ? drawn.writePng(toPath(file)) : drawn.writeSvg(toPath(file), text(source.study.title));
  if (!done) return Problem{done.problem()};
  return std::vector<std::string>();
}

/// The voice that was followed last, where one was.
std::vector<VoicePitch> ExportWindow::followed() const {
  std::vector<VoicePitch> pitch;
  if (const EarKeeper::Followed* heard = bench_.ear().voice(); heard != nullptr && heard->voice != nullptr)
    for (const auto& [time, hertz] : heard->voice->line.sampled()) pitch.push_back({heard->span.start + time, hertz});
  return pitch;
}

bool ExportWindow::write(const QString& file) {
  const Take* take = bench_.take();
  if (take == nullptr) return false;
  ExportChoice choice;
  if (part_->isEnabled() || phrase_->isEnabled())
    choice = {part_->currentData().toString().toStdString(), phrase_->currentData().toString().toStdString()};
  choice.repeats = repeats_->isEnabled() && repeats_->isChecked();
  const Study& study = bench_.document().study();
  const Findings* findings = bench_.document().findings(take->id);
  const auto done =
      format() != nullptr
          ? exportTake({study, *take, findings, followed()}, *format(), choice, toPath(file))
          : draw({study, *take, findings, bench_.session().notation(), bench_.document().part().id}, choice, file);
  if (!done) {
    state_->setText(text(done.problem()));
    return false;
  }
  QSettings stored;
  stored.setValue("export/format", formats_->currentRow());
  stored.setValue("export/repeats", repeats_->isChecked());
  stored.setValue("export/folder", QFileInfo(file).absolutePath());
  QString words = tr("Written: %1").arg(file);
  for (const auto& loss : *done) words += "\n" + text(loss);
  state_->setText(words);
  return true;
}

}  // namespace ear
