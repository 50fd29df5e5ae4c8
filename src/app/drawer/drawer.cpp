// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/drawer.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/drawer/form_page.h"
#include "app/drawer/guitar_page.h"
#include "app/drawer/key_page.h"
#include "app/drawer/passages_page.h"
#include "app/drawer/phrase_page.h"
#include "app/drawer/pitch_page.h"
#include "app/drawer/time_page.h"
#include "app/hear/hear_page.h"
#include "app/isolate/isolate_page.h"
#include "app/practise/practise_page.h"
#include "app/theme/theme.h"

namespace ear {

Drawer::Drawer(Workbench& bench, std::function<std::unique_ptr<AudioInput>()> makeInput, QWidget* parent)
    : QWidget(parent) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  setMinimumWidth(Theme::kDrawer);  // wider by dragging its edge
  setMaximumWidth(2 * Theme::kDrawer);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  auto* row = new QHBoxLayout;
  row->setContentsMargins(10, 4, 10, 0);
  row->setSpacing(0);
  tabs_ = new QButtonGroup(this);
  pages_ = new QStackedWidget(this);
  guitar_ = new GuitarPage(bench);
  time_ = new TimePage(bench);
  form_ = new FormPage(bench);
  passages_ = new PassagesPage(bench);
  phrase_ = new PhrasePage(bench);
  for (QWidget* page : std::initializer_list<QWidget*>{new PitchPage(bench), guitar_, new KeyPage(bench), time_, form_,
                                                       passages_, new IsolatePage(bench), new PractisePage(bench),
                                                       new HearPage(bench, std::move(makeInput)), phrase_}) {
    if (page == passages_) {  // its list and text scroll by themselves
      pages_->addWidget(page);
      continue;
    }
    // A small window scrolls the page rather than squeezing it.
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(page);
    pages_->addWidget(scroll);
  }
  // The facts are opened by their tiles; one tab leads back to the last of them.
  const std::pair<QString, int> tabs[] = {{tr("Facts"), pitch},     {tr("Passages"), passages},
                                          {tr("Isolate"), isolate}, {tr("Practise"), practise},
                                          {tr("Hear"), hear},       {tr("Phrase"), phrase}};
  for (const auto& [title, page] : tabs) {
    auto* tab = new QPushButton(title, this);
    tab->setObjectName("tab");
    tab->setCheckable(true);
    tab->setFixedHeight(Theme::kControl);
    tab->setToolTip(page == pitch ? tr("What the fact was measured from; the tiles above choose it  (Ctrl+1 to 5)")
                                  : tr("%1  (Ctrl+%2)").arg(title).arg((page + 1) % 10));
    tabs_->addButton(tab, page);
    row->addWidget(tab);
  }
  row->addStretch();
  column->addLayout(row);
  column->addWidget(pages_, 1);
  connect(tabs_, &QButtonGroup::idClicked, this, [this](int page) { open(page == pitch ? fact_ : page); });
  open(pitch);
}

void Drawer::open(int page) {
  if (page < kFacts) fact_ = page;
  pages_->setCurrentIndex(page);
  tabs_->button(page < kFacts ? pitch : page)->setChecked(true);
  emit opened(page);
}

int Drawer::page() const {
  return pages_->currentIndex();
}

}  // namespace ear
