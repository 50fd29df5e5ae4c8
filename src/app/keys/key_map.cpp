// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/keys/key_map.h"

#include <QAbstractButton>
#include <QRegularExpression>
#include <QSettings>
#include <QWidget>
#include <algorithm>

#include "app/theme/words.h"

namespace ear {
namespace {

QString shown(const QKeySequence& key) {
  return key.toString(QKeySequence::NativeText);
}

}  // namespace

KeyMap::KeyMap(QWidget* window) : QObject(window), window_(window) {
  QSettings settings;
  settings.beginGroup("pedal");
  for (const QString& key : settings.childKeys()) switches_[key] = settings.value(key).toString();
}

KeyMap::~KeyMap() {
  if (pedal_) pedal_->stop();
}

void KeyMap::add(QAction* action, const QString& group) {
  entries_.push_back({action, group, action->shortcut()});
  // The tip of a command names its key behind it; without the key it can be given another.
  const QString tip = action->toolTip();
  const QString behind = "  (" + shown(action->shortcut()) + ")";
  action->setProperty("tip", tip.endsWith(behind) ? tip.chopped(behind.size()) : tip);
  const QString stored = "keys/" + action->objectName();
  if (const QSettings settings; settings.contains(stored))
    apply(action, QKeySequence(settings.value(stored).toString(), QKeySequence::PortableText));
}

void KeyMap::apply(QAction* action, const QKeySequence& key) {
  action->setShortcut(key);
  const QString tip = action->property("tip").toString();
  action->setToolTip(key.isEmpty() ? tip : tip + "  (" + shown(key) + ")");
}

std::map<QString, QString> KeyMap::fixedKeys() const {
  std::map<QString, QString> keys;
  for (const auto* button : window_->findChildren<QAbstractButton*>())
    if (!button->shortcut().isEmpty() && button->window() == window_)
      keys[button->shortcut().toString()] =
          button->accessibleName().isEmpty() ? button->toolTip() : button->accessibleName();
  return keys;
}

QString KeyMap::takenBy(const QKeySequence& key, const QAction* action) const {
  if (key.isEmpty()) return {};
  for (const Entry& e : entries_)
    if (e.action != action && e.action->shortcut() == key) return e.action->text().remove('&');
  const auto fixed = fixedKeys();
  const auto found = fixed.find(key.toString());
  return found == fixed.end() ? QString() : found->second;
}

void KeyMap::setKey(QAction* action, const QKeySequence& key) {
  QSettings settings;
  for (const Entry& e : entries_)
    if (e.action != action && !key.isEmpty() && e.action->shortcut() == key) {
      apply(e.action, {});
      settings.setValue("keys/" + e.action->objectName(), QString());
    }
  apply(action, key);
  settings.setValue("keys/" + action->objectName(), key.toString(QKeySequence::PortableText));
  emit changed();
}

void KeyMap::reset() {
  QSettings().remove("keys");
  for (const Entry& e : entries_) apply(e.action, e.standard);
  emit changed();
}

void KeyMap::setPedal(std::unique_ptr<Pedal> pedal) {
  if (pedal_) pedal_->stop();
  pedal_ = std::move(pedal);
  if (!pedal_) return;
  pedal_->onPress = [this](const std::string& name) {
    QMetaObject::invokeMethod(
        this, [this, name] { pressed(QString::fromStdString(name)); }, Qt::QueuedConnection);
  };
  pedal_->start();
  emit changed();
}

void KeyMap::learn(QAction* action) {
  learning_ = action;
  emit changed();
}

void KeyMap::pressed(const QString& name) {
  if (learning_ != nullptr) {
    forgetPedal(learning_);
    switches_[name] = learning_->objectName();
    QSettings().setValue("pedal/" + name, learning_->objectName());
    learning_ = nullptr;
    emit changed();
    return;
  }
  const auto found = switches_.find(name);
  if (found == switches_.end()) {
    if (name.startsWith("note ")) emit noteStruck(name.section(',', 0, 0).section(' ', 1).toInt());
    return;
  }
  for (const Entry& e : entries_)
    if (e.action->objectName() == found->second && e.action->isEnabled()) e.action->trigger();
}

QString KeyMap::pedalOf(const QAction* action) const {
  for (const auto& [name, command] : switches_)
    if (command == action->objectName()) return name;
  return {};
}

void KeyMap::forgetPedal(QAction* action) {
  for (auto it = switches_.begin(); it != switches_.end();)
    if (it->second == action->objectName()) {
      QSettings().remove("pedal/" + it->first);
      it = switches_.erase(it);
    } else {
      ++it;
    }
  emit changed();
}

QString KeyMap::withKeysAsSet(const QString& tip) const {
  static const QRegularExpression kAtTheEnd(R"(\s*\(([^()\s]+)\)$)");
  const auto found = kAtTheEnd.match(tip);
  if (!found.hasMatch()) return tip;
  // The tips of the commands themselves follow already.
  for (const Entry& e : entries_)
    if (e.action->toolTip() == tip) return tip;
  for (const Entry& e : entries_)
    if (!e.standard.isEmpty() && e.standard == QKeySequence(found.captured(1)) && e.action->shortcut() != e.standard) {
      const QString key = shown(e.action->shortcut());
      return tip.left(found.capturedStart()) + (key.isEmpty() ? QString() : "  (" + key + ")");
    }
  return tip;
}

QString KeyMap::card() const {
  QString html = "<h2>" + tr("Keys of Inner Ear") + "</h2>";
  QString group;
  const auto row = [](const QString& what, const QString& key, const QString& pedal) {
    return "<tr><td width=\"62%\">" + what.toHtmlEscaped() + "</td><td><b>" + key.toHtmlEscaped() + "</b></td><td>" +
           pedal.toHtmlEscaped() + "</td></tr>";
  };
  for (const Entry& e : entries_) {
    const QString key = shown(e.action->shortcut()), pedal = pedalOf(e.action);
    if (key.isEmpty() && pedal.isEmpty()) continue;
    if (e.group != group) {
      if (!group.isEmpty()) html += "</table>";
      group = e.group;
      html += "<h3>" + group.toHtmlEscaped() + R"(</h3><table width="100%" cellspacing="2">)";
    }
    html += row(e.action->text().remove('&').remove(" …"), key, pedal);
  }
  return html + "</table>";
}

}  // namespace ear
