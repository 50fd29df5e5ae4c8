// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/lesson/lesson_plan_box.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QLocale>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <cmath>
#include <set>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

enum Role { kId = Qt::UserRole, kMinutes, kMarks, kDone };

/// A step in a line: whether it is done, what it is, how long it takes; its marks under it.
class StepRow : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const int line = QFontMetrics(option.font).height();
    return {60, line + 12 + (index.data(kMarks).toString().isEmpty() ? 0 : line - 2)};
  }

  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Theme& t = Theme::current();
    const bool done = index.data(kDone).toBool(), chosen = option.state.testFlag(QStyle::State_Selected);
    const QFontMetrics metrics(option.font);
    const int line = metrics.height();
    const QRect row = option.rect.adjusted(4, 1, -4, -1);
    if (chosen) {
      p->setPen(Qt::NoPen);
      p->setBrush(t.accentWash);
      p->drawRoundedRect(row, 4, 4);
    }
    const QRect words = row.adjusted(26, 5, -52, 0);
    p->setFont(option.font);
    p->setPen(done && !chosen ? t.softInk : t.ink);
    p->drawText(QRect(words.left(), words.top(), words.width(), line), Qt::AlignLeft | Qt::AlignVCenter,
                metrics.elidedText(index.data(Qt::DisplayRole).toString(), Qt::ElideRight, words.width()));
    p->setPen(t.softInk);
    p->drawText(QRect(row.right() - 54, words.top(), 48, line), Qt::AlignRight | Qt::AlignVCenter,
                index.data(kMinutes).toString());
    if (const QString marks = index.data(kMarks).toString(); !marks.isEmpty()) {
      p->setPen(t.accent);
      p->drawText(QRect(words.left(), words.top() + line - 2, row.right() - words.left() - 6, line),
                  Qt::AlignLeft | Qt::AlignVCenter, metrics.elidedText(marks, Qt::ElideRight, row.width() - 32));
    }
    if (!done) return;
    p->setRenderHint(QPainter::Antialiasing);
    p->setPen(QPen(t.accent, 2));
    const QPointF at(row.left() + 12, words.top() + line / 2.0);
    p->drawPolyline(QPolygonF{at + QPointF(-4, 0), at + QPointF(-1, 4), at + QPointF(5, -4)});
  }
};

}  // namespace

LessonPlanBox::LessonPlanBox(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 12, 12, 12);
  column->setSpacing(8);
  list_ = new QListWidget(this);
  list_->setObjectName("lesson-steps");
  list_->setAccessibleName(tr("Steps of the lesson"));
  list_->setToolTip(tr("Click a step to be there. Drag it to another place, or press Alt and Up or Down"));
  list_->setDragDropMode(QAbstractItemView::InternalMove);
  list_->setItemDelegate(new StepRow(list_));
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->installEventFilter(this);
  last_ = wrappingLabel(this, "soft", Theme::Face::text);
  missing_ = wrappingLabel(this, "lesson-missing", Theme::Face::text);
  addMissing_ = plainButton(this, "lesson-add-missing", tr("Take it into the plan"),
                            tr("Steps for what was written down since, before what closes the lesson"));
  change_ = plainButton(this, "lesson-change", tr("Change the plan"), tr("Its order, its steps and their times"));
  change_->setCheckable(true);
  tools_ = makeTools();
  column->addWidget(list_, 1);
  column->addWidget(last_);
  column->addWidget(missing_);
  column->addWidget(addMissing_);
  column->addWidget(tools_);
  column->addWidget(change_);
  LessonKeeper& lesson = bench.lesson();
  connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
    if (!filling_ && item != nullptr) bench_.lesson().goTo(item->data(kId).toInt());
  });
  connect(list_->model(), &QAbstractItemModel::rowsMoved, this, &LessonPlanBox::takeOrder, Qt::QueuedConnection);
  connect(change_, &QPushButton::toggled, this, &LessonPlanBox::showTools);
  connect(addMissing_, &QPushButton::clicked, &lesson, &LessonKeeper::addMissing);
  connect(&lesson, &LessonKeeper::changed, this, &LessonPlanBox::refresh);
  showTools(false);
}

