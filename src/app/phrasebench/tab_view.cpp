// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/tab_view.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <cmath>

#include "app/phrasebench/note_words.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr double kGap = 10.0;
constexpr double kWidest = 1.5;   // a short phrase is drawn wider, up to so much
constexpr double kMargin = 30.0;  // left of the first string's end
constexpr int kTitle = 16;        // a level's name, where there are several
constexpr int kTogether = 700;    // ms between the figures of one fret
constexpr int kBand = 4;          // pixels of a drag before it marks

}  // namespace

TabView::TabView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("tab-view");
  setAccessibleName(tr("Tab of the phrase"));
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &TabView::refresh);
  connect(&bench.phraseEar(), &PhraseEar::changed, this, &TabView::refresh);
  connect(&bench.transport(), &Transport::positionChanged, this, qOverload<>(&QWidget::update));
  refresh();
}

void TabView::showAllLevels(bool on) {
  allLevels_ = on;
  refresh();
}

void TabView::showBeside(const std::string& phrase) {
  beside_ = phrase;
  refresh();
}

void TabView::refresh() {
  rows_.clear();
  const PhraseKeeper& phrases = bench_.phrases();
  const Phrase* p = phrases.phrase();
  double top = 0;
  const Phrase* beside = beside_.empty() ? nullptr : std::as_const(bench_.document()).study().phrase(beside_);
  std::vector<std::pair<const Phrase*, std::size_t>> wanted;
  for (std::size_t level = 0; p != nullptr && level < p->levels->size(); ++level)
    if (allLevels_ || level == phrases.level()) wanted.emplace_back(p, level);
  if (p != nullptr && beside != nullptr && beside != p) wanted.emplace_back(beside, 0);
  const bool several = wanted.size() > 1;
  for (const auto& [phrase, level] : wanted) {
    const PhraseKeeper::View& view = phrases.viewOf(*phrase, level);
    Row row;
    row.phrase = phrase;
    row.level = level;
    const Arrangement& a = (*phrase->levels)[level];
    row.title = phrase != p ? text(phrase->name) : level == 0 ? tr("as recorded") : text(a.name);
    if (!a.made.empty()) row.title += ": " + text(a.made);
    row.score = view.score;
    if (phrase == p && level == phrases.level() && !bench_.phraseEar().suggestions().empty())
      row.score = withOffered(bench_);
    row.spacing = std::make_unique<Spacing>(row.score);
    row.top = top + (several ? kTitle : 0);
    top = row.top + TabPainter::heightFor(row.score, lookOf(row));
    rows_.push_back(std::move(row));
  }
  double wide = 0;
  for (const Row& row : rows_) wide = std::max(wide, kMargin + row.spacing->width() * kGap);
  setMinimumSize(static_cast<int>(wide) + 8, static_cast<int>(top) + 2);
  const auto& chosen = phrases.chosen();
  setAccessibleDescription(chosen.size() == 1 ? noteTip(bench_, *chosen.begin()) : QString());
  update();
  emit caretMoved();
}

QSize TabView::sizeHint() const {
  return minimumSize();
}

TabLook TabView::lookOf(const Row& row) const {
  TabLook look;
  look.gap = kGap;
  const PhraseKeeper& phrases = bench_.phrases();
  const PhraseKeeper::View& view = phrases.viewOf(*row.phrase, row.level);
  look.barNames = view.barNames;
  look.chords = view.chords;
  look.scales = view.scales;
  for (int s = 0; s < view.guitar.strings(); ++s)
    look.stringNames << text(stringMark(bench_.session().notation(), view.guitar, s, bench_.session().spelling()));
  if (row.phrase != phrases.phrase() || row.level != phrases.level()) return look;
  look.selected = phrases.chosen();
  for (std::size_t i = 0; i < bench_.phraseEar().suggestions().size(); ++i)
    look.offered.insert(-1 - static_cast<int>(i));
  look.checks = checksOf(bench_);
  return look;
}

double TabView::xOf(const Row& row, Beats at) const {
  return kMargin + row.spacing->xOf(at) * kGap * stretchOf(row);
}

double TabView::stretchOf(const Row& row) const {
  return std::clamp((width() - kMargin - 8) / (row.spacing->width() * kGap), 1.0, kWidest);
}

TabPainter TabView::painterOf(const Row& row) const {
  return {row.score, [this, &row](Beats at) { return xOf(row, at); }, lookOf(row)};
}

