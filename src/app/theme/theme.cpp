// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/theme/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QStyleFactory>
#include <array>

#include "app/theme/plain_text.h"

namespace ear {
namespace {

Theme& active() {
  static Theme theme;
  return theme;
}

Theme lightTheme() {
  return {false,     "#FAF8F4", "#F0EDE6", "#D9D4C8", "#1E2329", "#5A626B",
          "#1F6F5C", "#CFE5DD", "#9C5B0C", "#A8322A", "#FFFFFF", "#9DBFB2"};
}

Theme darkTheme() {
  return {true,      "#15191C", "#1D2327", "#313A40", "#E8E6E1", "#9BA5AB",
          "#5CC3A3", "#20433A", "#E0A04A", "#E26D5C", "#10201B", "#33665A"};
}

QString styleSheet(const Theme& t) {
  QString css = R"(
    * { color: INK; selection-background-color: WASH; selection-color: INK; }
    QMainWindow, QDialog, QWidget#ground { background: GROUND; }
    QWidget#panel, QFrame#panel { background: PANEL; }
    QToolTip { background: PANEL; color: INK; border: 1px solid HAIR; padding: 4px; }
    QMenuBar { background: transparent; spacing: 2px; }
    QMenuBar::item { padding: 6px 6px; border-radius: 4px; background: transparent; }
    QMenuBar::item:selected { background: WASH; }
    QMenu { background: PANEL; border: 1px solid HAIR; padding: 4px; }
    QMenu::item { padding: 6px 24px 6px 14px; border-radius: 4px; }
    QMenu::item:selected { background: WASH; }
    QMenu::item:disabled { color: SOFT; }
    QMenu::separator { height: 1px; background: HAIR; margin: 4px 8px; }
    QPushButton, QToolButton, QComboBox, QSpinBox, QDoubleSpinBox, QLineEdit, QPlainTextEdit, QListWidget, QTreeWidget, QTableWidget {
      background: GROUND; border: 1px solid HAIR; border-radius: 5px; }
    QPushButton, QToolButton { padding: 0 12px; min-height: 28px; }
    QWidget#deck QPushButton { min-height: 42px; padding: 0 8px; }
    QWidget#deck QSpinBox, QWidget#deck QDoubleSpinBox { min-height: 42px; }
    QWidget#deck { background: PANEL; border-top: 1px solid HAIR; }
    QPushButton:hover, QToolButton:hover, QComboBox:hover { border-color: ACCENT; }
    QPushButton:pressed, QToolButton:pressed { background: WASH; }
    QPushButton:checked, QToolButton:checked { background: WASH; border-color: ACCENT; }
    QPushButton:focus, QToolButton:focus, QComboBox:focus, QSpinBox:focus, QDoubleSpinBox:focus, QLineEdit:focus,
    QPlainTextEdit:focus, QListWidget:focus, QTreeWidget:focus, QTableWidget:focus { border: 2px solid ACCENT; }
    QPushButton:disabled, QToolButton:disabled, QComboBox:disabled, QSpinBox:disabled, QDoubleSpinBox:disabled { color: SOFT; background: PANEL; }
    QPushButton#primary { background: ACCENT; color: ONACCENT; border-color: ACCENT; font-weight: 600; }
    QPushButton#primary:focus { border: 2px solid INK; }
    QPushButton#primary:disabled { background: PANEL; color: SOFT; border-color: HAIR; }
    QPushButton#tab { border: none; border-bottom: 2px solid transparent; border-radius: 0; background: transparent; padding: 0 3px; color: SOFT; font-size: 9.5pt; }
    QPushButton#tab:checked { border-bottom: 2px solid ACCENT; color: INK; }
    QPushButton#tab:focus { border: 1px solid ACCENT; }
    QLineEdit, QComboBox, QSpinBox, QDoubleSpinBox { padding: 0 8px; min-height: 28px; }
    QPushButton[compact="true"] { padding-left: 4px; padding-right: 4px; }
    QSpinBox, QDoubleSpinBox { padding-right: 20px; }
    QComboBox { padding-right: 22px; }
    QComboBox::drop-down { border: none; background: transparent; width: 22px; }
    QComboBox::down-arrow, QSpinBox::down-arrow, QDoubleSpinBox::down-arrow { image: url(:/arrows/down-SHADE.xpm); width: 9px; height: 6px; }
    QSpinBox::up-arrow, QDoubleSpinBox::up-arrow { image: url(:/arrows/up-SHADE.xpm); width: 9px; height: 6px; }
    QSpinBox::up-button, QDoubleSpinBox::up-button { subcontrol-origin: border; subcontrol-position: top right; border: none; background: transparent; width: 22px; }
    QSpinBox::down-button, QDoubleSpinBox::down-button { subcontrol-origin: border; subcontrol-position: bottom right; border: none; background: transparent; width: 22px; }
    QComboBox QAbstractItemView { background: PANEL; border: 1px solid HAIR; }
    QLineEdit#title { border: 1px solid transparent; background: transparent; font-size: 14pt; font-weight: 600; }
    QLineEdit#title:hover { border-color: HAIR; }
    QLineEdit#title:focus { border: 2px solid ACCENT; background: GROUND; }
    QCheckBox::indicator, QListWidget::indicator { width: 13px; height: 13px; border: 1px solid SOFT; border-radius: 3px; background: GROUND; }
    QCheckBox::indicator:checked, QListWidget::indicator:checked { border: 4px solid ACCENT; width: 7px; height: 7px; background: ONACCENT; }
    QPlainTextEdit { padding: 4px; }
    QListWidget::item { padding: 6px; border-radius: 4px; }
    QTreeWidget::item { padding: 4px 2px; border-radius: 4px; }
    QTreeWidget::branch { background: GROUND; }
    QListWidget::item:selected, QTreeWidget::item:selected, QTableWidget::item:selected { background: WASH; color: INK; }
    QHeaderView::section { background: PANEL; border: none; border-bottom: 1px solid HAIR; padding: 4px; color: SOFT; }
    QTableWidget { gridline-color: HAIR; }
    QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
    QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
    QScrollBar::handle { background: HAIR; border-radius: 4px; min-height: 24px; min-width: 24px; }
    QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
    QScrollArea { border: none; background: transparent; }
    QScrollArea > QWidget > QWidget { background: transparent; }
    QSlider::groove:horizontal { height: 4px; background: HAIR; border-radius: 2px; }
    QSlider::sub-page:horizontal { background: ACCENT; border-radius: 2px; }
    QSlider::handle:horizontal { width: 16px; height: 16px; margin: -6px 0; border-radius: 8px; background: ACCENT; }
    QSlider:focus { outline: none; }
    QSlider::handle:horizontal:focus { border: 2px solid INK; }
    QProgressBar { background: HAIR; border: none; border-radius: 2px; max-height: 4px; }
    QProgressBar::chunk { background: ACCENT; border-radius: 2px; }
    QLabel#soft { color: SOFT; }
    QLabel#warning, QLabel[tone="warning"] { color: WARN; }
    QLabel[tone="soft"] { color: SOFT; }
    QLabel#notice { background: WASH; padding: 6px 12px; }
  )";
  const std::pair<const char*, QColor> names[] = {
      {"ONACCENT", t.onAccent}, {"GROUND", t.ground}, {"PANEL", t.panel},     {"HAIR", t.hairline}, {"INK", t.ink},
      {"SOFT", t.softInk},      {"ACCENT", t.accent}, {"WASH", t.accentWash}, {"WARN", t.warning}};
  for (const auto& [name, colour] : names) css.replace(name, colour.name());
  css.replace("SHADE", t.dark ? "dark" : "light");
  return css;
}

bool systemIsDark() {
  return QGuiApplication::palette().color(QPalette::Window).lightness() < 128;
}

}  // namespace

