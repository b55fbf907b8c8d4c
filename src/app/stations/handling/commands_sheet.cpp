// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/commands_sheet.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/handling/buttons.h"
#include "core/job/places.h"
#include "core/job/trigger.h"
#include "files/disk.h"
#include "files/handling_csv.h"

namespace conductus::app {

CommandsSheet::CommandsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [sheet, column] = paper(tr("Commands"), tr("a row each; paste them from a table"), this);
    constexpr const char* list = "/handling/commands";
    const auto of = [&](const QString& title, const char* key) {
        return value_column(session, title, list, key);
    };
    Column trigger = reading(tr("trigger"), [&session](int row) {
        return CellText(words(job::trigger_text(
            session.job().handling.commands[static_cast<std::size_t>(row)].trigger)));
    });
    trigger.edit = [](int row, const std::string& typed) {
        return job::set_trigger(static_cast<std::size_t>(row), typed);
    };
    Column way = reading(tr("state > leads to"), [&session](int row) {
        return CellText(
            words(job::way_text(session.job().handling.commands[static_cast<std::size_t>(row)])));
    });
    way.edit = [](int row, const std::string& typed) {
        return job::set_way(static_cast<std::size_t>(row), typed);
    };
    way.choices = [&session](int) {
        QStringList all;
        for (const job::HandState& s : session.job().handling.states)
            all << words(s.name);
        return all;
    };
    const auto presets = [&session](int) {
        QStringList all;
        for (const job::Preset& p : session.job().presets)
            all << words(p.name);
        return all;
    };
    Column what = of(tr("which"), "what"), only = of(tr("preset"), "preset");
    only.choices = presets;
    what.choices = [&session, presets](int row) {
        const auto& job = session.job();
        const auto& c = job.handling.commands[static_cast<std::size_t>(row)];
        if (c.does == job::Does::preset) return presets(row);
        QStringList all;
        if (c.does == job::Does::effect)
            for (const job::Effect& e : job.effects)
                all << words(e.name);
        return all;
    };
    TableRows rows = list_rows(session, list, "name");
    rows.add = [] { return handling::add_command(); };
    table_ = new Table({.object = "commands",
                        .name = tr("Commands"),
                        .what = tr("Command"),
                        .columns = {of(tr("command"), "name"), trigger, way, of(tr("does"), "does"),
                                    what, only, of(tr("blade"), "blade"),
                                    of(tr("is from"), "source"), of(tr("tried on"), "tried_on")},
                        .rows = rows,
                        .wide = 7,
                        .dense = true,
                        .main = true,
                        .empty = tr("Type what a command does, its trigger and its state; or begin "
                                    "with one of the maps of the sheet Map."),
                        .session = &session},
                       context.appearance, sheet);
    auto* read = new QPushButton(tr("Read them from a file…"), sheet);
    read->setObjectName("readCommands");
    said_ = label({}, "refused", sheet);
    said_->setObjectName("commandsSaid");
    said_->setWordWrap(true);
    said_->hide();
    column->addWidget(read, 0, Qt::AlignLeft);
    column->addWidget(said_);
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    connect(read, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(
            window(), tr("Read commands"), {}, tr("Tables and texts (*.csv *.txt)"), nullptr,
            QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) take_in(path);
    });
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(table_, &Table::row_chosen, this, [this](int row) {
        const auto& commands = context_.session.job().handling.commands;
        if (row < 0 || static_cast<std::size_t>(row) >= commands.size()) return;
        const auto& buttons = commands[static_cast<std::size_t>(row)].trigger.buttons;
        if (!buttons.empty()) context_.selection.choose(words(buttons.front().button));
    });
}

void CommandsSheet::take_in(const QString& path) {
    const auto fail = [this](const Problem& problem) {
        said_->setText(words(problem.text()));
        said_->show();
    };
    said_->hide();
    const auto text = files::read_text(path.toStdString());
    if (!text) return fail(text.error());
    auto read = files::read_commands(*text, QFileInfo(path).fileName().toStdString(),
                                     context_.session.job(), context_.session.parts());
    if (!read) return fail(read.error());
    if (auto ok =
            context_.session.edit(tr("Read commands"), files::take_commands(std::move(*read)));
        !ok)
        fail(ok.error());
}

} // namespace conductus::app
