// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/findings_pane.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>

#include "app/drawing/marks.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"

namespace conductus::app {

FindingRow::FindingRow(const findings::Finding& finding, const Appearance& appearance,
                       QWidget* parent)
    : QFrame(parent), appearance_(appearance), severity_(finding.severity) {
    for (const std::string& ref : finding.where)
        where_ << QString::fromStdString(ref);
    setFocusPolicy(Qt::StrongFocus);
    setObjectName("finding:" + QString::fromStdString(finding.id));
    setAccessibleName(QString(findings::word(finding.severity)) + ": " + words(finding.text));
    setAccessibleDescription(words(finding.detail));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(qRound(appearance.text() * 2.1), 9, 8, 9);
    column->setSpacing(2);
    auto* text = label(words(finding.text), "heading", this);
    text->setWordWrap(true);
    column->addWidget(text);
    auto* detail = label(words(finding.detail), "second", this);
    detail->setWordWrap(true);
    column->addWidget(detail);
    if (finding.fix) {
        auto* button =
            new LinkButton(tr("Fix: %1").arg(words(finding.fix->text)), appearance, this);
        button->setObjectName("fix:" + QString::fromStdString(finding.id));
        column->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this] { emit fix(false); });
    }
    if (finding.other) {
        auto* button =
            new LinkButton(tr("Or: %1").arg(words(finding.other->text)), appearance, this);
        button->setObjectName("other:" + QString::fromStdString(finding.id));
        column->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this] { emit fix(true); });
    }
}

void FindingRow::focusInEvent(QFocusEvent* e) {
    QFrame::focusInEvent(e);
    emit lit(where_);
    update();
}

void FindingRow::focusOutEvent(QFocusEvent* e) {
    QFrame::focusOutEvent(e);
    emit lit({});
    update();
}

void FindingRow::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter || e->key() == Qt::Key_Space) {
        emit chosen();
    } else {
        QFrame::keyPressEvent(e);
    }
}

void FindingRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = appearance_.inks();
    p.setPen(inks.hair);
    p.drawLine(0, 0, width(), 0);
    const double m = appearance_.text() * 1.05;
    paint_mark(p, QRectF(4, 10, m, m), severity_, inks);
    if (hasFocus()) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.drawRect(QRectF(rect()).adjusted(1, 2, -1, -2));
    }
}

FindingsPane::FindingsPane(Session& session, Selection& selection, const Appearance& appearance,
                           QWidget* parent)
    : QFrame(parent), session_(session), selection_(selection), appearance_(appearance),
      count_(new FlowText(this)), scroll_(new QScrollArea(this)) {
    setObjectName("paper");
    setAccessibleName(tr("Findings"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 6, 8);
    auto* title = new FlowLayout(8, 0);
    title->addWidget(label(tr("Findings"), "title", this));
    count_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    title->addWidget(count_);
    auto* head = new QHBoxLayout;
    head->addLayout(title, 1);
    head->addSpacing(6);
    column->addLayout(head);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setObjectName("findingsList");
    column->addWidget(scroll_, 1);
}

void FindingsPane::show_plan(const PlanPtr& plan) {
    // The same words need no new rows; but a fix belongs to its plan, so the plan is kept.
    QString all;
    for (const findings::Finding& f : plan->findings)
        all += words(f.id) + words(f.text) + words(f.detail) +
               (f.fix ? words(f.fix->text) : QString()) +
               (f.other ? words(f.other->text) : QString()) + "\n";
    plan_ = plan;
    if (all == words_ && appearance_.percent() == percent_) return;
    words_ = all;
    percent_ = appearance_.percent();
    // Keep the focus on the finding it was on, or the first, when the list is made anew.
    QString focused;
    for (QWidget* w = focusWidget(); w && w != this; w = w->parentWidget())
        if (w->objectName().startsWith("fin")) focused = w->objectName();
    int counts[3] = {0, 0, 0};
    auto* list = new QWidget;
    auto* column = new QVBoxLayout(list);
    column->setContentsMargins(0, 0, 6, 0);
    column->setSpacing(0);
    for (const findings::Finding& finding : plan->findings) {
        ++counts[static_cast<int>(finding.severity)];
        auto* row = new FindingRow(finding, appearance_, list);
        column->addWidget(row);
        connect(row, &FindingRow::lit, &selection_, &Selection::light);
        const auto i = static_cast<std::size_t>(&finding - plan->findings.data());
        connect(row, &FindingRow::chosen, this, [this, i] {
            const findings::Finding& f = plan_->findings[i];
            if (!f.where.empty()) selection_.choose(QString::fromStdString(f.where.front()));
            emit station_wanted(static_cast<std::size_t>(f.station));
        });
        connect(row, &FindingRow::fix, this, [this, i](bool other) {
            const findings::Finding& f = plan_->findings[i];
            apply(other ? f.other : f.fix);
        });
    }
    if (plan->findings.empty()) {
        auto* none = label(tr("Nothing to report."), "second", list);
        column->addWidget(none);
    }
    column->addStretch();
    QStringList said;
    if (counts[0]) said << tr("%1 stop").arg(counts[0]);
    if (counts[1]) said << tr("%1 warn").arg(counts[1]);
    if (counts[2]) said << (counts[2] == 1 ? tr("1 note") : tr("%1 notes").arg(counts[2]));
    count_->setText(said.join(QString::fromUtf8(" · ")));
    scroll_->setWidget(list);
    if (!focused.isEmpty())
        if (auto* row = list->findChild<QWidget*>(focused)) row->setFocus();
}

void FindingsPane::apply(const std::optional<findings::Fix>& fix) {
    if (!fix) return;
    const QString text = words(fix->text);
    // A fix comes from a plan that may be a moment old; the edit itself is checked again.
    session_.change(text.left(1).toUpper() + text.mid(1), fix->edit);
}

} // namespace conductus::app
