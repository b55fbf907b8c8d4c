// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/runtime_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/power/ribbon_list.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/places.h"
#include "core/power/use_day.h"

namespace conductus::app {
namespace {

/// A field for one number of the job's use.
EntryField* use_field(const PageContext& context, const QString& name, const char* at,
                      QWidget* parent) {
    return new EntryField(
        name,
        [&session = context.session, name, at](const QString& text) {
            return session.edit(
                RuntimeSheet::tr("Set %1").arg(name),
                job::all_of({job::write_at(at, text.toStdString()), power::follow_minutes()}));
        },
        parent);
}

} // namespace

RuntimeSheet::RuntimeSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("paper");
    look_ = new QComboBox(this);
    look_->setObjectName("useLook");
    look_->setAccessibleName(tr("Look it is lit with"));
    clean_ = use_field(context, tr("clean minutes asked for"), "/use/clean_min", this);
    ignited_ = use_field(context, tr("minutes lit a day"), "/use/ignited_min", this);
    idle_ = use_field(context, tr("minutes idle a day"), "/use/idle_min", this);
    temperature_ = use_field(context, tr("temperature"), "/use/temperature_degC", this);
    clean_->line()->setObjectName("useClean");
    ignited_->line()->setObjectName("useIgnited");
    idle_->line()->setObjectName("useIdle");
    temperature_->line()->setObjectName("useTemperature");
    volume_ = new EntryField(
        tr("loudness in percent"),
        [this](const QString& text) {
            return context_.session.edit(tr("Set the loudness"),
                                         job::write_at("/use/volume", text.toStdString(), "%"));
        },
        this);
    volume_->line()->setObjectName("useVolume");

    auto* use = new FlowLayout(9, 4);
    auto add = [&](const QString& caption, QWidget* field, const QString& unit, double width) {
        keep_width(field, context_.appearance, width);
        use->addWidget(grouped(caption, field, unit, this));
    };
    add(tr("Lit with"), look_, {}, 9.2);
    add(tr("clean for"), clean_, tr("min"), 3.7);
    add(tr("a day"), ignited_, tr("min lit"), 3.7);
    add({}, idle_, tr("min idle"), 3.7);
    add(tr("at"), temperature_, QString::fromUtf8("°C"), 3.1);
    add(tr("loud"), volume_, "%", 3.1);

    ribbons_ = new RibbonList(context, this);
    steps_ = new StepsView("steps", context, this);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(ribbons_);
    scroll->setMinimumHeight(qRound(context.appearance.text() * 10));
    auto* fit = new QPushButton(tr("Fit the chosen cell"), this);
    fit->setObjectName("fitCell");

    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("How long it runs"), "title", this));
    head->addStretch();
    head->addWidget(fit);
    steps_head_ = label({}, "second", this);
    steps_head_->setObjectName("stepsHead");
    steps_head_->setWordWrap(true);
    auto* steps_row = new QHBoxLayout;
    steps_row->addWidget(label(tr("Where the volts go"), "title", this));
    steps_row->addSpacing(10);
    steps_row->addWidget(steps_head_, 1);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 8);
    column->setSpacing(6);
    column->addLayout(head);
    column->addLayout(use);
    column->addWidget(scroll, 8);
    axis_ = new RibbonAxis(context, *ribbons_, this);
    column->addWidget(axis_);
    column->addLayout(steps_row);
    column->addWidget(steps_, 1);
    steps_->setMinimumHeight(qRound(context.appearance.text() * 5.8));

    connect(look_, &QComboBox::activated, this, [this] {
        context_.session.change(tr("Light it with %1").arg(look_->currentText()),
                                job::write_at("/use/look", look_->currentText().toStdString()));
    });
    connect(ribbons_, &RibbonList::fit_wanted, this, &RuntimeSheet::fit);
    connect(ribbons_, &RibbonList::row_moved, scroll, [scroll](QRect box) {
        scroll->ensureVisible(box.center().x(), box.center().y(), 0, box.height());
    });
    connect(fit, &QPushButton::clicked, this, [this] { this->fit(ribbons_->row()); });
    connect(&context.selection, &Selection::changed, this, &RuntimeSheet::show_steps_head);
    show_job();
}

void RuntimeSheet::show_job() {
    const job::Job& job = context_.session.job();
    look_->clear();
    for (const auto& look : job.looks)
        look_->addItem(QString::fromStdString(look.name));
    look_->setCurrentIndex(look_->findText(QString::fromStdString(job.use.look)));
    auto number = [](double v) { return QString::number(v); };
    clean_->show_value(number(job.use.clean.value()));
    ignited_->show_value(number(job.use.ignited.value()));
    idle_->show_value(number(job.use.idle.value()));
    temperature_->show_value(number(job.use.temperature.value()));
    volume_->show_value(number(job.use.volume * 100));
}

void RuntimeSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ribbons_->show_plan(plan);
    axis_->update();
    steps_->show_plan(plan);
    show_steps_head();
}

void RuntimeSheet::show_steps_head() {
    if (!plan_) return;
    const LongSectionOptions& o = context_.selection.options();
    const auto* look = plan_->look(o.look.toStdString());
    if (!look || look->views[o.charge].steps.empty()) return steps_head_->setText({});
    const plan::View& view = look->views[o.charge];
    const bool led = view.across_led > Volt(0);
    const Volt end = led ? view.across_led : view.last_pixel;
    Volt open = end;
    for (const auto& s : view.steps)
        open += s.drop;
    steps_head_->setText(
        (led ? tr("%1: %2 in the resting cells, %3 across the LED")
             : tr("%1: %2 in the resting cell, %3 at the last pixel"))
            .arg(o.look, QString::fromStdString(text(open)), QString::fromStdString(text(end))));
}

void RuntimeSheet::fit(std::size_t row) {
    if (!plan_ || row >= plan_->options.size()) return;
    const plan::CellOption& option = plan_->options[row];
    context_.session.change(tr("Fit the %1").arg(QString::fromStdString(option.name)),
                            plan::fit_option(context_.session.parts(), option));
}

} // namespace conductus::app
