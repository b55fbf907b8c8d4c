// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "app/session/session.h"
#include "app/table/explained_table.h"

class QLabel;

namespace conductus::app {

/// What a figure is made of: formula, parts with values and sources. Escape closes it; Enter on a
/// part jumps to it.
class WhyPanel : public QFrame {
    Q_OBJECT
public:
    WhyPanel(const Appearance& appearance, QWidget* parent);
    void show_figure(const Explained& figure);

signals:
    void part_chosen(const QString& ref);
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    QLabel* title_;
    QLabel* formula_;
    ExplainedTable* table_;
};

} // namespace conductus::app