const TabView::Row* TabView::rowInHand() const {
  for (const Row& row : rows_)
    if (row.phrase == bench_.phrases().phrase() && row.level == bench_.phrases().level()) return &row;
  return nullptr;
}

QRectF TabView::rectOf(int note) const {
  const Row* row = rowInHand();
  if (row == nullptr) return {};
  const TabPainter painter = painterOf(*row);
  for (const TabHead& head : row->score.heads)
    if (head.note == note) return painter.rectOf(head).translated(0, row->top);
  return {};
}

QRect TabView::caretRect() const {
  const Row* row = rowInHand();
  if (row == nullptr) return {};
  const double x = xOf(*row, bench_.phrases().caret().at);
  return {static_cast<int>(x - 60), static_cast<int>(row->top), 120, 80};
}

void TabView::paintEmpty(QPainter& p) const {
  const Theme& t = Theme::current();
  p.setPen(t.softInk);
  p.setFont(Theme::font(Theme::Face::text));
  const QString words =
      bench_.selection().passage()
          ? tr("Nothing is written in this passage. Say its first notes below, such as “12 on G, 14 bent”; "
               "or let the machine suggest them.")
          : tr("Drag over a passage in the sound, or press O to take the bar at the playhead; then say its notes "
               "below.");
  p.drawText(visibleRegion().boundingRect().adjusted(30, 0, -30, 0), Qt::AlignCenter | Qt::TextWordWrap, words);
}

void TabView::paintCaret(QPainter& p, const Row& row) const {
  const Theme& t = Theme::current();
  const auto& caret = bench_.phrases().caret();
  const TabPainter painter = painterOf(row);
  const double x = xOf(row, caret.at), y = row.top + painter.yOf(caret.string);
  p.setPen(QPen(t.accent, hasFocus() ? 1.6 : 1.0));
  p.drawLine(QPointF(x, row.top + painter.yOf(row.score.strings - 1) - 0.6 * kGap),
             QPointF(x, row.top + painter.bottomOfStrings() + 0.6 * kGap));
  p.setBrush(Qt::NoBrush);
  if (bench_.phrases().chosen().empty()) p.drawRect(QRectF(x - 0.6 * kGap, y - 0.6 * kGap, 1.2 * kGap, 1.2 * kGap));
}

void TabView::paintPlayhead(QPainter& p, const Row& row) const {
  const PhraseKeeper& phrases = bench_.phrases();
  const Phrase* phrase = phrases.phrase();
  const Seconds now = bench_.transport().position();
  if (phrase == nullptr || now < phrase->span.start - Seconds(0.05) || now > phrase->span.end) return;
  const double x = xOf(row, Beats(std::llround(phrases.placeOf(*phrase, now) * 960), 960));
  p.setPen(QPen(Theme::current().ink, 2));
  const TabPainter painter = painterOf(row);
  p.drawLine(QPointF(x, row.top + painter.yOf(row.score.strings - 1) - kGap),
             QPointF(x, row.top + painter.bottomOfStrings() + kGap));
}

void TabView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(rect(), t.ground);
  if (rows_.empty() ||
      (rows_.size() == 1 && rows_.front().score.heads.empty() && rows_.front().score.stretches.empty()))
    return paintEmpty(p);
  const Row* inHand = rowInHand();
  for (const Row& row : rows_) {
    if (rows_.size() > 1) {
      p.setPen(&row == inHand ? t.accent : t.softInk);
      p.setFont(Theme::font(Theme::Face::small));
      p.drawText(QPointF(kMargin, row.top - 3), row.title);
    }
    paintPlayhead(p, row);
    if (&row == inHand) paintCaret(p, row);
    painterOf(row).paint(p, kMargin, std::max<double>(width() - 8, kMargin + row.spacing->width() * kGap), row.top);
  }
  if (!band_.isEmpty()) {
    p.setPen(t.accent);
    p.setBrush(QBrush(t.accent, Qt::Dense6Pattern));
    p.drawRect(band_);
  }
}

const TabHead* TabView::headAt(QPointF at, const Row& row) const {
  const TabPainter painter = painterOf(row);
  for (const TabHead& head : row.score.heads)
    if (painter.rectOf(head).translated(0, row.top).adjusted(-2, 0, 2, 0).contains(at)) return &head;
  return nullptr;
}

// --- the mouse -------------------------------------------------------------------------------------------------

