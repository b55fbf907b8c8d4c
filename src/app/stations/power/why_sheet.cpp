// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/why_sheet.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/tenths_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

QString title_of(const std::string& id) {
    if (id == "peak-current") return WhySheet::tr("peak current");
    if (id == "board-sag") return WhySheet::tr("sag at the board");
    if (id == "tip-brightness") return WhySheet::tr("tip against foot");
    if (id == "first-crackle") return WhySheet::tr("time to first crackle");
    if (id == "dim") return WhySheet::tr("time to dim");
    if (id == "cells-per-day") return WhySheet::tr("cells for the day");
    if (id == "tightest-fit") return WhySheet::tr("tightest fit");
    if (id == "hottest-part") return WhySheet::tr("hottest part");
    if (id == "off") return WhySheet::tr("time until off");
    return WhySheet::tr("time in storage");
}

} // namespace

WhySheet::WhySheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Why"), {}, this);
    figure_ = new QComboBox(sheet);
    figure_->setObjectName("whyOf");
    figure_->setAccessibleName(tr("Figure to explain"));
    for (const std::string& id : plan::figures_to_ask())
        figure_->addItem(title_of(id), words(id));
    figure_->setCurrentIndex(figure_->findData("first-crackle"));
    title_ = label({}, "title", sheet);
    title_->setObjectName("whyFigure");
    formula_ = label({}, "second", sheet);
    formula_->setObjectName("whyHow");
    formula_->setWordWrap(true);
    auto* top = new QHBoxLayout;
    top->setSpacing(10);
    top->addWidget(figure_);
    top->addWidget(title_, 1);
    parts_ = new ExplainedTable("whySheetParts", context.appearance, sheet);
    column->addLayout(top);
    column->addWidget(formula_);
    column->addWidget(parts_, 1);
    auto [below, below_column] =
        paper(tr("What would change it"), tr("one tenth more of each, all else as it is"), this);
    tenths_ = new DrawingView(
        "tenths", tr("What a tenth more of each input changes"), context.appearance,
        [this]() -> DrawingPtr {
            return std::make_shared<const TenthsDrawing>(why_, context_.selection.options().chosen);
        },
        below);
    tenths_->keep_height();
    connect(&context.selection, &Selection::changed, tenths_, &DrawingView::redraw);
    connect(tenths_, &DrawingView::pressed, this, [this](QPointF at) {
        if (const QString ref = tenths_->ref_at(at); !ref.isEmpty()) context_.selection.choose(ref);
    });
    auto* scroll = new QScrollArea(below);
    scroll->setWidgetResizable(true);
    scroll->setWidget(tenths_);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    below_column->addWidget(scroll, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet);
    all->addWidget(below, 1);
    connect(figure_, &QComboBox::activated, this, &WhySheet::ask);
    connect(parts_, &Table::row_chosen, this, [this](int row) {
        if (const QString ref = parts_->ref(row); !ref.isEmpty()) context_.selection.choose(ref);
    });
}

void WhySheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ask();
}

void WhySheet::ask() {
    if (!plan_) return;
    why_.reset();
    tenths_->redraw();
    context_.session.ask(plan::WhyOf{figure_->currentData().toString().toStdString()}, this,
                         [this](const WhyPtr& why) { show_why(why); });
}

void WhySheet::show_why(const WhyPtr& why) {
    why_ = why;
    tenths_->redraw();
    if (!*why) {
        title_->setText(QString::fromUtf8("–"));
        formula_->setText(words(why->error()));
        parts_->show_figure({});
        return;
    }
    const Explained& e = (*why)->figure;
    title_->setText(tr("%1 %2").arg(figure_text(e), words(e.label)));
    formula_->setText(words(e.formula));
    parts_->show_figure(e);
    // Five rows at most: the rest is for what would change it.
    parts_->as_high_as_its_rows(5);
}

} // namespace conductus::app
