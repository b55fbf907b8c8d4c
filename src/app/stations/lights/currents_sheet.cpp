// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/currents_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

enum CurrentsColumn {
    part_column,
    place_column,
    share_column,
    mean_column,
    peak_column,
    rated_column,
    in_column
};

/// Peak against rating as a bar whose full width is the rating; over it the bar ends in a mark.
class ShareBar : public QStyledItemDelegate {
public:
    ShareBar(const Appearance& appearance, QObject* parent)
        : QStyledItemDelegate(parent), appearance_(appearance) {}
    void paint(QPainter* p, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        QStyledItemDelegate::paint(p, option, QModelIndex());
        const QVariant share = index.data(Qt::UserRole);
        if (!share.isValid()) return;
        const Inks& inks = appearance_.inks();
        const double s = share.toDouble(), h = appearance_.text() * 0.7;
        const QRectF box(option.rect.left() + 4, option.rect.center().y() - h / 2,
                         option.rect.width() - 12, h);
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        const QColor ink = s > 1 ? inks.stop : s > 0.8 ? inks.warn : inks.clean;
        p->fillRect(QRectF(box.topLeft(), QSizeF(box.width() * std::min(s, 1.0), h)), ink);
        p->setPen(QPen(inks.hair, 1));
        p->setBrush(Qt::NoBrush);
        p->drawRect(box);
        p->restore();
    }

private:
    const Appearance& appearance_;
};

} // namespace

CurrentsSheet::CurrentsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("paper");
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Currents"), "title", this));
    head->addSpacing(10);
    auto* remark = label(tr("full cell; the bar is the peak against the rating"), "second", this);
    remark->setMinimumWidth(10);
    head->addWidget(remark, 1);
    head->addWidget(label(tr("in"), "second", this));
    which_ = new QComboBox(this);
    which_->setObjectName("currentsIn");
    which_->setAccessibleName(tr("Look or effect whose currents are shown"));
    keep_least_width(which_, context.appearance, 16);
    head->addWidget(which_);
    const auto row_of = [this](int row) { return rows_[static_cast<std::size_t>(row)]; };
    const auto over = [row_of](int row) {
        const auto& rated = row_of(row).carried->place.rated;
        return rated && row_of(row).carried->peak > *rated;
    };
    const auto ink = [over](int row) { return over(row) ? CellInk::stop : CellInk::ink; };
    Column share = reading(tr("of its rating"), [row_of](int row) {
        const plan::Carried& c = *row_of(row).carried;
        CellText cell;
        if (!c.place.rated || !(*c.place.rated > Ampere(0))) return cell;
        cell.value = c.peak / *c.place.rated;
        cell.tip = tr("%1 % of its rating").arg(qRound(cell.value.toDouble() * 100));
        return cell;
    });
    share.sort_by = [show = share.show](int row) { return show(row).value.toDouble(); };
    const auto amps = [&](const QString& title, auto value, bool inked) {
        Column c = figures(title, [=](int row) {
            return CellText(words(text(value(*row_of(row).carried))),
                            inked ? ink(row) : CellInk::ink);
        });
        c.sort_by = [=](int row) { return value(*row_of(row).carried).value(); };
        return c;
    };
    table_ = new Table(
        {.object = "currents",
         .name = tr("Currents"),
         .columns = {reading(tr("part"),
                             [row_of](int row) { return words(row_of(row).carried->place.ref); }),
                     reading(tr("where"),
                             [row_of](int row) {
                                 const plan::CarryingPlace& p = row_of(row).carried->place;
                                 return p.label == p.ref ? QString() : words(p.label);
                             }),
                     share,
                     amps(
                         tr("mean"), [](const plan::Carried& c) { return c.mean; }, false),
                     amps(
                         tr("peak"), [](const plan::Carried& c) { return c.peak; }, true),
                     figures(tr("rated"),
                             [=](int row) {
                                 const auto& rated = row_of(row).carried->place.rated;
                                 if (!rated) return CellText(QString(QChar(0x2013)));
                                 const QString said = words(text(*rated));
                                 return CellText(over(row) ? tr("over %1").arg(said) : said,
                                                 ink(row));
                             }),
                     reading(
                         tr("in"),
                         [=](int row) { return CellText(words(row_of(row).in->name), ink(row)); })},
         .rows = {[this] { return static_cast<int>(rows_.size()); },
                  [row_of](int row) {
                      const plan::CarryingPlace& p = row_of(row).carried->place;
                      return words(p.ref) + " " + words(p.label);
                  }},
         .wide = share_column,
         .sortable = true,
         .main = true,
         .empty = tr("Nothing carries current yet. Fit a cell, a board and a light on the sheet "
                     "Parts of the hilt, wire them, and add a look.")},
        context.appearance, this);
    table_->setItemDelegateForColumn(share_column, new ShareBar(context.appearance, table_));
    none_ = label(tr("Nothing is solved yet: see the findings."), "second", this);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->setSpacing(6);
    column->addLayout(head);
    column->addWidget(none_);
    column->addWidget(table_, 1);
    connect(which_, &QComboBox::activated, this, [this] { show_rows(); });
    connect(table_, &Table::row_chosen, this, [this, row_of](int row) {
        context_.selection.choose(words(row_of(row).carried->place.ref));
    });
}

std::vector<CurrentsSheet::Row> CurrentsSheet::rows() const {
    std::vector<Row> rows;
    if (!plan_) return rows;
    const std::string chosen = which_->currentData().toString().toStdString();
    for (const auto* list : {&plan_->looks, &plan_->effects})
        for (const plan::LookPlan& look : *list) {
            if (!chosen.empty() && look.name != chosen) continue;
            for (const plan::Carried& c : look.carried) {
                // All at once: each place where it carries most.
                auto same = std::find_if(rows.begin(), rows.end(), [&](const Row& r) {
                    return r.carried->place.ref == c.place.ref &&
                           r.carried->place.label == c.place.label;
                });
                if (same == rows.end())
                    rows.push_back({&c, &look});
                else if (c.peak > same->carried->peak)
                    *same = {&c, &look};
            }
        }
    return rows;
}

void CurrentsSheet::show_rows() {
    rows_ = rows();
    table_->refresh();
    none_->setVisible(rows_.empty());
}

void CurrentsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const QString was = which_->currentData().toString();
    which_->clear();
    which_->addItem(tr("each where it is most"), QString());
    for (const auto* list : {&plan->looks, &plan->effects}) {
        which_->insertSeparator(which_->count());
        for (const plan::LookPlan& look : *list)
            which_->addItem(words(look.name), words(look.name));
    }
    which_->setCurrentIndex(std::max(0, was.isEmpty() ? 0 : which_->findData(was)));
    show_rows();
}

} // namespace conductus::app
