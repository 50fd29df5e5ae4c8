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
#include "app/drawer/pitch_page.h"
#include "app/drawer/time_page.h"
#include "app/theme/theme.h"

namespace ear {

Drawer::Drawer(Workbench& bench, QWidget* parent) : QWidget(parent) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  setFixedWidth(Theme::kDrawer);
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
  const std::pair<QString, QWidget*> all[] = {{tr("Pitch"), new PitchPage(bench)},
                                              {tr("Guitar"), guitar_},
                                              {tr("Key"), new KeyPage(bench)},
                                              {tr("Time"), time_},
                                              {tr("Form"), form_},
                                              {tr("Passages"), passages_}};
  int i = 0;
  for (const auto& [title, page] : all) {
    auto* tab = new QPushButton(title, this);
    tab->setObjectName("tab");
    tab->setCheckable(true);
    tab->setFixedHeight(Theme::kControl);
    tab->setToolTip(tr("%1  (Ctrl+%2)").arg(title).arg(i + 1));
    tabs_->addButton(tab, i++);
    row->addWidget(tab);
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
  row->addStretch();
  column->addLayout(row);
  column->addWidget(pages_, 1);
  connect(tabs_, &QButtonGroup::idClicked, this, &Drawer::open);
  open(pitch);
}

void Drawer::open(int page) {
  pages_->setCurrentIndex(page);
  tabs_->button(page)->setChecked(true);
  emit opened(page);
}

int Drawer::page() const {
  return pages_->currentIndex();
}

}  // namespace ear
