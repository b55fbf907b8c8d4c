// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/cold_sheet.h"

#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/cold_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"

namespace conductus::app {

ColdSheet::ColdSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    auto [below, below_column] =
        paper(tr("Cold and warm"), tr("lit without pause; all else as it is"), this);
    setObjectName("backdropPage");
    auto temperature = [&](const QString& name, const char* object, Celsius* into) {
        auto* field = new EntryField(
            name,
            [this, into](const QString& typed) -> Result<void> {
                const auto number = parse_number(typed.toStdString(), "°C");
                if (!number) return tl::unexpected(number.error());
                if (!job::limits::temperature_degC.holds(*number))
                    return problem("", "out of range", "−20 to 50 °C");
                *into = Celsius(*number);
                ask();
                return {};
            },
            below);
        field->line()->setObjectName(object);
        field->show_value(QString::number(into->value()));
        keep_width(field, context_.appearance, 3.4);
        return field;
    };
    cold_ = temperature(tr("cold, in °C"), "coldAt", &cold_at_);
    warm_ = temperature(tr("warm, in °C"), "warmAt", &warm_at_);
    auto* fields = new QHBoxLayout;
    fields->addWidget(grouped(tr("cold"), cold_, QString::fromUtf8("°C"), below));
    fields->addWidget(grouped(tr("warm"), warm_, QString::fromUtf8("°C"), below));
    fields->addStretch();
    both_ = new DrawingView(
        "coldAndWarm", tr("Runtime cold and warm"), context.appearance,
        [this]() -> DrawingPtr { return std::make_shared<const ColdRibbonsDrawing>(study_); },
        below);
    both_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    both_->keep_height();
    both_->redraw();
    below_column->addLayout(fields);
    below_column->addWidget(both_);
    said_ = label({}, "second", below);
    said_->setObjectName("coldSaid");
    said_->setWordWrap(true);
    below_column->addWidget(said_);
    curves_ = new DrawingView(
        "coldCurves", tr("Board at its worst peak, cold and warm"), context.appearance,
        [this]() -> DrawingPtr { return std::make_shared<const ColdCurvesDrawing>(study_); },
        below);
    curves_->setMinimumHeight(qRound(context.appearance.text() * 10));
    below_column->addWidget(curves_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(below);
}

void ColdSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ask();
}

void ColdSheet::ask() {
    context_.session.ask(plan::UseLivedThrough{{cold_at_, warm_at_}}, this,
                         [this](const StudyPtr& study) { show_study(study); });
}

void ColdSheet::show_study(const StudyPtr& study) {
    study_ = study;
    both_->redraw();
    curves_->redraw();
    if (!*study || (*study)->at.size() < 2) {
        said_->setText(*study ? QString() : words(study->error()));
        return;
    }
    const power::Discharge &cold = (*study)->at[0].run, &warm = (*study)->at[1].run;
    auto words = [](const std::string& s) { return QString::fromStdString(s); };
    auto first = [](const power::Discharge& r) { return r.samples.front(); };
    said_->setText(
        tr("Cold, a cell resists more: the board stands at %1 at %2 when full, warm at %3. At the "
           "first crackle %4 % of the charge are left cold, %5 % warm. What is held back is not "
           "lost: the cell gives it once it is warm.")
            .arg(words(text(first(cold).board_peak)), words(cold.peak_event),
                 words(text(first(warm).board_peak)))
            .arg(cold.clean_charge * 100, 0, 'f', 0)
            .arg(warm.clean_charge * 100, 0, 'f', 0));
}

} // namespace conductus::app
