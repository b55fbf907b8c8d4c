// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/arrange_sheet.h"

#include <QPushButton>

#include "app/drawing/section_drawing.h"
#include "app/session/words.h"
#include "app/shell/drawing_view.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
ArrangeSheet::ArrangeSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 10);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Arrangements"), "title", this));
    head->addStretch();
    head->addWidget(
        label(tr("every order, every cell; the largest that goes in first"), "second", this));
    column->addLayout(head);
    says_ = label({}, "second", this);
    says_->setObjectName("arrangeSays");
    says_->setWordWrap(true);
    column->addWidget(says_);
    rows_ = new QVBoxLayout;
    column->addLayout(rows_);
    column->addStretch();
}

void ArrangeSheet::show_plan(const PlanPtr& plan) {
    if (of_ == plan->whole) return;
    of_ = plan->whole;
    if (plan->job->hilt.sections.empty() || plan->fit.passes.empty()) {
        delete list_;
        list_ = nullptr;
        return says_->setText(tr("Survey the hilt and fit parts first."));
    }
    says_->setText(tr("Trying every order …"));
    context_.session.ask(plan::OrdersInTheBore{}, this,
                         [this](const plan::AnswerPtr<plan::OrdersInTheBore>& found) {
                             if (*found)
                                 show_found(**found);
                             else
                                 says_->setText(words(found->error()));
                         });
}

void ArrangeSheet::show_found(const plan::OrdersInTheBore::Answer& found) {
    delete list_;
    list_ = new QWidget(this);
    auto* column = new QVBoxLayout(list_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    rows_->addWidget(list_);
    if (found.best.empty()) {
        says_->setText(
            tr("No order of these parts goes in, with any cell. The smallest change that "
               "would do:"));
        for (const hilt::Remedy& r : found.remedies)
            column->addWidget(label(QString::fromUtf8("– ") + words(r.text), "", list_));
        if (found.remedies.empty())
            column->addWidget(label(tr("none: take a part out"), "", list_));
        return;
    }
    says_->setText(tr("Connectors and what is behind an opening stay; the speaker keeps its end."));
    int n = 0;
    for (const hilt::Arrangement& a : found.best) {
        ++n;
        const QString cell =
            a.cell.empty() ? tr("no cell") : words(context_.session.parts().find(a.cell)->name);
        auto* row = new QHBoxLayout;
        auto* said = new QWidget(list_);
        said->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
        auto* lines = new QVBoxLayout(said);
        lines->setContentsMargins(0, 0, 0, 0);
        lines->setSpacing(0);
        lines->addWidget(label(a.as_it_is ? tr("%1, as it is").arg(cell) : cell, "heading", list_));
        auto* figures = label(
            tr("%1 clearance · %2 longest gap · %3 ml cavity · cell %4")
                .arg(words(a.clearance), words(a.spare_length), words(three_figures(a.cavity_ml)),
                     a.cell_steps < 0 ? tr("out of reach")
                                      : counted(a.cell_steps, tr("%1 step"), tr("%1 steps"))),
            "second", list_);
        figures->setWordWrap(true);
        lines->addWidget(figures);
        row->addWidget(said, 6);
        auto* drawn = new DrawingView(
            "arrangeDrawing", tr("Arrangement %1").arg(n), context_.appearance,
            [plan = found.drawn[static_cast<std::size_t>(n - 1)]] {
                return small_section_drawing(plan);
            },
            list_);
        drawn->setFocusPolicy(Qt::ClickFocus); // Tab leads to the button beside it
        drawn->setFixedHeight(qRound(context_.appearance.text() * 4.2));
        drawn->redraw();
        row->addWidget(drawn, 5);
        auto* take = new QPushButton(tr("Take it"), list_);
        take->setObjectName(QString("arrange%1").arg(n));
        take->setAccessibleName(tr("Take arrangement %1: %2").arg(n).arg(cell));
        take->setEnabled(!a.as_it_is);
        row->addWidget(take);
        column->addLayout(row);
        connect(take, &QPushButton::clicked, this, [this, a, cell] {
            context_.session.change(tr("Arrange for %1").arg(cell), hilt::arrange_so(a));
        });
    }
}

} // namespace conductus::app
