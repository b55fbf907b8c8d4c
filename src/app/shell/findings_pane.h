// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QScrollArea>

#include "app/session/appearance.h"
#include "app/session/selection.h"
#include "app/session/session.h"

class QLabel;
class QVBoxLayout;

namespace conductus::app {

/// One finding: sign, line, evidence, and its fix. Under the mouse or in focus it lights its parts.
class FindingRow : public QFrame {
    Q_OBJECT
public:
    FindingRow(const findings::Finding& finding, const Appearance& appearance, QWidget* parent);

signals:
    void lit(const QStringList& refs);
    void chosen();
    void fix(bool other); ///< the first one, or the one from the other side

protected:
    void enterEvent(QEnterEvent*) override { emit lit(where_); }
    void leaveEvent(QEvent*) override { emit lit({}); }
    void focusInEvent(QFocusEvent* e) override;
    void focusOutEvent(QFocusEvent* e) override;
    void mousePressEvent(QMouseEvent*) override { emit chosen(); }
    void keyPressEvent(QKeyEvent* e) override;
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    findings::Severity severity_;
    QStringList where_;
};

class FindingsPane : public QFrame {
    Q_OBJECT
public:
    FindingsPane(Session& session, Selection& selection, const Appearance& appearance,
                 QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan);

signals:
    void station_wanted(std::size_t station);

private:
    void apply(const std::optional<findings::Fix>& fix);
    Session& session_;
    Selection& selection_;
    const Appearance& appearance_;
    PlanPtr plan_;
    QString words_; ///< what the rows say
    int percent_ = 0;
    QLabel* count_;
    QScrollArea* scroll_;
};

} // namespace conductus::app
