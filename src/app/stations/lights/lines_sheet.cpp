// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/lines_sheet.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMouseEvent>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/picture_menu.h"
#include "app/shell/reading_table.h"
#include "app/shell/row_reader.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {
ChainsView::ChainsView(const Bench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
    setObjectName("chains");
    setAccessibleName(tr("Data lines as chains of pixels"));
    offer_picture(this, bench.appearance);
    connect(&bench.selection, &Selection::changed, this, qOverload<>(&QWidget::update));
    connect(&bench.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void ChainsView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList said;
    for (const lights::Chain& c : plan->lights.chains.chains)
        said << tr("%1: %2 pixels").arg(words(c.pad)).arg(c.longest);
    setAccessibleDescription(said.join(", "));
    updateGeometry();
    update();
}

QSize ChainsView::sizeHint() const {
    const double text = bench_.appearance.text();
    return {qRound(text * 30), plan_ ? qRound(chains_height(*plan_, text)) : qRound(text * 6)};
}

void ChainsView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), bench_.appearance.inks().paper);
    if (!plan_) return;
    spots_ =
        paint_chains(p, QRectF(rect()).adjusted(2, 2, -2, -2), *plan_, bench_.appearance.text(),
                     bench_.selection.options().chosen, bench_.appearance.inks());
}

void ChainsView::mousePressEvent(QMouseEvent* event) {
    for (const ChainSpot& spot : spots_)
        if (spot.box.contains(event->position())) return bench_.selection.choose(spot.ref);
}

LinesSheet::LinesSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("benchPage");
    auto [top, top_column] = paper(tr("Data lines"), tr("one pixel as long on every line"), this);
    none_ = label({}, "second", top);
    none_->setWordWrap(true);
    chains_ = new ChainsView(bench, top);
    auto* scroll = new QScrollArea(top);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(chains_);
    top_column->addWidget(none_);
    top_column->addWidget(scroll, 1);

    auto [left, left_column] = paper(tr("Programmed"), tr("pixels the board is told"), this);
    lines_ = reading_table({tr("pad"), tr("fitted"), tr("told")}, -1, "programmedLines",
                           tr("Pixels programmed of each line"), bench.appearance, left);
    left_column->addWidget(lines_, 1);
    auto [right, right_column] = paper(tr("Data level"), tr("least in hand of all looks"), this);
    hops_ = reading_table({tr("from"), tr("to"), tr("level"), tr("needs"), tr("in hand")}, -1,
                          "dataHops", tr("Data level at every hop"), bench.appearance, right);
    right_column->addWidget(hops_, 1);
    auto [middle, middle_column] = paper(tr("Stretches"), tr("type in the empty row"), this);
    const QStringList columns{tr("name"), tr("of"), tr("first"), tr("last")};
    stretches_ = new RowsTable(
        columns, 4, "stretches", tr("Stretches of a chain as lights of their own"),
        bench.appearance,
        [this, columns](const RowsTable::Rows& rows) -> Result<void> {
            std::vector<job::Stretch> stretches;
            if (auto ok = read_stretches(rows, columns, stretches); !ok) return ok;
            return bench_.session.edit(tr("Stretches"),
                                       [&](job::Job& job) { job.stretches = stretches; });
        },
        middle);
    connect(stretches_, &RowsTable::taken, this, &LinesSheet::show_job);
    stretches_->setToolTip(tr("Pixels are counted from 1 at the light's data end"));
    stretches_->horizontalHeader()->setMinimumSectionSize(qRound(bench.appearance.text() * 3));
    stretches_->horizontalHeader()->setSectionResizeMode(3, QHeaderView::ResizeToContents);
    stretches_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    middle_column->addWidget(stretches_, 1);
    middle_column->addWidget(stretches_->refusal());
    auto* below = new QHBoxLayout;
    below->setSpacing(8);
    below->addWidget(left, 5);
    below->addWidget(middle, 5);
    below->addWidget(right, 6);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    column->addWidget(top, 3);
    column->addLayout(below, 2);

    connect(lines_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (item->column() == 2) program(item->row(), item->text());
    });
    connect(hops_, &QTableWidget::currentCellChanged, this, [this](int row, int, int, int) {
        if (row >= 0 && hops_->item(row, 1)) bench_.selection.choose(hops_->item(row, 1)->text());
    });
}

