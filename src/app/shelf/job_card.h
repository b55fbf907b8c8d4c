// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>

#include "app/session/appearance.h"
#include "app/session/session.h"

namespace conductus::app {

/// One job as a small hilt section. Click or Enter opens it.
class JobCard : public QAbstractButton {
    Q_OBJECT
public:
    JobCard(shop::Entry entry, const Appearance& appearance, QWidget* parent);
    [[nodiscard]] const shop::Entry& entry() const { return entry_; }
    void show_entry(shop::Entry entry);
    void show_plan(const PlanPtr& plan);
    void show_problem(const Problem& problem);
    /// The card is one of a search's results: it asks for the excerpt once it is in sight.
    void be_found(bool found);
    /// What was searched for, in its surroundings.
    void show_excerpt(const QString& excerpt);
    [[nodiscard]] bool has_plan() const { return plan_ != nullptr || !problem_.isEmpty(); }
    /// Lets go of the plan, not of what it said; it is asked for again when the card is next
    /// painted.
    void forget_plan();
    /// A plan was seen since the job last changed: what it said is known.
    [[nodiscard]] bool is_judged() const { return judged_; }
    [[nodiscard]] bool has_broken() const { return !broken_.isEmpty(); }
    /// What the foot of the card says: "agreement broken: …", or the excerpt.
    [[nodiscard]] QString foot() const;
    [[nodiscard]] static int height_for(double text) { return qRound(text * 15); }

signals:
    /// The card is in sight and has no plan to show.
    void plan_wanted();
    void excerpt_wanted();

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void paint_foot(QPainter& p, const QRectF& foot);
    void describe();
    shop::Entry entry_;
    const Appearance& appearance_;
    PlanPtr plan_;
    QString problem_, excerpt_;
    bool found_ = false;
    // What the plan said, kept when the plan itself is let go.
    bool judged_ = false;
    int stops_ = 0, warns_ = 0;
    QString broken_, open_;
};

} // namespace conductus::app
