// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/harness/wires_sheet.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHelpEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPushButton>
#include <QScrollArea>
#include <QToolTip>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/connectors_drawing.h"
#include "app/drawing/section_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/page_scroll.h"
#include "app/stations/harness/wire_columns.h"
#include "core/base/format.h"
#include "core/harness/rewire.h"
#include "core/job/lookup.h"
#include "core/job/words.h"
#include "files/configuration.h"
#include "files/cut_list.h"
#include "files/spice.h"
#include "files/template_text.h"
#include "files/wires_csv.h"

namespace conductus::app {

WiresSheet::WiresSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Wires"), {}, this);
    said_ = label({}, "second", sheet);
    said_->setObjectName("wiresSaid");
    said_->setWordWrap(true);
    missing_ = new QPushButton(sheet);
    missing_->setObjectName("wireMissing");
    missing_->setAccessibleName(tr("Wire what is missing"));
    auto* out = new QPushButton(tr("Write …"), sheet);
    out->setObjectName("writeHarness");
    out->setToolTip(tr("Cut list, labels, lanes, connector faces, netlist, configuration"));
    out->setMenu(out_menu());
    auto* in = new QPushButton(tr("Read wires …"), sheet);
    in->setObjectName("readWires");
    auto* top = static_cast<QHBoxLayout*>(column->itemAt(0)->layout()); // beside the title
    top->setSpacing(8);
    top->addWidget(said_, 1);
    top->addWidget(missing_);
    top->addWidget(in);
    top->addWidget(out);
    auto* drawn = new QWidget(sheet); // lanes, and what is said of them
    lanes_ = new LanesView(context, drawn);
    auto* scroll = new QScrollArea(sheet);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    note_ = label({}, "second", drawn);
    note_->setObjectName("wiresNote");
    note_->setWordWrap(true);
    auto* under = new QVBoxLayout(drawn);
    under->setContentsMargins(0, 0, 0, 0);
    under->addWidget(lanes_, 1);
    under->addWidget(note_);
    scroll->setWidget(drawn);
    filter_ = new QLineEdit(sheet);
    filter_->setObjectName("wiresFilter");
    filter_->setAccessibleName(tr("Show wires that hold"));
    filter_->setPlaceholderText(tr("show wires that hold …"));
    filter_->setClearButtonEnabled(true);
    sort_ = new QComboBox(sheet);
    sort_->setObjectName("wiresSort");
    sort_->setAccessibleName(tr("Order of the wires"));
    sort_->addItems({tr("as planned"), tr("longest first"), tr("most amps first"),
                     tr("most volts lost first"), tr("thickest first"), tr("by role")});
    auto* tools = new QHBoxLayout;
    tools->setSpacing(8);
    tools->addWidget(filter_, 1);
    tools->addWidget(label(tr("order"), "second", sheet));
    tools->addWidget(sort_);
    std::vector<Column> columns = wire_columns(context.session, "/wires");
    const auto solved = [this](int row) {
        return plan_ ? plan_->harness.wire(
                           context_.session.job().wires[static_cast<std::size_t>(row)].ref)
                     : nullptr;
    };
    const auto add_figure = [&](const QString& title, auto value, auto shown) {
        Column c = figures(title, [=](int row) {
            const harness::WireRow* w = solved(row);
            return w ? words(shown(*w)) : QString();
        });
        c.sort_by = [=](int row) {
            const harness::WireRow* w = solved(row);
            return w ? value(*w) : 0.0;
        };
        columns.push_back(std::move(c));
    };
    using Row = const harness::WireRow&;
    add_figure(
        tr("route"), [](Row w) { return w.length.value(); },
        [](Row w) { return text(w.route.length()); });
    add_figure(
        tr("amps"), [](Row w) { return w.amps.value(); }, [](Row w) { return text(w.amps); });
    add_figure(
        tr("lost"), [](Row w) { return w.drop.value(); }, [](Row w) { return text(w.drop); });
    add_figure(
        tr("warmer"), [](Row w) { return w.rise.value(); },
        [](Row w) { return with_unit(w.rise.value(), "K"); });
    add_figure(
        tr("if held"), [](Row w) { return w.rise_held.value(); },
        [](Row w) { return with_unit(w.rise_held.value(), "K"); });
    table_ = new Table({.object = "wires",
                        .name = tr("Wires"),
                        .what = tr("Wire"),
                        .columns = std::move(columns),
                        .rows = list_rows(context.session, "/wires", "ref"),
                        .wide = wire_to,
                        .dense = true,
                        .sortable = true,
                        .main = true,
                        .empty = tr("Type the terminals that the first wire joins, like B1.plus."),
                        .session = &context.session},
                       context.appearance, sheet);
    table_->setToolTip(
        tr("Type in the last row for another wire. Cut to: empty, as its route asks"));
    scroll->setMinimumHeight(qRound(context.appearance.text() * 4.4));
    make_yield(scroll, 26);
    column->addWidget(scroll, 7);
    column->addLayout(tools);
    column->addWidget(table_, 4);
    column->addWidget(table_->refusal());
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);

    connect(missing_, &QPushButton::clicked, this, [this] {
        context_.session.fit(tr("Wire what is missing"),
                             harness::wire_missing(context_.session.parts()));
    });
    table_->offer([this](QMenu& menu, int row) {
        const job::Job& job = context_.session.job();
        const job::Wire& wire = job.wires[static_cast<std::size_t>(row)];
        const QString ref = words(wire.ref);
        menu.addAction(tr("Double %1").arg(ref), this, [this, ref] {
            context_.session.change(tr("Double %1").arg(ref),
                                    harness::double_wire(ref.toStdString()));
        });
        for (const harness::InARow& t : harness::ways_through(job, context_.session.parts(), wire))
            menu.addAction(tr("Lead %1 through %2").arg(ref, words(t.part)), this, [this, ref, t] {
                context_.session.change(tr("Lead %1 through %2").arg(ref, words(t.part)),
                                        harness::split_wire(ref.toStdString(), t));
            });
    });
    connect(filter_, &QLineEdit::textChanged, this,
            [this](const QString& text) { table_->rows().filter(text); });
    connect(sort_, &QComboBox::activated, this, [this](int order) {
        constexpr std::pair<int, bool> orders[] = {{-1, false},
                                                   {wire_column_count, true},
                                                   {wire_column_count + 1, true},
                                                   {wire_column_count + 2, true},
                                                   {wire_gauge, false},
                                                   {wire_role, false}};
        const auto& [by, descending] = orders[order];
        table_->rows().order_by(by, descending);
    });
    connect(table_, &Table::row_chosen, this,
            [this](int row) { context_.selection.choose(table_->rows().row_name(row)); });
    connect(&context.selection, &Selection::changed, this, [this, scroll] {
        const QString chosen = context_.selection.options().chosen;
        for (const HitBox& s : lanes_->boxes())
            if (s.ref == chosen && !lanes_->underMouse()) {
                const QPoint at = s.box.center().toPoint();
                scroll->ensureVisible(at.x(), at.y(), 20, 30);
                break; // painted anew, the spots are others
            }
        if (chosen.isEmpty() || table_->hasFocus()) return;
        const auto& wires = context_.session.job().wires;
        if (const auto* wire = job::find_ref(wires, chosen.toStdString()))
            table_->choose(static_cast<int>(wire - wires.data()));
    });
    connect(in, &QPushButton::clicked, this, &WiresSheet::take_csv);
}

