// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/joints_sheet.h"

#include <QHBoxLayout>
#include <QRegularExpression>

#include "app/session/words.h"
#include "app/shell/flow_layout.h"
#include "core/job/mating.h"
#include "core/job/places.h"

namespace conductus::app {
JointsSheet::JointsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto* left = new QFrame(this);
    left->setObjectName("paper");
    auto* left_column = new QVBoxLayout(left);
    left_column->setContentsMargins(14, 8, 14, 10);
    left_column->setSpacing(4);
    left_column->addWidget(hilt_row());
    Session& session = context.session;
    const auto columns = [&](const std::string& list,
                             std::initializer_list<std::pair<QString, const char*>> fields) {
        std::vector<Column> all;
        for (const auto& [title, key] : fields)
            all.push_back(value_column(session, title, list, key));
        return all;
    };
    joints_ =
        table(left_column, "joints", tr("Joints"), tr("where sections come apart"), "/hilt/joints",
              columns("/hilt/joints", {{tr("joint"), "name"},
                                       {tr("at"), "at_mm"},
                                       {tr("kind"), "kind"},
                                       {tr("hand"), "hand"},
                                       {tr("pitch"), "pitch_mm"},
                                       {tr("engaged"), "engaged_mm"}}),
              tr("Name a joint: where the pommel comes off, for instance."));
    auto screws = columns("/hilt/fasteners", {{tr("screw"), "name"},
                                              {tr("at"), "at_mm"},
                                              {tr("angle"), "angle_deg"},
                                              {tr("thread"), "thread"},
                                              {tr("key"), "key"},
                                              {tr("holds"), "holds"},
                                              {tr("loosen"), "loosen"},
                                              {tr("state"), "state"},
                                              {tr("note"), "note"}});
    const auto screw = [&session](int row) -> const job::Fastener& {
        return session.job().hilt.fasteners[static_cast<std::size_t>(row)];
    };
    screws[5].show = [screw](int row) { return CellText(words(job::held_by(screw(row)))); };
    screws[5].typed = [screw](int row) { return words(job::held_by(screw(row))); };
    screws[5].edit = [](int row, const std::string& typed) {
        return job::hold(static_cast<std::size_t>(row), typed);
    };
    screws[5].choices = [&session](int) {
        QStringList all{"blade"};
        for (const job::SideBore& bore : session.job().hilt.side_bores)
            if (const QString in = "blade in " + words(bore.socket); !all.contains(in)) all << in;
        for (const job::Part& part : session.job().parts)
            all << words(part.ref);
        for (const job::Carrier& carrier : session.job().hilt.carriers)
            all << words(carrier.ref);
        for (const job::Joint& joint : session.job().hilt.joints)
            all << words(joint.name);
        return all;
    };
    const auto sockets = [&session](int) {
        QStringList all;
        for (const std::string& socket : job::sockets_of(session.job()))
            all << words(socket);
        return all;
    };
    screws_ =
        table(left_column, "screws", tr("Screws"),
              tr("holds: a part, a carrier, a joint, blade, or “blade in P2”"), "/hilt/fasteners",
              std::move(screws), tr("Name a screw, its place and what it holds."));
    auto carriers = columns("/hilt/carriers", {{tr("carrier"), "ref"},
                                               {tr("kind"), "kind"},
                                               {tr("wall"), "wall_mm"},
                                               {tr("goes in by"), "goes_in"}});
    Column carries = reading(tr("carries"), [&session](int row) {
        QStringList on;
        const auto& carrier = session.job().hilt.carriers[static_cast<std::size_t>(row)];
        for (const job::Part& part : session.job().parts)
            if (part.carrier == carrier.ref) on << words(part.ref);
        return CellText(on.join(", "));
    });
    carries.edit = [](int row, const std::string& typed) {
        return job::put_on_carrier(static_cast<std::size_t>(row), typed);
    };
    carriers.push_back(std::move(carries));
    carriers_ =
        table(left_column, "carriers", tr("Carriers"),
              tr("none: one chassis carries all but speaker, button, connector"), "/hilt/carriers",
              std::move(carriers), tr("Type the reference of a carrier, and what rides on it."));
    auto openings = columns("/hilt/openings", {{tr("opening"), "name"},
                                               {tr("use"), "use"},
                                               {tr("at"), "at_mm"},
                                               {tr("angle"), "angle_deg"},
                                               {tr("length"), "length_mm"},
                                               {tr("width"), "width_mm"},
                                               {tr("part"), "part"}});
    openings[6].choices = [&session](int) {
        QStringList all;
        for (const job::Part& part : session.job().parts)
            all << words(part.ref);
        return all;
    };
    openings_ =
        table(left_column, "openings", tr("Openings"), tr("switch, port, vent, window, slot"),
              "/hilt/openings", std::move(openings), tr("Name a hole through the wall."));
    bores_ = table(
        left_column, "socketBores", tr("Blade socket"), tr("from the mouth inward"),
        "/hilt/socket/bores",
        columns("/hilt/socket/bores", {{tr("down to"), "depth_mm"}, {tr("bore ø"), "bore_mm"}}),
        tr("How deep the socket is, and its bore: a row for every step."));
    auto side =
        columns("/hilt/side_bores",
                {{tr("socket"), "socket"}, {tr("down to"), "depth_mm"}, {tr("bore ø"), "bore_mm"}});
    side[0].choices = sockets;
    side_ = table(left_column, "sideBores", tr("Side sockets"),
                  tr("each from its own mouth inward; socket: the connector at its bottom"),
                  "/hilt/side_bores", std::move(side),
                  tr("A socket beside the one at the mouth: its connector, depth and bore."));
    left_column->addStretch(1);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(left);
    show_job();
}