void TabView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const QPointF at = event->position();
  for (const Row& row : rows_) {
    if (&row == rowInHand() || at.y() < row.top || at.y() > row.top + painterOf(row).height()) continue;
    row.phrase == bench_.phrases().phrase() ? bench_.phrases().setLevel(row.level)
                                            : bench_.phrases().open(row.phrase->id);
    return;
  }
  const Row* row = rowInHand();
  if (row == nullptr) return;
  PhraseKeeper& phrases = bench_.phrases();
  if (const TabHead* head = headAt(at, *row); head != nullptr && head->note > 0) {
    std::set<int> ids =
        event->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier) ? phrases.chosen() : std::set<int>{};
    if (!ids.insert(head->note).second) ids.erase(head->note);
    phrases.choose(std::move(ids));
    return;
  }
  pressed_ = at;
}

void TabView::mouseMoveEvent(QMouseEvent* event) {
  if (!pressed_ || (event->position() - *pressed_).manhattanLength() < kBand) return;
  band_ = QRectF(*pressed_, event->position()).normalized();
  update();
}

void TabView::mouseReleaseEvent(QMouseEvent* event) {
  const Row* row = rowInHand();
  if (!pressed_ || row == nullptr) return;
  PhraseKeeper& phrases = bench_.phrases();
  const TabPainter painter = painterOf(*row);
  if (!band_.isEmpty()) {
    std::set<int> ids;
    for (const TabHead& head : row->score.heads)
      if (head.note > 0 && band_.intersects(painter.rectOf(head).translated(0, row->top))) ids.insert(head.note);
    phrases.choose(std::move(ids));
  } else {
    const double string = (row->top + painter.bottomOfStrings() - event->position().y()) / kGap;
    phrases.putCaret(row->spacing->nearestTo((event->position().x() - kMargin) / kGap / stretchOf(*row)),
                     std::clamp(static_cast<int>(std::lround(string)), 0, row->score.strings - 1));
  }
  pressed_.reset();
  band_ = {};
  update();
}

/// Goes there, and plays what is written.
void TabView::mouseDoubleClickEvent(QMouseEvent* event) {
  const Row* row = rowInHand();
  const Phrase* phrase = bench_.phrases().phrase();
  if (row == nullptr || phrase == nullptr) return;
  if (const TabHead* head = headAt(event->position(), *row)) {
    bench_.transport().seek(bench_.phrases().timeOf(*phrase, head->at));
    playWritten(bench_);
  }
}

bool TabView::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const Row* row = rowInHand();
    const TabHead* head = row != nullptr ? headAt(help->pos(), *row) : nullptr;
    QToolTip::showText(help->globalPos(), head != nullptr ? noteTip(bench_, head->note) : QString(), this);
    return true;
  }
  // The arrows and figures belong to the tab while it has the focus, not to the playhead.
  if (event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool plain = !(key->modifiers() & (Qt::ControlModifier | Qt::MetaModifier));
    const bool edits = key->matches(QKeySequence::Copy) || key->matches(QKeySequence::Paste) ||
                       key->matches(QKeySequence::Cut) || key->matches(QKeySequence::SelectAll);
    const bool own = key->key() == Qt::Key_Left || key->key() == Qt::Key_Right || key->key() == Qt::Key_Up ||
                     key->key() == Qt::Key_Down || key->key() == Qt::Key_Delete || key->key() == Qt::Key_Backspace ||
                     key->key() == Qt::Key_Home || key->key() == Qt::Key_End || key->key() == Qt::Key_Return ||
                     (key->key() >= Qt::Key_0 && key->key() <= Qt::Key_9) || key->key() == Qt::Key_Less ||
                     key->key() == Qt::Key_Greater;
    if (edits || (plain && own)) {
      event->accept();
      return true;
    }
  }
  if (event->type() == QEvent::ContextMenu) {
    menu(static_cast<QContextMenuEvent*>(event)->globalPos());
    return true;
  }
  return QWidget::event(event);
}

// --- keys ------------------------------------------------------------------------------------------------------

void TabView::keyPressEvent(QKeyEvent* event) {
  if (!moves(*event) && !changes(*event)) QWidget::keyPressEvent(event);
}

