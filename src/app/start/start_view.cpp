// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/start/start_view.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/desk/recent_studies.h"
#include "app/desk/study_keeper.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"

namespace ear {
namespace {

constexpr int kWidth = 720;
constexpr int kMostRecent = 5;

}  // namespace

StartView::StartView(Workbench& bench, StudyKeeper& keeper, QWidget* parent) : QWidget(parent), keeper_(keeper) {
  setObjectName("start");
  auto* middle = new QWidget(this);
  middle->setFixedWidth(kWidth);
  auto* column = new QVBoxLayout(middle);
  column->setSpacing(10);
  auto* title = new QLabel(tr("Open a recording, or drop one here"), middle);
  title->setFont(Theme::font(Theme::Face::sentence));
  auto* open = plainButton(middle, "primary", tr("Open …"), tr("A recording, or a study begun before (Ctrl+O)"));
  auto* demo = plainButton(middle, "start-demo", tr("Look at the demo"), tr("A made-up song with a study begun on it"));
  column->addWidget(title);
  column->addLayout(rowOf({open, demo}));
  column->addSpacing(12);
  for (const QString& line :
       {tr("It is listened to first: pitch, guitar, key, tempo and form appear, each with how sure it is."),
        tr("You check them by ear. What you confirm or set stays; what is only a guess decides nothing."),
        tr("Then drag a passage, slow it and loop it, keep it with your words, and print a sheet.")}) {
    auto* label = new QLabel(line, middle);
    label->setObjectName("soft");
    column->addWidget(label);
  }
  column->addSpacing(12);
  recent_ = new QVBoxLayout;
  recent_->setSpacing(4);
  column->addLayout(recent_);
  auto* rows = new QVBoxLayout(this);
  rows->addStretch(2);
  rows->addWidget(middle, 0, Qt::AlignHCenter);
  rows->addStretch(3);
  connect(open, &QPushButton::clicked, &keeper_, &StudyKeeper::openByDialog);
  connect(demo, &QPushButton::clicked, &keeper_, [this] { keeper_.openDemo(); });
  connect(&keeper_, &StudyKeeper::recentChanged, this, &StartView::listRecent);
  bench.session().whenChanged(Changed::takes, this, &StartView::listRecent);
  listRecent();
}

void StartView::listRecent() {
  while (QLayoutItem* item = recent_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  const QStringList files = recentStudies().mid(0, kMostRecent);
  if (files.isEmpty()) return;
  recent_->addWidget(caption(tr("Worked on last"), this));
  for (const QString& file : files) {
    auto* button = plainButton(this, "start-recent", QFileInfo(file).completeBaseName(), file);
    recent_->addWidget(button, 0, Qt::AlignLeft);
    // Later: opening it fills this list anew, and takes the button away.
    connect(
        button, &QPushButton::clicked, &keeper_, [this, file] { keeper_.open(file); }, Qt::QueuedConnection);
  }
}

}  // namespace ear