void WiresSheet::show_job() { table_->refresh(); }

void WiresSheet::show_preview(const PlanPtr& plan) { lanes_->show_plan(plan); }

void WiresSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const harness::Harness& h = plan->harness;
    lanes_->show_plan(plan);
    table_->refresh();
    const int n = static_cast<int>(h.wires.size()), gaps = static_cast<int>(h.missing.size());
    said_->setText(n == 0
                       ? tr("Nothing is wired yet. What is fitted says what is needed.")
                       : tr("%1, %2 m in all%3")
                             .arg(counted(n, tr("%1 wire"), tr("%1 wires")))
                             .arg(h.total.value() / 1000, 0, 'f', 2)
                             .arg(h.worst.empty() ? QString()
                                                  : tr("; together they lose %1 in %2")
                                                        .arg(words(text(h.drop)), words(h.worst))));
    missing_->setVisible(gaps > 0);
    missing_->setText(gaps == 1 ? tr("Wire the missing one") : tr("Wire the %1 missing").arg(gaps));
    QStringList notes;
    for (const harness::Twist& t : h.twists)
        notes << tr("%1 carries %2: %3.")
                     .arg(words(t.joint),
                          counted(static_cast<int>(t.wires.size()), tr("%1 wire"), tr("%1 wires")),
                          words(t.how));
    if (h.coil.needs > 0)
        notes << tr("Slack takes %1 ml of %2 ml %3.")
                     .arg(h.coil.needs / 1000, 0, 'f', 1)
                     .arg(h.coil.has / 1000, 0, 'f', 1)
                     .arg(words(h.coil.where));
    note_->setText(notes.join(" "));
    note_->setVisible(!notes.isEmpty());
}

void WiresSheet::write(const QString& what, const QString& filter, const QString& name,
                       const std::function<Result<void>(const QString& path)>& to) {
    const QString path = QFileDialog::getSaveFileName(window(), what, name, filter);
    if (path.isEmpty()) return;
    const auto ok = to(path);
    said_->setText(ok ? tr("%1 written.").arg(QFileInfo(path).fileName()) : words(ok.error()));
}

