// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/survey_sheet.h"

#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/stations/hilt/fit_list.h"
#include "app/stations/hilt/parts_table.h"
#include "app/stations/hilt/survey_table.h"

namespace conductus::app {

SurveySheet::SurveySheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    auto* refusal = label({}, "refused");
    refusal->setObjectName("surveyRefusal");
    survey_ = new SurveyTable(bench, refusal, this);
    parts_ = new PartsTable(bench, this);
    cells_ = new FitList(bench.appearance, this);

    auto [left, left_column] = paper(tr("Survey"), tr("caliper readings, mm or in"), this);
    left_column->addWidget(survey_, 11);
    left_column->addWidget(refusal);
    auto* add = new QPushButton(tr("Add a section"), left);
    add->setObjectName("addSection");
    auto* remove = new QPushButton(tr("Remove it"), left);
    remove->setObjectName("removeSection");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove);
    buttons->addStretch();
    left_column->addLayout(buttons);
    connect(add, &QPushButton::clicked, survey_, &SurveyTable::add_row);
    connect(remove, &QPushButton::clicked, survey_, &SurveyTable::remove_row);
    left_column->addSpacing(4);
    left_column->addWidget(label(tr("Parts in the hilt"), "title", left));
    left_column->addWidget(parts_, 14);
    usual_ = new QPushButton(tr("Fit the usual parts, wired the usual way"), left);
    usual_->setObjectName("fitUsual");
    usual_->setToolTip(tr("Cell, kill, board, speaker, button, connector, one blade: to be changed "
                          "to what this job has"));
    left_column->addWidget(usual_);
    connect(usual_, &QPushButton::clicked, this, [this] {
        (void)bench_.session.edit(tr("Fit the usual parts"), job::fit_usual_parts);
        parts_->setFocus(Qt::OtherFocusReason);
    });

    auto [right, right_column] = paper(tr("What goes in"), tr("in the place of the cell"), this);
    right_column->addWidget(cells_);
    right_column->addStretch();

    setObjectName("benchPage");
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 11);
    row_->addWidget(right, 9);
    survey_->setMinimumHeight(qRound(bench.appearance.text() * 11.6));
    parts_->setMinimumHeight(qRound(bench.appearance.text() * 15));
    show_job();
}

void SurveySheet::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    // Side by side while both have room to be read.
    const bool narrow = width() < bench_.appearance.text() * 52;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void SurveySheet::show_job() {
    survey_->show_sections();
    parts_->show_parts();
    const job::Job& job = bench_.session.job();
    usual_->setVisible(job.parts.empty() && job.blades.empty() && job.wires.empty());
}

void SurveySheet::show_plan(const PlanPtr& plan) {
    parts_->show_plan(plan);
    cells_->show_plan(plan);
}

} // namespace conductus::app
