// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/theme.h"

#include <QApplication>

namespace conductus::app {
namespace {

constexpr const char* sheet = R"(
QWidget { color: @ink; }
QMainWindow, #backdrop { background: @backdrop; }
#paper { background: @paper; border: 1px solid @hair; }
QTabBar { background: @backdrop; }
QTabBar::tab { background: @backdrop; color: @second; border: 1px solid transparent; border-bottom: 2px solid transparent; padding: 4px 13px 5px 13px; }
QTabBar::tab:selected { color: @ink; font-weight: bold; border-bottom: 2px solid @petrol; }
QTabBar::tab:hover { color: @ink; }
QTabBar:focus { border: 1px solid @petrol; }
QTabBar QToolButton { background: @backdrop; border: 1px solid @hair; }
QTabBar QToolButton::left-arrow { image: url(:/icons/left-@mode.svg); width: 8px; height: 12px; }
QTabBar QToolButton::right-arrow { image: url(:/icons/right-@mode.svg); width: 8px; height: 12px; }
QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid @second; background: @paper; }
QCheckBox::indicator:checked { image: url(:/icons/tick-@mode.svg); }
QCheckBox::indicator:disabled { border-color: @hair; }
QCheckBox:focus { border: 1px solid @petrol; }
QListWidget { background: @paper; border: none; selection-background-color: @chosen; selection-color: @ink; outline: none; }
QListWidget::item { padding: 2px 4px; }
QListWidget::item:focus { border: 1px solid @petrol; }
#paper QToolButton { border: 1px solid transparent; color: @second; background: transparent; padding: 0px 6px; }
#paper QToolButton:hover { color: @stop; }
#paper QToolButton:focus { border-color: @petrol; }
QDialog { background: @backdrop; }
#shelfRail { background: @rail; }
QScrollArea, QScrollArea > QWidget > QWidget { background: @paper; border: none; }
#pageScroll, #backdropPage, #shelfScroll { background: @backdrop; border: none; }
QLabel { background: transparent; }
QLabel[role="second"] { color: @second; }
QLabel[role="heading"] { font-weight: bold; }
QLabel[role="refused"] { color: @stop; }
#topStrip { background: @strip; }
#topStrip QLabel { color: @onStripSecond; }
#topStrip QLabel#jobName { color: @onStrip; }
#topStrip QToolButton { color: @onStrip; background: transparent; border: 1px solid transparent; padding: 4px 9px; }
#topStrip QToolButton:disabled { color: @onStripFaint; }
#topStrip QToolButton:hover { border-color: @onStripSecond; }
#topStrip QToolButton:focus { border-color: @onStrip; }
#nextBox { background: @chosen; border: 1px solid @petrol; }
#notice { background: @petrol; }
#notice[trouble="true"] { background: @stop; }
#notice QToolButton { color: @paper; background: transparent; border: 1px solid @paper; padding: 3px 8px; }
#notice QToolButton:focus { border: 2px solid @paper; padding: 2px 7px; }
#notice QLabel { color: @paper; font-weight: bold; }
QLineEdit, QSpinBox, QComboBox, QPlainTextEdit {
  background: @paper; border: 1px solid @second; padding: 2px 5px; selection-background-color: @petrol; selection-color: @paper; }
QLineEdit:focus, QSpinBox:focus, QComboBox:focus { border: 2px solid @petrol; padding: 1px 4px; }
QLineEdit[refused="true"] { border: 2px solid @stop; padding: 1px 4px; }
QComboBox[role="cell"] { border: 1px solid transparent; padding: 0px 4px; }
QComboBox[role="cell"]:focus, QComboBox[role="cell"]:hover { border: 1px solid @petrol; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/down-@mode.svg); width: 12px; height: 8px; }
QComboBox QAbstractItemView { background: @paper; border: 1px solid @second; selection-background-color: @petrol; selection-color: @paper; }
QPushButton { background: @paper; border: 1px solid @petrol; color: @petrol; padding: 4px 11px; }
QPushButton:hover { background: @chosen; }
QPushButton:focus { border: 2px solid @petrol; padding: 3px 10px; }
QPushButton:disabled { color: @second; border-color: @hair; }
QPushButton[role="link"] { border: none; padding: 1px 0px; text-align: left; text-decoration: underline; font-weight: bold; background: transparent; }
QPushButton[role="link"]:focus { border: 1px solid @petrol; padding: 0px; }
QPushButton[role="choice"] { border: 1px solid transparent; color: @ink; padding: 3px 13px; }
QPushButton[role="choice"]:checked { background: @petrol; color: @paper; font-weight: bold; }
QPushButton[role="choice"]:focus { border: 1px solid @ink; }
QTableView { background: @paper; gridline-color: @hair; border: none; selection-background-color: @chosen; selection-color: @ink; outline: none; }
QTableView::item { padding: 1px 6px; }
QTableView[dense="true"]::item { padding: 1px 2px; }
QTableView[dense="true"] QHeaderView::section { padding: 3px 2px; }
QTableView::item:focus { border: 2px solid @petrol; }
QTableView QLineEdit { border: 2px solid @petrol; padding: 0px 3px; }
QHeaderView::section { background: @paper; color: @second; border: none; border-bottom: 1px solid @hair; padding: 3px 6px; }
QTableCornerButton::section { background: @paper; border: none; }
QSlider::groove:horizontal { height: 4px; background: @hair; }
QSlider::handle:horizontal { width: 12px; margin: -6px 0; background: @petrol; border: 1px solid @paper; }
QSlider:focus { border: 1px solid @petrol; }
QScrollBar:vertical { background: @paper; width: 10px; margin: 0; }
QScrollBar::handle:vertical { background: @hair; min-height: 24px; }
QScrollBar::add-line:vertical, QScrollBar::sub-line:vertical { height: 0; }
QScrollBar:horizontal { background: @paper; height: 10px; margin: 0; }
QScrollBar::handle:horizontal { background: @hair; min-width: 24px; }
QScrollBar::add-line:horizontal, QScrollBar::sub-line:horizontal { width: 0; }
#why { background: @paper; border: 2px solid @petrol; }
QSplitter::handle { background: @backdrop; }
QSplitter::handle:hover { background: @hair; }
QMenu { background: @paper; color: @ink; border: 1px solid @second; }
QMenu::item { padding: 4px 26px 4px 12px; }
QMenu::item:selected { background: @petrol; color: @paper; }
QMenu::item:disabled { color: @second; }
QMenu::separator { height: 1px; background: @hair; margin: 3px 8px; }
#topStrip QToolButton::menu-indicator { image: none; }
QToolTip { background: @paper; color: @ink; border: 1px solid @second; padding: 3px; }
)";

} // namespace

