// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/notice_strip.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

#include "app/theme/theme.h"

namespace ear {

NoticeStrip::NoticeStrip(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(16, 4, 16, 4);
  row->setSpacing(12);
  text_ = new QLabel(this);
  text_->setObjectName("notice-text");
  text_->setWordWrap(true);
  bar_ = new QProgressBar(this);
  bar_->setRange(0, 1000);
  bar_->setTextVisible(false);
  bar_->setFixedWidth(220);
  bar_->setAccessibleName(tr("Progress"));
  cancel_ = new QPushButton(tr("Stop"), this);
  cancel_->setObjectName("notice-cancel");
  cancel_->setToolTip(tr("Stop listening; what is known so far stays"));
  relocate_ = new QPushButton(tr("Point to the recording …"), this);
  relocate_->setObjectName("notice-relocate");
  dismiss_ = new QPushButton(tr("OK"), this);
  dismiss_->setObjectName("notice-dismiss");
  row->addWidget(text_, 1);
  row->addWidget(bar_);
  for (auto* b : {cancel_, relocate_, dismiss_}) row->addWidget(b);
  connect(cancel_, &QPushButton::clicked, &bench.analysis(), &Analysis::cancel);
  connect(relocate_, &QPushButton::clicked, this, &NoticeStrip::relocateWanted);
  connect(dismiss_, &QPushButton::clicked, this, [this] { say({}); });
  connect(&bench.session(), &Session::said, this, &NoticeStrip::say);
  connect(&bench.analysis(), &Analysis::changed, this, &NoticeStrip::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &NoticeStrip::refresh);
  connect(&bench.analysis(), &Analysis::progressed, this,
          [this](double share) { bar_->setValue(static_cast<int>(1000 * share)); });
  refresh();
}

void NoticeStrip::say(const QString& sentence) {
  sentence_ = sentence;
  refresh();
}

void NoticeStrip::refresh() {
  const bool working = bench_.analysis().running(), missing = bench_.analysis().recordingMissing();
  QString text = sentence_;
  if (text.isEmpty() && missing) text = bench_.analysis().problem();
  if (text.isEmpty() && working) text = bench_.analysis().doing() + QStringLiteral(" …");
  text_->setText(text);
  bar_->setVisible(working);
  cancel_->setVisible(working);
  relocate_->setVisible(missing);
  dismiss_->setVisible(!sentence_.isEmpty());
  setVisible(!text.isEmpty());
  if (!working) bar_->setValue(0);
}

}  // namespace ear