Table* JointsSheet::table(QLayout* column, const QString& object, const QString& title,
                          const QString& remark, const std::string& list,
                          std::vector<Column> columns, const QString& empty) {
    auto* head = new QWidget(this);
    head->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* words = new QHBoxLayout(head);
    words->setContentsMargins(0, 4, 0, 0);
    words->addWidget(label(title, "title", head));
    words->addStretch();
    words->addWidget(label(remark, "second", head));
    column->addWidget(head);
    const std::string key = list.ends_with("bores")    ? ""
                            : list == "/hilt/carriers" ? "ref"
                                                       : "name";
    auto* t = new Table({.object = object,
                         .name = title,
                         .columns = std::move(columns),
                         .rows = list_rows(context_.session, list, key),
                         .wide = object == "screws" ? 8 : -1, // the note
                         .empty = empty,
                         .session = &context_.session},
                        context_.appearance, this);
    t->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    t->as_high_as_its_rows(8);
    column->addWidget(t);
    column->addWidget(t->refusal());
    return t;
}

EntryField* JointsSheet::value_field(const QString& object, const QString& name,
                                     const std::string& at) {
    auto* field = new EntryField(
        name,
        [this, name, at](const QString& typed) {
            return context_.session.edit(name, job::write_at(at, typed.toStdString()));
        },
        this);
    field->line()->setObjectName(object);
    keep_width(field, context_.appearance, 4.5);
    return field;
}

QWidget* JointsSheet::hilt_row() {
    auto* holder = new QWidget(this);
    auto* flow = new FlowLayout(12, 4);
    holder->setLayout(flow);
    opens_ = word_combo<job::End>(holder, "hiltOpens", tr("End of the hilt that stands open"));
    chassis_ = word_combo<job::Chassis>(holder, "hiltChassis", tr("School of the chassis"));
    material_ = word_combo<job::Material>(holder, "hiltMaterial", tr("Material of the hilt"));
    clearance_ = value_field("hiltClearance", tr("Clearance wanted"), "/hilt/clearance_mm");
    wall_ = value_field("hiltWall", tr("Wall of the chassis"), "/hilt/chassis_wall_mm");
    nominal_ = value_field("socketNominal", tr("Nominal diameter of the socket"),
                           "/hilt/socket/nominal_mm");
    nominal_->setToolTip(tr("Usual are 7/8 in and 1 in"));
    keep_width(nominal_, context_.appearance, 7);
    for (QComboBox* combo : {opens_, chassis_, material_})
        keep_width(combo, context_.appearance, 8.5);
    flow->addWidget(grouped(tr("opens at"), opens_, {}, holder));
    flow->addWidget(grouped(tr("chassis"), chassis_, {}, holder));
    flow->addWidget(grouped(tr("wall"), wall_, tr("mm"), holder));
    flow->addWidget(grouped(tr("clearance"), clearance_, tr("mm"), holder));
    flow->addWidget(grouped(tr("of"), material_, {}, holder));
    flow->addWidget(grouped(tr("socket, nominal"), nominal_, tr("mm"), holder));
    const auto on = [this](QComboBox* combo, const QString& label, const char* at) {
        connect(combo, &QComboBox::activated, this, [this, combo, label, at] {
            context_.session.change(label, job::write_at(at, combo->currentText().toStdString()));
        });
    };
    on(opens_, tr("End that opens"), "/hilt/opens");
    on(chassis_, tr("School of the chassis"), "/hilt/chassis");
    on(material_, tr("Material of the hilt"), "/hilt/material");
    return holder;
}

void JointsSheet::show_job() {
    const job::Job& job = context_.session.job();
    const job::Hilt& h = job.hilt;
    opens_->setCurrentIndex(static_cast<int>(h.opens));
    chassis_->setCurrentIndex(static_cast<int>(h.chassis));
    material_->setCurrentIndex(static_cast<int>(h.material));
    const auto typed = [&](const char* at) { return words(job::typed_at(job, at).value_or("")); };
    clearance_->show_value(typed("/hilt/clearance_mm"));
    wall_->show_value(typed("/hilt/chassis_wall_mm"));
    nominal_->show_value(h.socket.nominal > Millimetre(0) ? typed("/hilt/socket/nominal_mm")
                                                          : QString());
    for (Table* table : {joints_, screws_, carriers_, openings_, bores_, side_})
        table->refresh();
}

} // namespace conductus::app
