// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/study_line.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>

#include "app/theme/theme.h"

namespace ear {

StudyLine::StudyLine(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(Theme::kStudyLine);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(8, 0, 16, 0);
  row->setSpacing(8);
  menus_ = new QMenuBar(this);
  menus_->setNativeMenuBar(false);
  menus_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
  title_ = new QLineEdit(this);
  title_->setObjectName("title");
  title_->setAccessibleName(tr("Title of the study"));
  title_->setMinimumWidth(165);
  title_->setPlaceholderText(tr("No study yet"));
  title_->setToolTip(tr("Title of the study; type to change it"));
  take_ = new QComboBox(this);
  take_->setObjectName("take");
  take_->setAccessibleName(tr("Take"));
  take_->setToolTip(tr("Which recording of the song is on the desk"));
  take_->setMinimumWidth(120);
  take_->setMaximumWidth(150);
  kind_ = new QComboBox(this);
  kind_->setObjectName("take-kind");
  kind_->setAccessibleName(tr("What this take is"));
  kind_->setToolTip(tr("What this take is"));
  kind_->setMaximumWidth(170);
  kind_->addItem(tr("which recording?"), static_cast<int>(TakeKind::unknown));
  kind_->addItem(tr("studio recording"), static_cast<int>(TakeKind::studio));
  kind_->addItem(tr("live recording"), static_cast<int>(TakeKind::live));
  kind_->addItem(tr("other recording"), static_cast<int>(TakeKind::other));
  state_ = new QLabel(this);
  state_->setObjectName("soft");
  device_ = new QLabel(this);
  device_->setObjectName("soft");
  row->addWidget(menus_);
  row->addWidget(title_, 1);
  row->addWidget(take_);
  row->addWidget(kind_);
  row->addWidget(state_);
  row->addWidget(device_);
  connect(title_, &QLineEdit::textEdited, this, [this](const QString& text) {
    bench_.document().edit(
        "Rename study", [&](Study& s) { s.title = text.toStdString(); }, "title");
  });
  connect(title_, &QLineEdit::editingFinished, this, [this] { title_->clearFocus(); });
  connect(take_, &QComboBox::activated, this,
          [this](int i) { bench_.session().activateTake(take_->itemData(i).toString().toStdString()); });
  connect(kind_, &QComboBox::activated, this, [this](int i) {
    const Take* take = bench_.take();
    if (take == nullptr) return;
    bench_.document().edit("Say what the take is", [&, id = take->id](Study& s) {
      s.take(id)->kind = static_cast<TakeKind>(kind_->itemData(i).toInt());
    });
  });
  connect(&bench.session(), &Session::documentChanged, this, &StudyLine::refresh);
  refresh();
}

void StudyLine::refresh() {
  const Document& document = bench_.document();
  const QString title = QString::fromStdString(document.study().title);
  if (title_->text() != title) {
    title_->setText(title);
    title_->setCursorPosition(0);  // a long one shows how it begins
  }
  title_->setEnabled(bench_.take() != nullptr || !title.isEmpty());
  const QSignalBlocker a(take_), b(kind_);
  take_->clear();
  for (const auto& take : document.study().takes)
    take_->addItem(QString::fromStdString(take.name), QString::fromStdString(take.id));
  const Take* active = bench_.take();
  take_->setVisible(active != nullptr);
  kind_->setVisible(active != nullptr);
  if (active != nullptr) {
    take_->setCurrentIndex(take_->findData(QString::fromStdString(active->id)));
    kind_->setCurrentIndex(kind_->findData(static_cast<int>(active->kind)));
  }
  state_->setText(active == nullptr       ? QString()
                  : document.modified()   ? tr("not saved")
                  : document.file.empty() ? tr("not saved yet")
                                          : tr("saved"));
  device_->setText(bench_.transport().output().simulated() ? tr("no sound card") : QString());
  device_->setToolTip(tr(
      "No sound output was found, so everything plays into a simulated one. Connect one and start again to hear it."));
}

}  // namespace ear