QWidget* LessonPlanBox::makeTools() {
  auto* tools = new QWidget(this);
  auto* column = new QVBoxLayout(tools);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  LessonKeeper& lesson = bench_.lesson();
  order_ = new QComboBox(tools);
  order_->setObjectName("lesson-order");
  order_->setAccessibleName(tr("Order of the lesson"));
  for (int i = 0; i < kLessonOrders; ++i) order_->addItem(text(lessonOrderName(static_cast<LessonOrder>(i))));
  make_ = plainButton(tools, "lesson-make", tr("Make a plan in this order"),
                      tr("In place of the steps above; undo brings them back"));
  column->addWidget(caption(tr("Order"), tools));
  column->addWidget(order_);
  column->addWidget(make_);
  target_ = new QSpinBox(tools);
  target_->setObjectName("lesson-target");
  target_->setAccessibleName(tr("How long the lesson is"));
  target_->setRange(1, 480);
  target_->setSuffix(tr(" min"));
  level_ = new QComboBox(tools);
  level_->setObjectName("lesson-level");
  level_->setAccessibleName(tr("Level that is taught"));
  level_->setToolTip(tr("Where a phrase has it; else its fullest"));
  column->addLayout(rowOf({new QLabel(tr("It takes"), tools), target_}));
  column->addWidget(level_);
  column->addWidget(caption(tr("The step in hand"), tools));
  words_ = new QLineEdit(tools);
  words_->setObjectName("lesson-words");
  words_->setAccessibleName(tr("Your own words for the step"));
  words_->setPlaceholderText(tr("Words to say or do"));
  words_->installEventFilter(this);
  column->addWidget(words_);
  minutes_ = new QSpinBox(tools);
  minutes_->setObjectName("lesson-minutes");
  minutes_->setAccessibleName(tr("Minutes for the step"));
  minutes_->setRange(0, 240);
  minutes_->setSuffix(tr(" min"));
  minutes_->setSpecialValueText(tr("open"));
  speed_ = new QSpinBox(tools);
  speed_->setObjectName("lesson-speed");
  speed_->setAccessibleName(tr("Speed of the step"));
  speed_->setRange(20, 150);
  speed_->setSuffix(tr(" %"));
  column->addLayout(rowOf({minutes_, speed_}));
  beginners_ = new QCheckBox(tr("Beginners jump to here"), tools);
  beginners_->setObjectName("lesson-beginners");
  hand_ = new QCheckBox(tr("Close to the hand"), tools);
  hand_->setObjectName("lesson-hand");
  hand_->setToolTip(tr("The picture goes close to the hand that plays"));
  column->addWidget(beginners_);
  column->addWidget(hand_);
  add_ = plainButton(tools, "lesson-add", tr("Add a step"), tr("Behind the one in hand"));
  add_->setMenu(new QMenu(add_));
  remove_ = plainButton(tools, "lesson-remove", tr("Remove"), tr("The step in hand  (Delete)"));
  column->addLayout(rowOf({add_, remove_}));
  connect(make_, &QPushButton::clicked, this,
          [this] { bench_.lesson().make(static_cast<LessonOrder>(order_->currentIndex())); });
  connect(target_, &QSpinBox::valueChanged, this, [this, &lesson](int minutes) {
    if (!filling_)
      lesson.change(
          tr("Length of the lesson"), [=](LessonPlan& p) { p.target = Seconds(minutes * 60.0); }, "lesson-target");
  });
  connect(level_, &QComboBox::currentIndexChanged, this, [this, &lesson](int row) {
    if (!filling_)
      lesson.change(tr("Level of the lesson"),
                    [&](LessonPlan& p) { p.level = row <= 0 ? "" : level_->itemText(row).toStdString(); });
  });
  connect(words_, &QLineEdit::editingFinished, this, [this, &lesson] {
    if (filling_) return;
    const std::string words = words_->text().trimmed().toStdString();
    lesson.changeStep(tr("Words of a step"), [&](LessonStep& s) { s.words = words; });
  });
  connect(minutes_, &QSpinBox::valueChanged, this, [this, &lesson](int minutes) {
    if (!filling_)
      lesson.changeStep(
          tr("Time for a step"), [=](LessonStep& s) { s.planned = Seconds(minutes * 60.0); }, "lesson-minutes");
  });
  connect(speed_, &QSpinBox::valueChanged, this, [this, &lesson](int percent) {
    if (!filling_)
      lesson.changeStep(
          tr("Speed of a step"), [=](LessonStep& s) { s.speed = percent / 100.0; }, "lesson-speed");
  });
  connect(beginners_, &QCheckBox::toggled, this, [this, &lesson](bool on) {
    if (!filling_) lesson.changeStep(tr("Mark a step"), [=](LessonStep& s) { s.beginners = on; });
  });
  connect(hand_, &QCheckBox::toggled, this, [this, &lesson](bool on) {
    if (!filling_) lesson.changeStep(tr("Mark a step"), [=](LessonStep& s) { s.hand = on; });
  });
  connect(add_->menu(), &QMenu::aboutToShow, this, &LessonPlanBox::fillAdding);
  connect(remove_, &QPushButton::clicked, &lesson, &LessonKeeper::removeStep);
  return tools;
}

