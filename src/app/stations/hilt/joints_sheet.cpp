// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/joints_sheet.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QRegularExpression>
#include <QScrollBar>
#include <fmt/format.h>
#include <fmt/ranges.h>

#include "app/session/words.h"
#include "app/shell/flow_layout.h"
#include "app/shell/row_reader.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

using job::limits::Range;

QString figure(double v) { return QString::number(std::round(v * 1000) / 1000); }

std::string or_numbered(std::string name, const char* stem, std::size_t i) {
    return name.empty() ? fmt::format("{} {}", stem, i + 1) : name;
}

} // namespace

JointsSheet::JointsSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    using namespace job;
    setObjectName("benchPage");
    auto* left = new QFrame(this);
    left->setObjectName("paper");
    auto* left_column = new QVBoxLayout(left);
    left_column->setContentsMargins(14, 8, 14, 10);
    left_column->setSpacing(4);
    left_column->addWidget(hilt_row());
    const QStringList joint_columns{tr("joint"), tr("at"),    tr("kind"),
                                    tr("hand"),  tr("pitch"), tr("engaged")};
    joints_ = table(left_column, "joints", tr("Joints"), tr("where sections come apart"),
                    joint_columns, [joint_columns](Job& job, const RowsTable::Rows& rows) {
                        return read_rows(rows, joint_columns, job.hilt.joints,
                                         [](RowReader& r, std::size_t i) {
                                             Joint j;
                                             j.name = or_numbered(r.words(), "joint", i);
                                             j.at = r.length(limits::place_mm);
                                             j.kind = r.choice(JointKind::thread);
                                             j.hand = r.choice(Hand::right);
                                             j.pitch = r.length(limits::pitch_mm);
                                             j.engaged = r.length(limits::depth_mm);
                                             return j;
                                         });
                    });
    const QStringList screw_columns{tr("screw"), tr("at"),     tr("angle"), tr("thread"), tr("key"),
                                    tr("holds"), tr("loosen"), tr("state"), tr("note")};
    screws_ = table(left_column, "screws", tr("Screws"),
                    tr("holds: a part, a carrier, a joint, or blade"), screw_columns,
                    [screw_columns](Job& job, const RowsTable::Rows& rows) {
                        return read_rows(rows, screw_columns, job.hilt.fasteners,
                                         [](RowReader& r, std::size_t i) {
                                             Fastener f;
                                             f.name = or_numbered(r.words(), "screw", i);
                                             f.at = r.length(limits::place_mm);
                                             f.angle = r.angle();
                                             f.thread = r.words();
                                             f.key = r.words();
                                             f.holds = r.words();
                                             f.loosen = r.choice(Loosen::may);
                                             f.state = r.choice(ScrewState::fine);
                                             f.note = r.words();
                                             return f;
                                         });
                    });
    const QStringList carrier_columns{tr("carrier"), tr("kind"), tr("wall"), tr("goes in by"),
                                      tr("carries")};
    carriers_ =
        table(left_column, "carriers", tr("Carriers"),
              tr("none: one chassis carries all but speaker, button, connector"), carrier_columns,
              [carrier_columns](Job& job, const RowsTable::Rows& rows) -> Result<void> {
                  std::map<std::string, std::string> on;
                  auto ok = read_rows(
                      rows, carrier_columns, job.hilt.carriers, [&](RowReader& r, std::size_t i) {
                          Carrier c;
                          c.ref = r.words();
                          if (c.ref.empty()) c.ref = fmt::format("C{}", i + 1);
                          c.kind = r.choice(CarrierKind::fixed);
                          c.wall = r.length(limits::wall_mm, 1.2);
                          c.goes_in = r.choice(End::both);
                          for (const QString& ref : words(r.words()).split(
                                   QRegularExpression("[\\s,;]+"), Qt::SkipEmptyParts))
                              on[ref.toStdString()] = c.ref;
                          return c;
                      });
                  if (!ok) return ok;
                  for (const auto& [ref, carrier] : on)
                      if (!find_ref(job.parts, ref))
                          return problem(carrier, fmt::format("there is no part {}", ref),
                                         "Name fitted parts, like B1, K1");
                  for (Part& p : job.parts) {
                      const auto it = on.find(p.ref);
                      p.carrier = it == on.end() ? std::string() : it->second;
                  }
                  return {};
              });
    const QStringList opening_columns{tr("opening"), tr("use"),   tr("at"),  tr("angle"),
                                      tr("length"),  tr("width"), tr("part")};
    openings_ =
        table(left_column, "openings", tr("Openings"), tr("switch, port, vent, window, slot"),
              opening_columns, [opening_columns](Job& job, const RowsTable::Rows& rows) {
                  return read_rows(rows, opening_columns, job.hilt.openings,
                                   [](RowReader& r, std::size_t i) {
                                       Opening o;
                                       o.name = or_numbered(r.words(), "opening", i);
                                       o.use = r.choice(OpeningUse::vent);
                                       o.at = r.length(limits::place_mm);
                                       o.angle = r.angle();
                                       o.length = r.length(limits::depth_mm, 5);
                                       o.width = r.length(limits::depth_mm, o.length.value());
                                       o.part = r.words();
                                       return o;
                                   });
              });
    const QStringList bore_columns{tr("down to"), tr("bore ø")};
    bores_ = table(left_column, "socketBores", tr("Blade socket"), tr("from the mouth inward"),
                   bore_columns, [bore_columns](Job& job, const RowsTable::Rows& rows) {
                       return read_rows(rows, bore_columns, job.hilt.socket.bores,
                                        [](RowReader& r, std::size_t) {
                                            SocketBore b;
                                            b.depth = r.length(limits::depth_mm);
                                            b.bore = r.length(limits::diameter_mm, 25.7);
                                            return b;
                                        });
                   });
    left_column->addStretch(1);

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(left);
    show_job();
}