void apply_theme(QWidget& window, const Appearance& appearance) {
    const Inks& inks = appearance.inks();
    const double text = appearance.text();
    QString style(sheet);
    // Longer names first: @onStripSecond before @onStrip before @on.
    const std::pair<const char*, QString> values[] = {
        {"@onStripSecond", inks.on_strip_second.name()},
        {"@onStripFaint", QString("#5f717a")},
        {"@onStrip", inks.on_strip.name()},
        {"@strip", inks.strip.name()},
        {"@mode", QString(inks.night ? "night" : "day")},
        {"@second", inks.second.name()},
        {"@paper", inks.paper.name()},
        {"@backdrop", inks.backdrop.name()},
        {"@rail", inks.backdrop.name()},
        {"@hair", inks.hair.name()},
        {"@petrol", inks.petrol.name()},
        {"@chosen", inks.chosen.name()},
        {"@stop", inks.stop.name()},
        {"@ink", inks.ink.name()}};
    for (const auto& [key, value] : values)
        style.replace(key, value);
    // Fonts go down to every widget by themselves: a style sheet, which takes five times as long,
    // is set only where it is another one. That is why no rule of it says how large letters are.
    window.setFont(page_font(text));
    QApplication::setFont(page_font(text));
    if (window.styleSheet() != style) window.setStyleSheet(style);
}

} // namespace conductus::app
