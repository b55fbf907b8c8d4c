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
#include "app/shell/reading_table.h"
#include "app/shell/row_reader.h"
#include "core/base/format.h"

namespace conductus::app {

DataSheet::DataSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [top, top_column] = paper(tr("As soldered"), tr("pad to lights, to button"), this);
    wired_ = reading_table({tr("pad"), tr("leads to"), tr("wired"), tr("set")}, 1, "dataMap",
                           tr("What hangs on which pad"), bench.appearance, top);
    wired_->setProperty("dense", true);
    top_column->addWidget(wired_, 1);

    auto [left, left_column] = paper(tr("Data lines as set"), {}, this);
    const QStringList line_columns{tr("pad"), tr("pixels")};
    lines_ = new RowsTable(
        line_columns, 2, "configLines", tr("Data lines as the board is set"), bench.appearance,
        [this, line_columns](const RowsTable::Rows& rows) -> Result<void> {
            std::vector<job::Line> lines;
            if (auto ok = read_rows(rows, line_columns, lines,
                                    [](RowReader& r, std::size_t) {
                                        job::Line line;
                                        line.pad = r.words();
                                        line.pixels = r.whole(job::limits::pixels, 1);
                                        return line;
                                    });
                !ok)
                return ok;
            return bench_.session.edit(tr("Data lines as set"),
                                       [&](job::Job& job) { job.lines = lines; });
        },
        left);
    connect(lines_, &RowsTable::taken, this, &DataSheet::show_job);
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
    const QStringList button_columns{tr("pad"), tr("use")};
    buttons_ = new RowsTable(
        button_columns, 2, "configButtons", tr("Button pads as the board is set"), bench.appearance,
        [this, button_columns](const RowsTable::Rows& rows) -> Result<void> {
            std::vector<job::ButtonUse> pads;
            if (auto ok = read_rows(rows, button_columns, pads,
                                    [](RowReader& r, std::size_t i) {
                                        job::ButtonUse use;
                                        use.pad = r.words();
                                        use.use = r.words();
                                        if (use.use.empty()) use.use = i ? "second" : "main";
                                        return use;
                                    });
                !ok)
                return ok;
            return bench_.session.edit(tr("Buttons as set"),
                                       [&](job::Job& job) { job.config.pads = pads; });
        },
        right);
    connect(buttons_, &RowsTable::taken, this, &DataSheet::show_job);
    right_column->addWidget(mode_, 0, Qt::AlignLeft);
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
        (void)bench_.session.edit(tr("Button mode"),
                                  [mode](job::Job& job) { job.config.buttons = mode; });
    });
    connect(as_wired, &QPushButton::clicked, this, [this] {
        (void)bench_.session.edit(tr("Set all as wired"),
                                  harness::configure_as_wired(bench_.session.parts()));
    });
}

void DataSheet::show_job() {
    const job::Job& job = bench_.session.job();
    RowsTable::Rows lines, pads;
    for (const job::Line& line : job.lines)
        lines.push_back({words(line.pad), QString::number(line.pixels)});
    for (const job::ButtonUse& use : job.config.pads)
        pads.push_back({words(use.pad), words(use.use)});
    lines_->show_rows(lines);
    buttons_->show_rows(pads);
    mode_->setCurrentIndex(job.config.buttons);
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
    const Inks& inks = bench_.appearance.inks();
    wired_->setRowCount(0);
    const auto add = [&](const QStringList& cells) {
        const int row = wired_->rowCount();
        wired_->setRowCount(row + 1);
        for (int c = 0; c < cells.size(); ++c)
            set_cell(wired_, row, c, cells[c]);
        return row;
    };
    for (const harness::DataLine& line : map.lines) {
        const QStringList lights = lights_of(line);
        const bool differs = line.configured && *line.configured != line.wired;
        const int row =
            add({words(line.pad), lights.value(0, tr("nothing")), tr("%1 px").arg(line.wired),
                 line.configured ? tr("%1 px").arg(*line.configured) : tr("not set")});
        wired_->item(row, 3)->setForeground(differs ? inks.warn : inks.ink);
        for (int i = 1; i < lights.size(); ++i)
            add({{}, lights[i], {}, {}});
    }
    for (const harness::ButtonLine& b : map.buttons)
        add({words(b.pad), b.button.empty() ? tr("no button") : words(b.button),
             b.button.empty() ? tr("no") : tr("yes"),
             b.use.empty() ? tr("not set") : words(b.use)});
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
                               bench_.appearance, mismatches_);
            link->setObjectName(object);
            list->addWidget(link);
            connect(link, &QAbstractButton::clicked, this, [this, text = text, edit = edit] {
                const QString name = words(text);
                (void)bench_.session.edit(name.left(1).toUpper() + name.mid(1), edit);
            });
        }
    }
    list->addStretch();
}

} // namespace conductus::app
