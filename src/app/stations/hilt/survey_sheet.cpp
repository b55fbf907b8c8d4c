// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/survey_sheet.h"

#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/cells_drawing.h"
#include "app/shell/fields.h"
#include "app/stations/hilt/survey_columns.h"
#include "core/job/places.h"
#include "core/plan/start.h"

namespace conductus::app {

SurveySheet::SurveySheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    Session& session = context.session;
    survey_ = new Table(
        {.object = "survey",
         .name = tr("Survey: caliper readings"),
         .what = tr("Survey"),
         .columns = survey_columns(session),
         .rows = list_rows(session, "/hilt/sections", "name"),
         .empty = tr("Type the name of the section at the pommel, then Tab from reading to "
                     "reading. Tab after the last one begins the next section."),
         .live = true,
         .session = &session},
        context.appearance, this);
    TableRows fitted = list_rows(session, "/parts", "ref");
    fitted.add = {};
    parts_ =
        new Table({.object = "parts",
                   .name = tr("Parts in the hilt"),
                   .what = tr("Part"),
                   .columns = part_columns(session, plan_),
                   .rows = std::move(fitted),
                   .wide = 1,
                   .dense = true,
                   .empty = tr("Nothing is fitted yet. The sheet Parts has every part there is."),
                   .live = true,
                   .session = &session},
                  context.appearance, this);
    cells_ = new DrawingView(
        "fitList", tr("What goes in"), context.appearance,
        [this]() -> DrawingPtr {
            return plan_ ? std::make_shared<const CellsDrawing>(plan_) : nullptr;
        },
        this);
    cells_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    cells_->keep_height();

    auto [left, left_column] = paper(tr("Survey"), tr("caliper readings, mm or in"), this);
    left_column->addWidget(survey_);
    left_column->addWidget(survey_->refusal());
    auto* add = new QPushButton(tr("Add a section"), left);
    add->setObjectName("addSection");
    auto* remove = new QPushButton(tr("Remove it"), left);
    remove->setObjectName("removeSection");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove);
    buttons->addStretch();
    left_column->addLayout(buttons);
    connect(add, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Add a section"), job::add_at("/hilt/sections"));
        survey_->choose(survey_->rows().source_count() - 1);
        survey_->setFocus();
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        if (const int row = survey_->chosen(); row >= 0)
            survey_->rows().take_out({survey_->rows().shown_row(row)});
    });
    left_column->addSpacing(4);
    left_column->addWidget(label(tr("Parts in the hilt"), "title", left));
    left_column->addWidget(parts_);
    left_column->addWidget(parts_->refusal());
    begin_ = new QPushButton(tr("Begin on the start sheet"), left);
    begin_->setObjectName("toStartSheet");
    begin_->setToolTip(tr("A few readings and choices make a whole job: cell, kill, board, "
                          "speaker, button, connector, one blade, wired"));
    left_column->addWidget(begin_);
    left_column->addStretch();
    connect(begin_, &QPushButton::clicked, this, &StationPage::start_wanted);

    auto [right, right_column] = paper(tr("What goes in"), tr("in the place of the cell"), this);
    right_column->addWidget(cells_);
    right_column->addStretch();

    setObjectName("backdropPage");
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 11);
    row_->addWidget(right, 9);
    survey_->as_high_as_its_rows(13);
    parts_->as_high_as_its_rows(14);
    connect(parts_, &Table::row_chosen, this,
            [this](int row) { context_.selection.choose(parts_->rows().row_name(row)); });
    connect(parts_, &Table::row_activated, this,
            [this](int row) { context_.selection.open(parts_->rows().row_name(row)); });
    parts_->offer([this](QMenu& menu, int row) {
        menu.addAction(tr("All of %1").arg(parts_->rows().row_name(row)), this,
                       [this, row] { context_.selection.open(parts_->rows().row_name(row)); });
    });
    show_job();
}

void SurveySheet::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    // Side by side while both have room to be read.
    const bool narrow = width() < context_.appearance.text() * 52;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void SurveySheet::show_job() {
    survey_->refresh();
    parts_->refresh();
    begin_->setVisible(plan::is_blank(context_.session.job()));
}

void SurveySheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    parts_->refresh();
    cells_->redraw();
}

} // namespace conductus::app