RowsTable* JointsSheet::table(QLayout* column, const QString& object, const QString& title,
                              const QString& remark, const QStringList& columns, const Read& read) {
    auto* head = new QWidget(this);
    head->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* words = new QHBoxLayout(head);
    words->setContentsMargins(0, 4, 0, 0);
    words->addWidget(label(title, "title", head));
    words->addStretch();
    words->addWidget(label(remark, "second", head));
    column->addWidget(head);
    auto* t = new RowsTable(
        columns, static_cast<int>(columns.size()), object, title, bench_.appearance,
        [this, read, title](const RowsTable::Rows& rows) -> Result<void> {
            // The job is only changed where every row could be read and the whole is right.
            job::Job trial = bench_.session.job();
            if (auto ok = read(trial, rows); !ok) return ok;
            return bench_.session.edit(title, [&](job::Job& job) {
                job.hilt = trial.hilt;
                job.parts = trial.parts;
            });
        },
        this);
    connect(t, &RowsTable::taken, this, &JointsSheet::show_job);
    t->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    column->addWidget(t);
    column->addWidget(t->refusal());
    return t;
}

Field* JointsSheet::length_field(const QString& object, const QString& name,
                                 Millimetre job::Hilt::*member, Range range) {
    auto* field = new Field(
        name,
        [this, name, member, range](const QString& typed) -> Result<void> {
            const auto v = parse_length(typed.toStdString());
            if (!v) return tl::unexpected(v.error());
            if (!range.holds(v->value()))
                return problem(
                    "", "this is out of range",
                    fmt::format("It lies between {} and {} mm", range.least, range.most));
            return bench_.session.edit(name, [&](job::Job& job) { job.hilt.*member = *v; });
        },
        this);
    field->line()->setObjectName(object);
    keep_width(field, bench_.appearance, 4.5);
    return field;
}