Result<void> LinesSheet::read_stretches(const RowsTable::Rows& rows, const QStringList& columns,
                                        std::vector<job::Stretch>& stretches) const {
    const auto groups = plan_ ? plan_->lights.chains.groups : std::vector<lights::Group>{};
    return read_rows(rows, columns, stretches, [&](RowReader& r, std::size_t i) {
        job::Stretch s;
        s.name = r.words();
        if (s.name.empty()) s.name = fmt::format("stretch {}", i + 1);
        s.of = r.words();
        // Nothing said: of the first light, all of it.
        if (s.of.empty() && !groups.empty()) s.of = groups.front().ref;
        const lights::Group* of = job::find_ref(groups, s.of);
        s.first = r.whole(job::limits::pixels, 1);
        s.last = r.whole(job::limits::pixels, of ? of->pixels : s.first);
        return s;
    });
}

void LinesSheet::program(int row, const QString& text) {
    if (!plan_ || row >= static_cast<int>(plan_->lights.chains.chains.size())) return;
    const std::string pad = plan_->lights.chains.chains[static_cast<std::size_t>(row)].pad;
    const QString typed = text.trimmed();
    const auto n = typed.isEmpty() ? Result<double>(0.0) : parse_number(typed.toStdString(), "px");
    const bool whole = n && *n == std::floor(*n) && (*n == 0 || job::limits::pixels.holds(*n));
    if (!whole) {
        lines_->item(row, 2)->setToolTip(tr("Write a whole number from 1, or nothing"));
        const QSignalBlocker quiet(lines_);
        lines_->item(row, 2)->setForeground(bench_.appearance.inks().stop);
        return;
    }
    (void)bench_.session.edit(tr("Program %1").arg(words(pad)), [&](job::Job& job) {
        std::erase_if(job.lines, [&](const job::Line& l) { return l.pad == pad; });
        if (*n > 0) job.lines.push_back({pad, static_cast<int>(*n)});
    });
}

void LinesSheet::show_job() {
    RowsTable::Rows rows;
    for (const job::Stretch& s : bench_.session.job().stretches)
        rows.push_back(
            {words(s.name), words(s.of), QString::number(s.first), QString::number(s.last)});
    stretches_->show_rows(rows);
}

void LinesSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const auto& chains = plan->lights.chains.chains;
    none_->setVisible(chains.empty());
    none_->setText(
        plan->lights.chains.groups.empty()
            ? tr("Nothing here hears data: there are no pixels. Strings and LEDs are lit "
                 "by their pads.")
            : tr("There are pixels, but no data wire leads to them from a board. Until "
                 "one does, each is taken to show the look."));
    chains_->show_plan(plan);
    const QSignalBlocker quiet(lines_);
    const QSignalBlocker also(hops_);
    lines_->setRowCount(static_cast<int>(chains.size()));
    for (int r = 0; r < lines_->rowCount(); ++r) {
        const lights::Chain& c = chains[static_cast<std::size_t>(r)];
        set_cell(lines_, r, 0, words(c.pad));
        set_cell(lines_, r, 1, QString::number(c.longest));
        auto* told =
            set_cell(lines_, r, 2, c.programmed ? QString::number(*c.programmed) : QString());
        told->setFlags(told->flags() | Qt::ItemIsEditable);
        lines_->item(r, 2)->setForeground(c.programmed && *c.programmed != c.longest
                                              ? bench_.appearance.inks().warn
                                              : bench_.appearance.inks().ink);
        lines_->item(r, 2)->setToolTip(tr("Type how many pixels the board is told"));
    }
    const auto& hops = plan->lights.hops;
    hops_->setRowCount(static_cast<int>(hops.size()));
    for (int r = 0; r < hops_->rowCount(); ++r) {
        const power::Hop& h = hops[static_cast<std::size_t>(r)];
        const QString from =
            h.shifter.empty() ? words(h.from) : tr("%1, %2").arg(words(h.from), words(h.shifter));
        set_cell(hops_, r, 0, from);
        set_cell(hops_, r, 1, words(h.to));
        set_cell(hops_, r, 2, words(text(h.high)));
        set_cell(hops_, r, 3, words(text(h.need)));
        const bool low = h.margin() < Volt(0);
        set_cell(hops_, r, 4,
                 low ? tr("too low by %1").arg(words(text(-h.margin()))) : words(text(h.margin())));
        hops_->item(r, 4)->setForeground(low ? bench_.appearance.inks().warn
                                             : bench_.appearance.inks().ink);
    }
}

} // namespace conductus::app
