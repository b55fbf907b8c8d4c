// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/preset_changes_sheet.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "files/disk.h"
#include "files/handling_csv.h"

namespace conductus::app {

PresetChangesSheet::PresetChangesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] = paper(tr("As found"), tr("in the order of the board"), this);
    found_ = told_table("presetsFound", "/presets_found", tr("Presets as found"), left);
    auto* read_found = new QPushButton(tr("Read from a table…"), left);
    read_found->setObjectName("readFound");
    auto* as_now = new QPushButton(tr("Write down what is there now"), left);
    as_now->setObjectName("foundAsNow");
    auto* of_found = new FlowLayout(8, 4);
    of_found->addWidget(read_found);
    of_found->addWidget(as_now);
    left_column->addLayout(of_found);
    left_column->addWidget(found_, 1);
    left_column->addWidget(found_->refusal());

    auto [right, right_column] = paper(tr("As asked for"), tr("in the owner's order"), this);
    asked_ = told_table("presetsAsked", "/presets_asked", tr("Presets as asked for"), right);
    auto* read_asked = new QPushButton(tr("Read from a table…"), right);
    read_asked->setObjectName("readAsked");
    auto* of_asked = new FlowLayout(8, 4);
    of_asked->addWidget(read_asked);
    right_column->addLayout(of_asked);
    right_column->addWidget(asked_, 1);
    right_column->addWidget(asked_->refusal());

    auto [below, below_column] =
        paper(tr("Now"), tr("the presets themselves are entered at Lights"), this);
    now_ = new Table(
        {.object = "presetsNow",
         .name = tr("What became of each preset"),
         .columns = {figures(tr("no."),
                             [this](int row) {
                                 const auto* c = change(row);
                                 return CellText(c && c->now ? QString::number(c->now) : QString());
                             }),
                     figures(tr("was"),
                             [this](int row) {
                                 const auto* c = change(row);
                                 return CellText(c && c->found ? QString::number(c->found)
                                                               : QString());
                             }),
                     reading(tr("preset"),
                             [this](int row) {
                                 const auto* c = change(row);
                                 return c ? CellText(words(c->name)) : CellText();
                             }),
                     reading(tr("what became of it"),
                             [this](int row) {
                                 const auto* c = change(row);
                                 if (!c) return CellText();
                                 return CellText(words(job::label(*c)), c->untouched()
                                                                            ? CellInk::second
                                                                            : CellInk::petrol);
                             }),
                     reading(tr("in words"),
                             [this](int row) {
                                 const auto* c = change(row);
                                 QStringList all;
                                 if (c)
                                     for (const Message& line : c->lines)
                                         all << words(line);
                                 return CellText(all.join(QStringLiteral("; ")));
                             }),
                     reading(tr("asked"),
                             [this](int row) {
                                 const auto* c = change(row);
                                 QStringList all;
                                 if (c)
                                     for (const std::string& wish : c->wishes)
                                         all << words(wish);
                                 return CellText(all.join(QStringLiteral("; ")), CellInk::second);
                             })},
         .rows = {[this] { return static_cast<int>(changes_.size()); }},
         .wide = 4,
         .dense = true,
         .wrap = true,
         .empty = tr("No preset was entered yet: at Lights, Presets.")},
        context.appearance, below);
    keep_column(now_, context.appearance, 5, 18);
    not_asked_ = label({}, "second", below);
    not_asked_->setObjectName("notAsAsked");
    not_asked_->setWordWrap(true);
    said_ = label({}, "refused", below);
    said_->setObjectName("presetChangesSaid");
    said_->setWordWrap(true);
    said_->hide();
    auto* write = new QPushButton(tr("Write the change list…"), below);
    write->setObjectName("writeChanges");
    auto* foot = new QHBoxLayout;
    foot->setSpacing(12);
    foot->addWidget(not_asked_, 1);
    foot->addWidget(write, 0, Qt::AlignTop);
    below_column->addWidget(now_, 1);
    below_column->addWidget(said_);
    below_column->addLayout(foot);

    auto* top = new QHBoxLayout;
    top->setSpacing(8);
    top->addWidget(left, 1);
    top->addWidget(right, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addLayout(top, 3);
    all->addWidget(below, 5);

    for (const bool asked : {false, true})
        connect(asked ? read_asked : read_found, &QPushButton::clicked, this, [this, asked] {
            const QString path = QFileDialog::getOpenFileName(window(), tr("Read presets"), {},
                                                              tr("Tables (*.csv *.txt)"), nullptr,
                                                              QFileDialog::DontUseNativeDialog);
            if (!path.isEmpty()) take_in(path, asked);
        });
    connect(as_now, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Write down the presets as found"), job::write_down_as_found());
    });
    connect(write, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            window(), tr("Write the change list"),
            words(context_.session.job().name).toLower() + "-presets.txt", tr("Text (*.txt)"),
            nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) write_list(path);
    });
}

