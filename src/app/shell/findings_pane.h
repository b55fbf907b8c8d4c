// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>
#include <QFrame>
#include <QScrollArea>
#include <array>

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
    /// `silent`: it is accepted and does not count.
    FindingRow(const findings::Finding& finding, bool silent, const Appearance& appearance,
               QWidget* parent);

signals:
    void lit(const QStringList& refs);
    void chosen();
    void fix(bool other); ///< the first one, or the one from the other side
    void answered(job::Answer how, const QString& why);
    void taken_back();

protected:
    void enterEvent(QEnterEvent*) override { emit lit(where_); }
    void leaveEvent(QEvent*) override { emit lit({}); }
    void focusInEvent(QFocusEvent* e) override;
    void focusOutEvent(QFocusEvent* e) override;
    void mousePressEvent(QMouseEvent*) override { emit chosen(); }
    void keyPressEvent(QKeyEvent* e) override;
    void paintEvent(QPaintEvent*) override;

private:
    void offer_answers(const findings::Finding& finding, class FlowLayout& links,
                       QVBoxLayout& column);
    const Appearance& appearance_;
    findings::Severity severity_;
    bool silent_;
    QStringList where_;
};

/// The findings folded: a sign with its count for each severity, one above the other.
class FindingsStrip : public QAbstractButton {
    Q_OBJECT
public:
    FindingsStrip(const Appearance& appearance, QWidget* parent);
    void show_counts(const std::array<int, 3>& counts);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    std::array<int, 3> counts_{}; ///< stop, warn, note
};

/// Those of the station in hand first, the others under a line. Folded, a strip of signs.
class FindingsPane : public QFrame {
    Q_OBJECT
public:
    FindingsPane(Session& session, Selection& selection, const Appearance& appearance,
                 QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan);
    void set_station(std::size_t station);
    void set_folded(bool folded);

signals:
    void fold_wanted(bool folded);
    void station_wanted(std::size_t station);

private:
    void show_rows();
    /// The finding `index` of the plan, of those that are accepted where `silent`.
    void add_row(std::size_t index, bool silent, QVBoxLayout& column);
    void apply(const std::optional<findings::Fix>& fix);
    Session& session_;
    Selection& selection_;
    const Appearance& appearance_;
    PlanPtr plan_;
    QString words_; ///< what the rows say
    int percent_ = 0;
    std::size_t station_ = 0;
    QWidget* whole_;
    FindingsStrip* strip_;
    QLabel* count_;
    QScrollArea* scroll_;
};

} // namespace conductus::app