const Theme& Theme::current() {
  return active();
}

const Theme& Theme::paper() {
  static const Theme kPaper{false,     "#FFFFFF", "#F2F2EE", "#8B9196", "#14181C", "#565D64",
                            "#17604F", "#E3EEEA", "#8A4B00", "#8F2A22", "#FFFFFF", "#9DBFB2"};
  return kPaper;
}

QColor Theme::block(const QString& letter) const {
  // Hues spread over blue, ochre, green-grey, rose, slate, sand, violet: apart in lightness as well.
  static const std::array<const char*, 7> kLight = {"#C9D6E6", "#EAD9B4", "#C8DCCB", "#E6C9C4",
                                                    "#B9C2CC", "#DDD3E4", "#E9E2CF"};
  static const std::array<const char*, 7> kDark = {"#2D4257", "#5A4A22", "#2C4A3C", "#5B3833",
                                                   "#3E4955", "#4A3D58", "#4E4936"};
  // What is no music of the song, as a count-in or applause, has no hue.
  if (!letter.isEmpty() && !letter.at(0).isLetter()) return hairline;
  const int place = letter.isEmpty() ? 0 : letter.at(0).toUpper().unicode() - 'A';
  const auto i = static_cast<std::size_t>(((place % 7) + 7) % 7);
  return {QLatin1String(dark ? kDark[i] : kLight[i])};
}

void Theme::loadFaces() {
  static const bool kOnce = [] {
    for (const char* weight : {"Light", "Regular", "Medium", "SemiBold", "Bold"})
      QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-%1.otf").arg(weight));
    return true;
  }();
  Q_UNUSED(kOnce);
}

void Theme::apply(QApplication& app, Choice choice) {
  static const bool kSystemDark = systemIsDark();
  loadFaces();
  active() = choice == Choice::dark || (choice == Choice::system && kSystemDark) ? darkTheme() : lightTheme();
  const Theme& t = active();
  showTextAsItIs(app);
  app.setStyle(QStyleFactory::create("Fusion"));
  QPalette palette;
  palette.setColor(QPalette::Window, t.ground);
  palette.setColor(QPalette::Base, t.ground);
  palette.setColor(QPalette::AlternateBase, t.panel);
  palette.setColor(QPalette::Button, t.panel);
  palette.setColor(QPalette::Highlight, t.accentWash);
  palette.setColor(QPalette::HighlightedText, t.ink);
  palette.setColor(QPalette::PlaceholderText, t.softInk);
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
    palette.setColor(role, t.ink);
  palette.setColor(QPalette::Disabled, QPalette::ButtonText, t.softInk);
  app.setPalette(palette);
  app.setFont(font(Face::text));
  app.setStyleSheet(styleSheet(t));
}

QFont Theme::font(Face face) {
  QFont f("Inter");
  // The face would set the x of "0x20" (a string that is not played) as a sign of multiplication.
  f.setStyleStrategy(QFont::PreferNoShaping);
  switch (face) {
    case Face::text:
      f.setPointSizeF(10.5);
      break;
    case Face::small:
      f.setPointSizeF(9);
      break;
    case Face::strong:
      f.setPointSizeF(10.5), f.setWeight(QFont::DemiBold);
      break;
    case Face::sentence:
      f.setPointSizeF(15), f.setWeight(QFont::DemiBold);
      break;
    case Face::figure:
      f.setPointSizeF(17), f.setWeight(QFont::Medium);
      break;
    case Face::mono:
      f = QFontDatabase::systemFont(QFontDatabase::FixedFont), f.setPointSizeF(10);
      break;
  }
  return f;
}

}  // namespace ear
