// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/hand_states_sheet.h"

#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/job/places.h"

namespace conductus::app {

HandStatesSheet::HandStatesSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    Session& session = context.session;
    auto [sheet, column] =
        paper(tr("States of the hilt"), tr("the first is the one it is switched on in"), this);
    constexpr const char* list = "/handling/states";
    Column then = value_column(session, tr("it is left for"), list, "then");
    then.choices = [&session](int) {
        QStringList all;
        for (const job::HandState& s : session.job().handling.states)
            all << words(s.name);
        return all;
    };
    table_ = new Table({.object = "handStates",
                        .name = tr("States of the hilt"),
                        .what = tr("State"),
                        .columns = {value_column(session, tr("state"), list, "name"),
                                    value_column(session, tr("kind"), list, "kind"),
                                    value_column(session, tr("after, s"), list, "limit_s"), then,
                                    value_column(session, tr("it is told by"), list, "signal")},
                        .rows = list_rows(session, list, "name"),
                        .wide = 4,
                        .main = true,
                        .empty = tr("Name a state: idle, lit, a menu. What is left by itself has a "
                                    "time and a state that follows."),
                        .session = &session},
                       context.appearance, sheet);
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    again_ = new EntryField(
        tr("Longest time between two presses that count as one trigger, s"),
        [&session](const QString& typed) {
            return session.edit(tr("Time between presses"),
                                job::write_at("/handling/again_s", typed.toStdString()));
        },
        sheet);
    again_->line()->setObjectName("againSeconds");
    keep_width(again_, context.appearance, 5);
    column->addWidget(
        grouped(tr("two presses count as one trigger within"), again_, tr("s"), sheet), 0,
        Qt::AlignLeft);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
}

void HandStatesSheet::show_job() {
    table_->refresh();
    again_->show_value(
        words(job::typed_at(context_.session.job(), "/handling/again_s").value_or("")));
}

} // namespace conductus::app