Table* PresetChangesSheet::told_table(const char* object, const char* list, const QString& name,
                                      QWidget* parent) {
    const auto of = [&](const QString& title, const char* key) {
        return value_column(context_.session, title, list, key);
    };
    return new Table(
        {.object = object,
         .name = name,
         .what = tr("Preset"),
         .columns = {of(tr("preset"), "name"), of(tr("font"), "font"), of(tr("look"), "look"),
                     of(tr("tracks"), "tracks"), of(tr("note"), "note")},
         .rows = list_rows(context_.session, list, "name"),
         .wide = 4,
         .dense = true,
         .empty = tr("Type them, paste them from a table, or read a file."),
         .session = &context_.session},
        context_.appearance, parent);
}

const job::PresetChange* PresetChangesSheet::change(int row) const {
    const auto r = static_cast<std::size_t>(row);
    return row >= 0 && r < changes_.size() ? &changes_[r] : nullptr;
}

void PresetChangesSheet::show_job() {
    const job::Job& job = context_.session.job();
    changes_ = job.presets_found.empty() && job.presets.empty() ? std::vector<job::PresetChange>{}
                                                                : job::preset_changes(job);
    for (Table* table : {found_, asked_, now_})
        table->refresh();
    QStringList open;
    for (const job::NotAsAsked& n : job::not_as_asked(job))
        open << words(n.text);
    not_asked_->setText(open.isEmpty() ? job.presets_asked.empty()
                                             ? QString()
                                             : tr("All presets are as they are asked for.")
                                       : tr("Not as asked: %1.").arg(open.join("; ")));
}

void PresetChangesSheet::show_plan(const PlanPtr&) { show_job(); }

void PresetChangesSheet::take_in(const QString& path, bool asked) {
    said_->hide();
    const auto fail = [this](const Problem& problem) {
        said_->setText(words(problem.text()));
        said_->show();
    };
    const auto text = files::read_text(path.toStdString());
    if (!text) return fail(text.error());
    auto told = files::read_presets_told(*text, QFileInfo(path).fileName().toStdString());
    if (!told) return fail(told.error());
    if (auto ok = context_.session.edit(asked ? tr("Read presets as asked for")
                                              : tr("Read presets as found"),
                                        job::take_told(std::move(*told), asked));
        !ok)
        fail(ok.error());
}

void PresetChangesSheet::write_list(const QString& path) {
    const job::Job& job = context_.session.job();
    QString text = tr("Presets of %1").arg(words(job.name)) + "\n\n";
    for (const Message& line : job::change_list(job))
        text += words(line) + "\n";
    if (auto ok = files::write_output(path.toStdString(), text.toStdString(), files::Content::text);
        !ok) {
        said_->setText(words(ok.error().text()));
        said_->show();
        return;
    }
    said_->hide();
}

} // namespace conductus::app
