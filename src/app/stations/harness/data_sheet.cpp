// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/data_sheet.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::app {

DataSheet::DataSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [top, top_column] = paper(tr("As soldered"), tr("pad to lights, to button"), this);
    const auto cell = [this](std::size_t column) {
        return
            [this, column](int row) { return wired_rows_[static_cast<std::size_t>(row)][column]; };
    };
    wired_ = new Table({.object = "dataMap",
                        .name = tr("What hangs on which pad"),
                        .columns = {reading(tr("pad"), cell(0)), reading(tr("leads to"), cell(1)),
                                    reading(tr("wired"), cell(2)), reading(tr("set"), cell(3))},
                        .rows = {[this] { return static_cast<int>(wired_rows_.size()); }},
                        .wide = 1,
                        .dense = true,
                        .main = true,
                        .empty = tr("No pad leads anywhere yet: wire the lights and buttons.")},
                       context.appearance, top);
    top_column->addWidget(wired_, 1);

    auto [left, left_column] = paper(tr("Data lines as set"), {}, this);
    Session& session = context.session;
    Column line_pad = value_column(session, tr("pad"), "/lines", "pad");
    line_pad.choices = [this](int) { return pads_beginning("d"); };
    lines_ = new Table(
        {.object = "configLines",
         .name = tr("Data lines as the board is set"),
         .what = tr("Data line"),
         .columns = {line_pad, value_column(session, tr("pixels"), "/lines", "pixels", "px")},
         .rows = list_rows(session, "/lines", "pad"),
         .empty = tr("What the board is told: a pad, and how many pixels."),
         .session = &session},
        context.appearance, left);
    auto* as_wired = new QPushButton(tr("Set all as wired"), left);
    as_wired->setObjectName("configureAsWired");
    left_column->addWidget(lines_, 1);
    left_column->addWidget(lines_->refusal());
    left_column->addWidget(as_wired, 0, Qt::AlignLeft);

    auto [right, right_column] = paper(tr("Buttons as set"), {}, this);
    mode_ = new QComboBox(right);
    mode_->setObjectName("buttonMode");
    mode_->setAccessibleName(tr("Button mode of the board"));
    mode_->addItems({tr("not entered"), tr("one button"), tr("two buttons"), tr("three buttons")});
    Column button_pad = value_column(session, tr("pad"), "/config/pads", "pad");
    button_pad.choices = [this](int) { return pads_beginning("s"); };
    buttons_ =
        new Table({.object = "configButtons",
                   .name = tr("Button pads as the board is set"),
                   .what = tr("Button pad"),
                   .columns = {button_pad, value_column(session, tr("use"), "/config/pads", "use")},
                   .rows = list_rows(session, "/config/pads", "pad"),
                   .empty = tr("Which pad does what: main, second …"),
                   .session = &session},
                  context.appearance, right);
    blade_out_ = new QComboBox(right);
    blade_out_->setObjectName("bladeOut");
    blade_out_->setAccessibleName(tr("What the board does without a blade"));
    for (const auto& entry : job::Words<job::BladeOut>::table)
        blade_out_->addItem(QString::fromUtf8(entry.second.data()));
    sense_pad_ = new QComboBox(right);
    sense_pad_->setObjectName("sensePad");
    sense_pad_->setAccessibleName(tr("Pad that feels whether a blade is in"));
    auto* modes = new FlowLayout(14, 4);
    modes->addWidget(mode_);
    modes->addWidget(grouped(tr("blade out"), blade_out_, {}, right));
    modes->addWidget(grouped(tr("felt at"), sense_pad_, {}, right));
    right_column->addLayout(modes);
    right_column->addWidget(buttons_, 1);
    right_column->addWidget(buttons_->refusal());

    auto [apart, apart_column] =
        paper(tr("Where they disagree"), tr("change the one or the other"), this);
    mismatches_ = new QWidget(apart);
    mismatches_->setObjectName("mismatches");
    auto* list = new QVBoxLayout(mismatches_);
    list->setContentsMargins(0, 0, 0, 0);
    list->setSpacing(3);
    auto* scroll = new QScrollArea(apart);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(mismatches_);
    apart_column->addWidget(scroll, 1);

    auto* upper = new QHBoxLayout;
    upper->setSpacing(8);
    upper->addWidget(top, 5);
    upper->addWidget(apart, 4);
    auto* lower = new QHBoxLayout;
    lower->setSpacing(8);
    lower->addWidget(left, 1);
    lower->addWidget(right, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addLayout(upper, 1);
    all->addLayout(lower, 1);
    connect(mode_, &QComboBox::activated, this, [this](int mode) {
        context_.session.change(tr("Button mode"),
                                job::write_at("/config/buttons", std::to_string(mode)));
    });
    connect(blade_out_, &QComboBox::activated, this, [this](int i) {
        context_.session.change(
            tr("What it does without a blade"),
            job::write_at("/config/blade_out",
                          std::string(job::Words<job::BladeOut>::table[static_cast<std::size_t>(i)]
                                          .second)));
    });
    connect(sense_pad_, &QComboBox::activated, this, [this](int i) {
        context_.session.change(
            tr("Pad that feels the blade"),
            job::write_at("/config/sense_pad", sense_pad_->itemData(i).toString().toStdString()));
    });
    connect(as_wired, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Set all as wired"),
                                harness::configure_as_wired(context_.session.parts()));
    });
}