QWidget* JointsSheet::hilt_row() {
    auto* holder = new QWidget(this);
    auto* flow = new FlowLayout(12, 4);
    holder->setLayout(flow);
    opens_ = word_combo<job::End>(holder, "hiltOpens", tr("End of the hilt that stands open"));
    chassis_ = word_combo<job::Chassis>(holder, "hiltChassis", tr("School of the chassis"));
    material_ = word_combo<job::Material>(holder, "hiltMaterial", tr("Material of the hilt"));
    clearance_ = length_field("hiltClearance", tr("Clearance wanted"), &job::Hilt::clearance,
                              job::limits::clearance_mm);
    wall_ = length_field("hiltWall", tr("Wall of the chassis"), &job::Hilt::chassis_wall,
                         job::limits::wall_mm);
    nominal_ = new Field(
        tr("Nominal diameter of the socket"),
        [this](const QString& typed) -> Result<void> {
            const auto v = parse_length(typed.toStdString());
            if (!v) return tl::unexpected(v.error());
            if (!job::limits::depth_mm.holds(v->value()))
                return problem("", "this is out of range", "Usual are 7/8 in and 1 in");
            return bench_.session.edit(tr("Nominal diameter of the socket"),
                                       [&](job::Job& job) { job.hilt.socket.nominal = *v; });
        },
        holder);
    nominal_->line()->setObjectName("socketNominal");
    keep_width(nominal_, bench_.appearance, 7);
    for (QComboBox* combo : {opens_, chassis_, material_})
        keep_width(combo, bench_.appearance, 8.5);
    flow->addWidget(grouped(tr("opens at"), opens_, {}, holder));
    flow->addWidget(grouped(tr("chassis"), chassis_, {}, holder));
    flow->addWidget(grouped(tr("wall"), wall_, tr("mm"), holder));
    flow->addWidget(grouped(tr("clearance"), clearance_, tr("mm"), holder));
    flow->addWidget(grouped(tr("of"), material_, {}, holder));
    flow->addWidget(grouped(tr("socket, nominal"), nominal_, tr("mm"), holder));
    const auto on = [this](QComboBox* combo, const QString& label, auto set) {
        connect(combo, &QComboBox::activated, this, [this, label, set](int i) {
            (void)bench_.session.edit(label, [&](job::Job& job) { set(job.hilt, i); });
        });
    };
    on(opens_, tr("End that opens"),
       [](job::Hilt& h, int i) { h.opens = static_cast<job::End>(i); });
    on(chassis_, tr("School of the chassis"),
       [](job::Hilt& h, int i) { h.chassis = static_cast<job::Chassis>(i); });
    on(material_, tr("Material of the hilt"),
       [](job::Hilt& h, int i) { h.material = static_cast<job::Material>(i); });
    return holder;
}

void JointsSheet::show_job() {
    const job::Job& job = bench_.session.job();
    const job::Hilt& h = job.hilt;
    opens_->setCurrentIndex(static_cast<int>(h.opens));
    chassis_->setCurrentIndex(static_cast<int>(h.chassis));
    material_->setCurrentIndex(static_cast<int>(h.material));
    clearance_->show_value(figure(h.clearance.value()));
    wall_->show_value(figure(h.chassis_wall.value()));
    nominal_->show_value(h.socket.nominal > Millimetre(0) ? figure(h.socket.nominal.value())
                                                          : QString());
    const auto show = [this](RowsTable* table, const RowsTable::Rows& rows) {
        table->show_rows(rows);
        int height = table->horizontalHeader()->sizeHint().height() + 6 +
                     table->horizontalScrollBar()->sizeHint().height();
        for (int i = 0; i < std::min(table->rowCount(), 8); ++i)
            height += table->rowHeight(i);
        table->setFixedHeight(height);
    };
    RowsTable::Rows rows;
    for (const auto& j : h.joints)
        rows.push_back({words(j.name), figure(j.at.value()), said(j.kind), said(j.hand),
                        figure(j.pitch.value()), figure(j.engaged.value())});
    show(joints_, rows);
    rows.clear();
    for (const auto& f : h.fasteners)
        rows.push_back({words(f.name), figure(f.at.value()), figure(f.angle.value()) + QChar(0xb0),
                        words(f.thread), words(f.key), words(f.holds), said(f.loosen),
                        said(f.state), words(f.note)});
    show(screws_, rows);
    rows.clear();
    for (const auto& c : h.carriers) {
        QStringList on;
        for (const auto& p : job.parts)
            if (p.carrier == c.ref) on << words(p.ref);
        rows.push_back(
            {words(c.ref), said(c.kind), figure(c.wall.value()), said(c.goes_in), on.join(", ")});
    }
    show(carriers_, rows);
    rows.clear();
    for (const auto& o : h.openings)
        rows.push_back({words(o.name), said(o.use), figure(o.at.value()),
                        figure(o.angle.value()) + QChar(0xb0), figure(o.length.value()),
                        figure(o.width.value()), words(o.part)});
    show(openings_, rows);
    rows.clear();
    for (const auto& b : h.socket.bores)
        rows.push_back({figure(b.depth.value()), figure(b.bore.value())});
    show(bores_, rows);
}

} // namespace conductus::app