/// Everything a step may be about.
void LessonPlanBox::fillAdding() {
  QMenu* menu = add_->menu();
  menu->clear();
  const auto entry = [this](QMenu* in, const QString& title, Kind kind, const std::string& about = {}) {
    connect(in->addAction(title), &QAction::triggered, this, [=, this] { bench_.lesson().add(kind, about); });
  };
  entry(menu, tr("A step of your own"), Kind::own);
  entry(menu, tr("Play it through"), Kind::playThrough);
  entry(menu, tr("Tune up"), Kind::tuning);
  entry(menu, tr("The whole"), Kind::whole);
  entry(menu, tr("What is left"), Kind::left);
  if (const auto& form = bench_.brief().form; form && !form->value.empty()) {
    QMenu* sections = menu->addMenu(tr("Chords of"));
    std::set<std::string> letters;
    for (const Section& s : form->value)
      if (letters.insert(s.letter).second) entry(sections, text(s.letter), Kind::chords, s.letter);
  }
  for (const LessonItem& item : bench_.lesson().items()) {
    const QString which =
        item.number > 0 ? QString::number(item.number) : tr("at %1").arg(text(clockTenths(item.span.start)));
    QMenu* own = menu->addMenu((item.written ? tr("Phrase %1  %2") : tr("Passage %1  %2")).arg(which, text(item.name)));
    entry(own, tr("Hear it"), Kind::hear, item.id);
    if (item.written) entry(own, tr("Strings and frets"), Kind::numbers, item.id);
    entry(own, tr("Slowly"), Kind::slow, item.id);
    const Phrase* phrase = bench_.document().study().phrase(item.id);
    if (phrase != nullptr && phrase->levels->front().hardest)
      entry(own, tr("The hardest spot"), Kind::hardest, item.id);
    entry(own, tr("Joined to what came before"), Kind::chain, item.id);
    entry(own, tr("Up to tempo"), Kind::upToTempo, item.id);
  }
}

void LessonPlanBox::showTools(bool on) {
  tools_->setVisible(on);
  if (change_->isChecked() != on) change_->setChecked(on);
}

void LessonPlanBox::setTypeSize(int pixels) {
  QFont font = Theme::font(Theme::Face::text);
  font.setPixelSize(pixels);
  list_->setFont(font);
}

void LessonPlanBox::takeOrder() {
  std::vector<int> ids;
  for (int row = 0; row < list_->count(); ++row) ids.push_back(list_->item(row)->data(kId).toInt());
  bench_.lesson().reorder(ids);
}

void LessonPlanBox::refresh() {
  if (filling_ || !isVisible()) return;
  filling_ = true;
  listSteps();
  showStep();
  showLast();
  filling_ = false;
}

void LessonPlanBox::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

void LessonPlanBox::listSteps() {
  const LessonKeeper& lesson = bench_.lesson();
  const LessonPlan* plan = lesson.plan();
  const auto items = lesson.items();
  const int count = plan == nullptr ? 0 : static_cast<int>(plan->steps.size());
  while (list_->count() > count) delete list_->takeItem(list_->count() - 1);
  while (list_->count() < count) list_->addItem(new QListWidgetItem);
  for (int row = 0; row < count; ++row) {
    const LessonStep& step = plan->steps[static_cast<std::size_t>(row)];
    QListWidgetItem* item = list_->item(row);
    const bool done = lesson.isDone(step.id);
    item->setText(text(stepRow(step, items)));
    item->setToolTip(text(stepTitle(step, items)));
    item->setData(kId, step.id);
    item->setData(kDone, done);
    item->setData(kMinutes,
                  step.planned > Seconds(0) ? tr("%1 min").arg(std::lround(step.planned.value / 60.0)) : QString());
    QStringList marks;
    if (step.beginners) marks << tr("beginners jump to here");
    if (step.hand) marks << tr("close to the hand");
    item->setData(kMarks, marks.join(tr(", ")));
    if (&step == lesson.step()) list_->setCurrentItem(item);
  }
  const auto missing = plan == nullptr ? std::vector<LessonItem>() : itemsWithoutStep(*plan, bench_.document().study());
  const bool some = !missing.empty() && count > 0;
  missing_->setText(tr("In no step: %1.")
                        .arg(counted(static_cast<int>(missing.size()),
                                     missing.empty() || missing.front().written ? tr("phrase") : tr("passage"),
                                     missing.empty() || missing.front().written ? tr("phrases") : tr("passages"))));
  missing_->setVisible(some);
  addMissing_->setVisible(some);
}