QMenu* WiresSheet::out_menu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("harnessMenu");
    auto entry = [&](const QString& title, const QString& filter, const QString& tail,
                     std::function<Result<void>(const plan::Plan&, const QString&)> to) {
        menu->addAction(title, this, [=, this] {
            if (!plan_) return;
            write(title, filter, words(plan_->job->name).toLower() + tail,
                  [plan = plan_, to](const QString& path) { return to(*plan, path); });
        });
    };
    const QString pictures = tr("Pictures (*.svg *.pdf *.png)");
    using files::Content;
    auto text_to = [](const QString& path, const std::string& text, Content content) {
        return files::write_output(path_of(path), text, content);
    };
    entry(tr("Cut list"), tr("Tables (*.csv)"), "-cutlist.csv",
          [=](const plan::Plan& plan, const QString& path) {
              return text_to(path, files::cutlist_csv(plan.harness), Content::text);
          });
    entry(tr("Labels"), tr("Pictures (*.svg)"), "-labels.svg",
          [=](const plan::Plan& plan, const QString& path) {
              return text_to(path, files::labels_svg(plan.harness, plan.job->name), Content::svg);
          });
    entry(tr("Lanes"), pictures, "-lanes.svg", [this](const plan::Plan& plan, const QString& path) {
        const Inks& inks = context_.appearance.inks();
        LanesOptions shown;
        shown.lettering = 13;
        return write_picture(
            [&](QPainter& p, const QRectF& frame) {
                (void)paint_lanes(p, frame, plan, shown, inks);
            },
            tr("Wires as lanes"), path, QSize(1120, qRound(lanes_height(plan, 13)) + 12), inks);
    });
    entry(tr("Connector faces"), pictures, "-connectors.svg",
          [this](const plan::Plan& plan, const QString& path) {
              const Inks& inks = context_.appearance.inks();
              return write_picture(
                  [&](QPainter& p, const QRectF& frame) {
                      paint_connectors(p, frame, plan, 13, {}, inks);
                  },
                  tr("Connector faces"), path, QSize(760, qRound(connectors_height(plan, 13)) + 12),
                  inks);
          });
    entry(tr("Netlist of the worst state"), tr("Netlists (*.cir)"), ".cir",
          [=](const plan::Plan& plan, const QString& path) -> Result<void> {
              if (const findings::Solved* worst = plan.most_asked.get())
                  return text_to(path,
                                 files::spice_text(
                                     worst->network, plan.job->name + ", " + worst->name,
                                     worst->network.converters.empty() ? nullptr : &worst->point),
                                 Content::text);
              return problem(plan.job->name, "nothing is solved", "Wire the board to the cell");
          });
    entry(tr("Configuration"), tr("Settings (*.json *.txt)"), "-config.json",
          [=](const plan::Plan& plan, const QString& path) {
              return path.endsWith(".txt")
                         ? text_to(path, files::config_text(*plan.job, plan.harness.data),
                                   Content::text)
                         : text_to(
                               path,
                               files::json_text(files::config_json(*plan.job, plan.harness.data)) +
                                   "\n",
                               Content::ours);
          });
    entry(tr("Configuration through a template…"), tr("Whatever the board reads (*)"), "-board.txt",
          [this, text_to](const plan::Plan& plan, const QString& path) -> Result<void> {
              const QString by = QFileDialog::getOpenFileName(
                  window(), tr("The template that is filled"), {}, tr("Texts (*)"), nullptr,
                  QFileDialog::DontUseNativeDialog);
              if (by.isEmpty()) return {};
              const auto text = files::read_text(path_of(by));
              if (!text) return tl::unexpected(text.error());
              const auto filled =
                  files::filled_template(*text, QFileInfo(by).fileName().toStdString(),
                                         files::config_json(*plan.whole, plan.harness.data));
              if (!filled) return tl::unexpected(filled.error());
              return text_to(path, *filled, Content::text);
          });
    return menu;
}

void WiresSheet::take_csv() {
    const QString path =
        QFileDialog::getOpenFileName(window(), tr("Read wires"), {}, tr("Tables (*.csv)"));
    if (path.isEmpty()) return;
    const auto text = files::read_text(path_of(path));
    if (!text) return said_->setText(words(text.error()));
    const auto read = files::read_wires_csv(*text, context_.session.job(), context_.session.parts(),
                                            QFileInfo(path).fileName().toStdString());
    if (!read.problems.empty()) {
        QStringList all;
        for (const Problem& p : read.problems)
            all << words(p.text());
        return said_->setText(
            all.mid(0, 4).join("\n") +
            (all.size() > 4 ? tr("\n… and %1 more").arg(all.size() - 4) : QString()));
    }
    if (auto ok = context_.session.edit(tr("Read wires"), job::take_wires(read.wires)); !ok)
        said_->setText(words(ok.error()));
}

} // namespace conductus::app
