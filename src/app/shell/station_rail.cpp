// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/station_rail.h"

#include <QButtonGroup>
#include <QPainter>
#include <QVBoxLayout>

#include "app/drawing/marks.h"

namespace conductus::app {

RailButton::RailButton(const QString& number, const QString& name, const Appearance& appearance,
                       QWidget* parent)
    : QAbstractButton(parent), number_(number), appearance_(appearance) {
    setText(name);
    setAccessibleName(name);
    setCheckable(true);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize RailButton::sizeHint() const {
    const double text = appearance_.text();
    return {qRound(text * 11), qRound(text * 3.1)};
}

void RailButton::set_tail(const QString& tail) {
    tail_ = tail;
    update();
}

void RailButton::set_mark(std::optional<findings::Severity> worst, int count, bool judged) {
    worst_ = worst;
    count_ = count;
    fine_ = judged && !worst;
    nothing_ = !judged && !worst;
    setAccessibleDescription(worst   ? tr("%1: %2").arg(QString(findings::word(*worst))).arg(count)
                             : fine_ ? tr("judged, and fine")
                                     : tr("nothing to judge yet"));
    setToolTip(accessibleDescription());
    update();
}

void RailButton::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text();
    if (isChecked()) {
        p.fillRect(rect(), inks.paper);
        p.fillRect(QRect(0, 0, 4, height()), inks.petrol);
    } else if (underMouse()) {
        p.fillRect(rect(), inks.hair);
    }
    if (hasFocus()) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
    p.setPen(inks.second);
    p.setFont(page_font(text * 0.86));
    p.drawText(QRectF(0, 0, text * 2.2, height()), Qt::AlignVCenter | Qt::AlignRight, number_);
    p.setPen(inks.ink);
    p.setFont(page_font(text * 1.08, isChecked()));
    const double from = text * (number_.isEmpty() && !tail_.isEmpty() ? 1.2 : 3.0);
    p.drawText(QRectF(from, 0, width() - from - text * 2, height()), Qt::AlignVCenter,
               this->text());
    p.setPen(inks.second);
    p.setFont(page_font(text));
    p.drawText(QRectF(0, 0, width() - text * 0.9, height()), Qt::AlignVCenter | Qt::AlignRight,
               tail_);
    const double m = text * 1.25;
    const QRectF mark(width() - m - text * 0.9, (height() - m) / 2, m, m);
    if (worst_) {
        paint_mark(p, mark, *worst_, inks, count_);
    } else if (fine_) {
        paint_tick(p, mark, inks);
    } else if (nothing_) {
        p.setPen(QPen(inks.second, 1.5));
        p.drawLine(QPointF(mark.left() + m * 0.25, mark.center().y()),
                   QPointF(mark.right() - m * 0.25, mark.center().y()));
    }
}

StationRail::StationRail(const Appearance& appearance, QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Stations"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 10, 0, 10);
    column->setSpacing(0);
    auto* group = new QButtonGroup(this);
    start_ = new RailButton(QString(), tr("Start"), appearance, this);
    start_->setObjectName("toStart");
    start_->hide();
    group->addButton(start_);
    column->addWidget(start_);
    connect(start_, &QAbstractButton::clicked, this, &StationRail::start_chosen);
    for (std::size_t i = 0; i < station_count; ++i) {
        auto* b = new RailButton(QString::number(i + 1), station_name(i), appearance, this);
        b->setObjectName(QString("station%1").arg(i + 1));
        group->addButton(b);
        column->addWidget(b);
        connect(b, &QAbstractButton::clicked, this, [this, i] { emit station_chosen(i); });
        buttons_[i] = b;
    }
    column->addStretch();
    auto* shelf = new RailButton(QString(), tr("Shelf"), appearance, this);
    shelf->setObjectName("toShelf");
    shelf->setCheckable(false);
    shelf->setToolTip(tr("Back to all jobs, Alt+0"));
    connect(shelf, &QAbstractButton::clicked, this, &StationRail::shelf_chosen);
    column->addWidget(shelf);
    connect(&appearance, &Appearance::changed, this, [this] {
        for (auto* b : findChildren<RailButton*>())
            b->updateGeometry(), b->update();
    });
}

void StationRail::show_plan(const plan::Plan& plan) {
    for (std::size_t i = 0; i < station_count; ++i) {
        const auto station = stations()[i].station;
        const auto worst = plan.worst(station);
        int count = 0;
        for (const auto& f : plan.findings)
            count += f.station == station && f.severity == worst;
        buttons_[i]->set_mark(worst, count, plan.judged(station));
    }
}

void StationRail::set_station(std::size_t station) { buttons_[station]->setChecked(true); }
void StationRail::offer_start(bool blank) { start_->setVisible(blank); }
void StationRail::set_start() { start_->setChecked(true); }

} // namespace conductus::app