QStringList DataSheet::pads_beginning(const char* letter) const {
    QStringList pads;
    const auto board =
        job::first_of<catalogue::Board>(context_.session.job(), context_.session.parts());
    if (!board) return pads;
    for (const std::string& terminal : board.type->terminals)
        if (terminal[0] == *letter && terminal.find('_') == std::string::npos)
            pads << words(board.part->ref + "." + terminal);
    return pads;
}

void DataSheet::show_job() {
    const job::Job& job = context_.session.job();
    lines_->refresh();
    buttons_->refresh();
    mode_->setCurrentIndex(job.config.buttons);
    blade_out_->setCurrentIndex(static_cast<int>(job.config.blade_out));
    QStringList pads = pads_beginning("s");
    if (!job.config.sense_pad.empty() && !pads.contains(words(job.config.sense_pad)))
        pads << words(job.config.sense_pad);
    sense_pad_->clear();
    sense_pad_->addItem(tr("no pad"), QString());
    for (const QString& pad : pads)
        sense_pad_->addItem(pad, pad);
    sense_pad_->setCurrentIndex(std::max(0, sense_pad_->findData(words(job.config.sense_pad))));
}

/// What hangs on a pad, a row each: what stands before it, then those that show the same pixels
/// together; what comes behind others after an arrow, what shows theirs without.
QStringList DataSheet::lights_of(const harness::DataLine& line) {
    const QString arrow = QString::fromUtf8(" → ");
    QString before;
    if (line.series > Ohm(0)) before += words(text(line.series)) + arrow;
    if (!line.shifter.empty()) before += words(line.shifter) + arrow;
    QStringList rows;
    for (std::size_t i = 0; i < line.ranges.size();) {
        const harness::Range& r = line.ranges[i];
        QStringList alike;
        for (; i < line.ranges.size() && line.ranges[i].first == r.first &&
               line.ranges[i].last == r.last;
             ++i)
            alike << words(line.ranges[i].ref);
        const QString said = tr("%1 %2–%3").arg(alike.join(", ")).arg(r.first).arg(r.last);
        rows << (rows.isEmpty() ? before + said
                 : r.first > 1  ? arrow.trimmed() + " " + said
                                : tr("also %1").arg(said));
    }
    return rows;
}

void DataSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const harness::DataMap& map = plan->harness.data;
    wired_rows_.clear();
    const auto add = [&](const QString& pad, const QString& leads, const QString& wired = {},
                         CellText set = {}) {
        wired_rows_.push_back({pad, leads, wired, std::move(set)});
    };
    for (const harness::DataLine& line : map.lines) {
        const QStringList lights = lights_of(line);
        const bool differs = line.configured && *line.configured != line.wired;
        add(words(line.pad), lights.value(0, tr("nothing")), tr("%1 px").arg(line.wired),
            {line.configured ? tr("%1 px").arg(*line.configured) : tr("not set"),
             differs ? CellInk::warn : CellInk::ink});
        for (int i = 1; i < lights.size(); ++i)
            add({}, lights[i]);
    }
    for (const harness::ButtonLine& b : map.buttons)
        add(words(b.pad), b.button.empty() ? tr("no button") : words(b.named()),
            b.button.empty() ? tr("no") : tr("yes"), b.use.empty() ? tr("not set") : words(b.use));
    wired_->refresh();
    show_mismatches();
}

void DataSheet::show_mismatches() {
    auto* list = static_cast<QVBoxLayout*>(mismatches_->layout());
    while (QLayoutItem* item = list->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide(); // until it is gone
            item->widget()->deleteLater();
        }
        delete item;
    }
    const harness::DataMap& map = plan_->harness.data;
    auto say = [&](const QString& text, const char* role) {
        auto* l = label(text, role, mismatches_);
        l->setWordWrap(true);
        list->addWidget(l);
    };
    if (map.mismatches.empty()) {
        const job::Job& job = *plan_->job;
        const bool entered = !job.lines.empty() || job.config != job::Config{};
        say(entered ? tr("Wiring and settings say the same.")
                    : tr("Nothing is set yet. Type what the board is set to, or set all as wired."),
            "second");
    }
    for (const harness::Mismatch& m : map.mismatches) {
        say(words(m.text), "heading");
        say(words(m.detail), "second");
        for (const auto& [text, edit, object] :
             {std::tuple(m.solder_text, m.solder, "mendSolder"),
              std::tuple(m.config_text, m.config, "mendSetting")}) {
            if (text.empty()) continue;
            const bool solder = QString(object) == "mendSolder";
            auto* link =
                new LinkButton((solder ? tr("Solder: %1") : tr("Setting: %1")).arg(words(text)),
                               context_.appearance, mismatches_);
            link->setObjectName(object);
            list->addWidget(link);
            connect(link, &QAbstractButton::clicked, this, [this, text = text, edit = edit] {
                const QString name = words(text);
                context_.session.change(name.left(1).toUpper() + name.mid(1), edit);
            });
        }
    }
    list->addStretch();
}

} // namespace conductus::app
