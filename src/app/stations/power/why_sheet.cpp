// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/why_sheet.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

/// A change of a figure with its sign.
QString signed_text(double change, const std::string& unit) {
    const QString sign = change < 0 ? QChar(0x2212) : QChar('+');
    if (unit == "min" && std::abs(change) >= 1)
        return sign + words(duration(Minute(std::abs(change))));
    if (unit == "min") return sign + words(with_unit(std::abs(change) * 60, "s"));
    return sign + words(with_unit(std::abs(change), unit));
}

QString title_of(const std::string& id) {
    if (id == "peak-current") return WhySheet::tr("peak current");
    if (id == "board-sag") return WhySheet::tr("sag at the board");
    if (id == "tip-brightness") return WhySheet::tr("tip against foot");
    if (id == "first-crackle") return WhySheet::tr("time to first crackle");
    if (id == "dim") return WhySheet::tr("time to dim");
    if (id == "cells-per-day") return WhySheet::tr("cells for the day");
    if (id == "tightest-fit") return WhySheet::tr("tightest fit");
    if (id == "hottest-part") return WhySheet::tr("hottest part");
    if (id == "off") return WhySheet::tr("time until off");
    return WhySheet::tr("time in storage");
}

} // namespace

TenthsPicture::TenthsPicture(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("tenths");
    setAccessibleName(tr("What a tenth more of each input changes"));
    offer_picture(this, context.appearance);
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

QSize TenthsPicture::sizeHint() const {
    const double rows = why_ && *why_ ? static_cast<double>((*why_)->by.size()) : 3;
    return {300, qRound(std::max(rows, 2.0) * row_height() + context_.appearance.text())};
}

void TenthsPicture::show_why(WhyPtr why) {
    why_ = std::move(why);
    QStringList said;
    if (why_ && *why_)
        for (const plan::Sensitivity& s : (*why_)->by)
            said << words(s.input) + " " + signed_text(s.change, (*why_)->figure.unit);
    setAccessibleDescription(said.join(", "));
    setMinimumHeight(sizeHint().height());
    update();
}

void TenthsPicture::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    p.setFont(page_font(text * 0.92));
    if (!why_ || !*why_ || (*why_)->by.empty()) {
        p.setPen(inks.second);
        p.drawText(QRectF(rect()).adjusted(4, 4, -4, 0), Qt::TextWordWrap,
                   !why_    ? tr("Being worked out …")
                   : !*why_ ? words(why_->error().text())
                            : tr("No input changes it by a tenth more."));
        return;
    }
    const auto& by = (*why_)->by;
    const double names = std::min(text * 17, width() * 0.36), inputs = text * 6;
    const double room = text * 6.5; // for the number beside a bar
    const QRectF bars(names + inputs + room, 0, width() - names - inputs - 2 * room, height());
    const double most = std::abs(by.front().change), middle = bars.center().x();
    const double scale = bars.width() / 2 / most;
    p.setPen(QPen(inks.ink, 1.2));
    p.drawLine(QPointF(middle, 0), QPointF(middle, row_height() * static_cast<double>(by.size())));
    const QFontMetricsF metrics(p.font());
    const QString& chosen = context_.selection.options().chosen;
    for (std::size_t i = 0; i < by.size(); ++i) {
        const plan::Sensitivity& s = by[i];
        const QRectF row(0, row_height() * static_cast<double>(i), width(), row_height());
        if (!chosen.isEmpty() && chosen == words(s.ref)) p.fillRect(row, inks.chosen);
        p.setPen(inks.ink);
        p.drawText(QRectF(0, row.top(), names - 6, row.height()), Qt::AlignVCenter,
                   metrics.elidedText(words(s.input), Qt::ElideRight, names - 6));
        p.setPen(inks.second);
        p.drawText(QRectF(names, row.top(), inputs - 4, row.height()),
                   Qt::AlignRight | Qt::AlignVCenter, words(with_unit(s.was, s.unit)));
        const double length = s.change * scale;
        const QRectF bar(std::min(middle, middle + length), row.top() + row.height() * 0.25,
                         std::abs(length), row.height() * 0.5);
        p.fillRect(bar, inks.petrol);
        p.setPen(inks.ink);
        const QString said = signed_text(s.change, (*why_)->figure.unit);
        if (s.change < 0)
            p.drawText(QRectF(bar.left() - room - 5, row.top(), room, row.height()),
                       Qt::AlignRight | Qt::AlignVCenter, said);
        else
            p.drawText(QRectF(bar.right() + 5, row.top(), room, row.height()),
                       Qt::AlignLeft | Qt::AlignVCenter, said);
    }
}

void TenthsPicture::mousePressEvent(QMouseEvent* event) {
    if (!why_ || !*why_) return;
    const auto row = static_cast<std::size_t>(std::max(0.0, event->position().y() / row_height()));
    if (row < (*why_)->by.size() && !(*why_)->by[row].ref.empty()) {
        context_.selection.choose(words((*why_)->by[row].ref));
        update();
    }
}

WhySheet::WhySheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("benchPage");
    auto [sheet, column] = paper(tr("Why"), {}, this);
    figure_ = new QComboBox(sheet);
    figure_->setObjectName("whyOf");
    figure_->setAccessibleName(tr("Figure to explain"));
    for (const std::string& id : plan::figures_to_ask())
        figure_->addItem(title_of(id), words(id));
    figure_->setCurrentIndex(figure_->findData("first-crackle"));
    title_ = label({}, "title", sheet);
    title_->setObjectName("whyFigure");
    formula_ = label({}, "second", sheet);
    formula_->setObjectName("whyHow");
    formula_->setWordWrap(true);
    auto* top = new QHBoxLayout;
    top->setSpacing(10);
    top->addWidget(figure_);
    top->addWidget(title_, 1);
    parts_ = new ExplainedTable("whySheetParts", context.appearance, sheet);
    column->addLayout(top);
    column->addWidget(formula_);
    column->addWidget(parts_, 1);
    auto [below, below_column] =
        paper(tr("What would change it"), tr("one tenth more of each, all else as it is"), this);
    tenths_ = new TenthsPicture(context, below);
    auto* scroll = new QScrollArea(below);
    scroll->setWidgetResizable(true);
    scroll->setWidget(tenths_);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    below_column->addWidget(scroll, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet);
    all->addWidget(below, 1);
    connect(figure_, &QComboBox::activated, this, &WhySheet::ask);
    connect(parts_, &Table::row_chosen, this, [this](int row) {
        if (const QString ref = parts_->ref(row); !ref.isEmpty()) context_.selection.choose(ref);
    });
}

void WhySheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ask();
}

void WhySheet::ask() {
    if (!plan_) return;
    tenths_->show_why(nullptr);
    newest_.ask(
        [plan = plan_, id = figure_->currentData().toString().toStdString()] {
            return std::make_shared<const Result<plan::Why>>(plan::why(*plan, id, side_by_side));
        },
        [this](WhyPtr why) { show_why(why); });
}

void WhySheet::show_why(const WhyPtr& why) {
    tenths_->show_why(why);
    if (!*why) {
        title_->setText(QString::fromUtf8("–"));
        formula_->setText(words(why->error().text()));
        parts_->show_figure({});
        return;
    }
    const Explained& e = (*why)->figure;
    title_->setText(tr("%1 %2").arg(figure_text(e), words(e.label)));
    formula_->setText(words(e.formula));
    parts_->show_figure(e);
    // Five rows at most: the rest is for what would change it.
    parts_->as_high_as_its_rows(5);
}

} // namespace conductus::app