/// What the lesson before left for this one, until it has begun.
void LessonPlanBox::showLast() {
  constexpr int kMost = 4;
  const LessonGiven* last = bench_.lesson().last();
  last_->setVisible(last != nullptr && !last->left.empty() && !bench_.lesson().begun());
  if (!last_->isVisibleTo(this)) return;
  QStringList left;
  for (const std::string& words : last->left) left << text(words);
  last_->setToolTip(left.join("\n"));
  const auto more = left.size() - kMost;
  if (more > 0) left = left.mid(0, kMost) << tr("and %1 more").arg(more);
  const QDateTime when = QDateTime::fromString(text(last->when), Qt::ISODate);
  last_->setText(tr("Left on %1:").arg(QLocale().toString(when.date(), QLocale::ShortFormat)) + "\n" + left.join("\n"));
}

void LessonPlanBox::showStep() {
  const LessonKeeper& lesson = bench_.lesson();
  const LessonPlan* plan = lesson.plan();
  const LessonStep* step = lesson.step();
  make_->setEnabled(bench_.take() != nullptr);
  target_->setValue(static_cast<int>(std::lround((plan == nullptr ? LessonPlan() : *plan).target.value / 60.0)));
  QStringList levels{tr("The fullest level of each phrase")};
  for (const Phrase* p : bench_.phrases().ofTake())
    for (std::size_t i = 1; i < p->levels->size(); ++i)
      if (const QString name = text((*p->levels)[i].name); !name.isEmpty() && !levels.contains(name)) levels << name;
  if (plan != nullptr && !plan->level.empty() && !levels.contains(text(plan->level))) levels << text(plan->level);
  QStringList shown;
  for (int i = 0; i < level_->count(); ++i) shown << level_->itemText(i);
  if (shown != levels) level_->clear(), level_->addItems(levels);
  level_->setCurrentIndex(plan == nullptr || plan->level.empty() ? 0
                                                                 : static_cast<int>(levels.indexOf(text(plan->level))));
  for (QWidget* w : std::initializer_list<QWidget*>{words_, minutes_, speed_, beginners_, hand_, remove_})
    w->setEnabled(step != nullptr);
  add_->setEnabled(bench_.take() != nullptr);
  if (!words_->hasFocus() || step == nullptr) words_->setText(step == nullptr ? QString() : text(step->words));
  minutes_->setValue(step == nullptr ? 0 : static_cast<int>(std::lround(step->planned.value / 60.0)));
  speed_->setValue(step == nullptr ? 100 : static_cast<int>(std::lround(step->speed * 100)));
  beginners_->setChecked(step != nullptr && step->beginners);
  hand_->setChecked(step != nullptr && step->hand);
}

/// Keys that the list and the line want for themselves, though the desk has given them to something else.
bool LessonPlanBox::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::ShortcutOverride && event->type() != QEvent::KeyPress)
    return QWidget::eventFilter(watched, event);
  const auto* key = static_cast<QKeyEvent*>(event);
  const bool press = event->type() == QEvent::KeyPress;
  if (watched == words_) {
    if (key->key() != Qt::Key_Return && key->key() != Qt::Key_Enter) return QWidget::eventFilter(watched, event);
    event->accept();
    if (press) list_->setFocus();  // what was typed is taken with that
    return true;
  }
  const bool moves = key->key() == Qt::Key_Up || key->key() == Qt::Key_Down;
  const bool alt = key->modifiers() == Qt::AltModifier;
  if (!(moves && (alt || key->modifiers() == Qt::NoModifier)) && key->key() != Qt::Key_Delete)
    return QWidget::eventFilter(watched, event);
  event->accept();
  if (!press) return true;
  if (key->key() == Qt::Key_Delete)
    bench_.lesson().removeStep();
  else if (alt)
    bench_.lesson().moveStep(key->key() == Qt::Key_Up ? -1 : 1);
  else
    return QWidget::eventFilter(watched, event);  // the list goes there itself
  return true;
}

}  // namespace ear