bool TabView::moves(const QKeyEvent& key) {
  PhraseKeeper& phrases = bench_.phrases();
  const bool shift = key.modifiers() & Qt::ShiftModifier, alt = key.modifiers() & Qt::AltModifier;
  const Beats step(1, 4);
  switch (key.key()) {
    case Qt::Key_Left:
      alt ? phrases.moveChosenInTime(-step) : phrases.stepMoment(-1, shift);
      return true;
    case Qt::Key_Right:
      alt ? phrases.moveChosenInTime(step) : phrases.stepMoment(1, shift);
      return true;
    case Qt::Key_Up:
      alt ? phrases.moveChosenToString(1) : shift ? phrases.moveChosenByFrets(1) : phrases.stepString(1);
      return true;
    case Qt::Key_Down:
      alt ? phrases.moveChosenToString(-1) : shift ? phrases.moveChosenByFrets(-1) : phrases.stepString(-1);
      return true;
    case Qt::Key_Home:
      phrases.putCaret(Beats(0), phrases.caret().string);
      return true;
    case Qt::Key_End:
      phrases.putCaretAtEnd();
      return true;
    default:
      return false;
  }
}

bool TabView::changes(const QKeyEvent& key) {
  PhraseKeeper& phrases = bench_.phrases();
  if (key.matches(QKeySequence::SelectAll)) return phrases.chooseAll(), true;
  if (key.matches(QKeySequence::Copy)) return phrases.copyChosen(), true;
  if (key.matches(QKeySequence::Cut)) return phrases.copyChosen(), phrases.removeChosen(), true;
  if (key.matches(QKeySequence::Paste)) return phrases.paste(), true;
  switch (key.key()) {
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
      phrases.removeChosen();
      return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
      emit wordsWanted({});
      return true;
    case Qt::Key_Less:
      phrases.scaleChosenLength(Beats(1, 2));
      return true;
    case Qt::Key_Greater:
      phrases.scaleChosenLength(Beats(2));
      return true;
    default:
      break;
  }
  if (key.key() >= Qt::Key_0 && key.key() <= Qt::Key_9 && key.modifiers() == Qt::NoModifier)
    return typeDigit(key.key() - Qt::Key_0), true;
  return false;
}

/// Two figures in a row make one fret.
void TabView::typeDigit(int digit) {
  const bool goesOn = typed_.isValid() && typed_.elapsed() < kTogether && figure_ > 0 && figure_ * 10 + digit <= 36;
  figure_ = goesOn ? figure_ * 10 + digit : digit;
  typed_.start();
  bench_.phrases().typeFret(figure_);
}

void TabView::menu(QPoint global) {
  PhraseKeeper& phrases = bench_.phrases();
  if (phrases.chosen().empty()) return;
  auto* menu = new QMenu(this);
  menu->setObjectName("tab-menu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  menu->addAction(tr("Say what it does …"), this, [this] { emit wordsWanted({}); });
  menu->addAction(tr("Confirm by ear"), &phrases, &PhraseKeeper::confirmChosen);
  menu->addAction(tr("Hear what is written"), this, [this] { playWritten(bench_); });
  menu->addAction(tr("Loop what is recorded"), this, [this] { loopChosen(bench_); });
  const auto some = phrases.chosenNotes();
  if (some.size() == 1)
    for (std::size_t i = 0; i < some.front().readings.size(); ++i) {
      const NoteReading& r = some.front().readings[i];
      const QString place = text(placeName(bench_.session().notation(), phrases.view().guitar, r.place,
                                           bench_.document().fretsFromNut(), bench_.session().spelling()));
      menu->addAction(tr("Or: %1%2").arg(place, r.why.empty() ? QString() : tr(" (%1)").arg(text(r.why))), &phrases,
                      [&phrases, id = some.front().id, i] { phrases.takeReading(id, i); });
    }
  menu->addSeparator();
  menu->addAction(tr("Not made out"), &phrases, [&phrases] { phrases.markStretch(OpenStretch::Kind::unclear); });
  menu->addAction(tr("Free fill"), &phrases, [&phrases] { phrases.markStretch(OpenStretch::Kind::freeFill); });
  menu->addAction(tr("Hardest spot"), &phrases, &PhraseKeeper::markHardest);
  menu->addSeparator();
  menu->addAction(tr("Same pitch on a higher string"), &phrases, [&phrases] { phrases.moveChosenToString(1); });
  menu->addAction(tr("Same pitch on a lower string"), &phrases, [&phrases] { phrases.moveChosenToString(-1); });
  menu->addAction(tr("Twice as long"), &phrases, [&phrases] { phrases.scaleChosenLength(Beats(2)); });
  menu->addAction(tr("Half as long"), &phrases, [&phrases] { phrases.scaleChosenLength(Beats(1, 2)); });
  menu->addSeparator();
  menu->addAction(tr("Remove"), &phrases, &PhraseKeeper::removeChosen);
  menu->popup(global);
}

}  // namespace ear
