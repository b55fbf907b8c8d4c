// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/cold_sheet.h"

#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QVBoxLayout>
#include <algorithm>

#include "app/drawing/plot.h"
#include "app/drawing/ribbons_drawing.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"

namespace conductus::app {

ColdAndWarm::ColdAndWarm(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("coldAndWarm");
    setAccessibleName(tr("Runtime cold and warm"));
    offer_picture(this, context.appearance);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

QSize ColdAndWarm::sizeHint() const {
    return {200, qRound(context_.appearance.text() * (2 * 2.3 + 2.9))};
}

void ColdAndWarm::show_study(StudyPtr study) {
    study_ = std::move(study);
    QStringList said;
    if (study_ && *study_)
        for (const auto& at : (*study_)->at)
            said << tr("at %1: clean %2, off %3")
                        .arg(QString::fromStdString(text(at.temperature)),
                             QString::fromStdString(duration(at.run.clean())),
                             QString::fromStdString(duration(at.run.off)));
    setAccessibleDescription(said.join("; "));
    update();
}

void ColdAndWarm::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    p.fillRect(rect(), inks.paper);
    if (!study_ || !*study_) return;
    std::vector<plan::CellOption> rows;
    for (const auto& at : (*study_)->at) {
        plan::CellOption o;
        o.name = tr("at %1").arg(QString::fromStdString(text(at.temperature))).toStdString();
        o.fits = true;
        o.clean = at.run.clean(), o.bright = at.run.bright(), o.off = at.run.off;
        double warmest = at.temperature.value();
        for (const power::Sample& s : at.run.samples)
            warmest = std::max(warmest, s.warmth.value());
        o.remark = tr("cell warms to %1")
                       .arg(QString::fromStdString(text(Celsius(warmest))))
                       .toStdString();
        rows.push_back(std::move(o));
    }
    const double text_size = context_.appearance.text();
    RibbonLayout layout;
    layout.lettering = text_size;
    layout.row = text_size * 2.3;
    layout.names = text_size * 11;
    layout.longest_min = longest_minutes(rows);
    const QRectF all(0, 0, width(), layout.row * static_cast<double>(rows.size()));
    paint_ribbon_grid(p, all, layout, inks);
    for (std::size_t i = 0; i < rows.size(); ++i)
        paint_ribbon(p, QRectF(0, layout.row * static_cast<double>(i), width(), layout.row),
                     rows[i], layout, inks);
    paint_ribbon_axis(p, QRectF(0, all.bottom(), width(), text_size * 2.9), layout, inks);
}

ColdCurves::ColdCurves(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("coldCurves");
    setAccessibleName(tr("Board at its worst peak, cold and warm"));
    offer_picture(this, context.appearance);
    setMinimumHeight(qRound(context.appearance.text() * 10));
    connect(&context.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
}

void ColdCurves::show_study(StudyPtr study) {
    study_ = std::move(study);
    update();
}

void ColdCurves::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    if (!study_ || !*study_ || (*study_)->at.size() < 2) return;
    const auto& at = (*study_)->at;
    double low = 1e9, high = 0, longest = 1;
    for (const auto& one : at)
        for (const power::Sample& s : one.run.samples) {
            low = std::min(low, s.board_peak.value());
            high = std::max(high, s.board_peak.value());
            longest = std::max(longest, s.at.value());
        }
    const double need = at.front().run.need.value();
    const QRectF area(text * 4.6, text * 1.8, width() - text * 6.4, height() - text * 3.6);
    const PlotAxis volts = roomy(std::min(low, need), std::max(high, need), 0.1, "V");
    const PlotAxis minutes{0, longest, "min", false};
    paint_side_axis(p, area, volts, text, inks);
    paint_foot_axis(p, area, minutes, text, inks);
    p.setRenderHint(QPainter::Antialiasing);
    auto point = [&](double m, double v) {
        return QPointF(area.left() + minutes.share(m) * area.width(),
                       area.bottom() - volts.share(v) * area.height());
    };
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.ink);
    p.drawText(
        QRectF(2, 0, width(), text * 1.5), Qt::AlignLeft | Qt::AlignVCenter,
        tr("board at %1, minutes lit").arg(QString::fromStdString(at.front().run.peak_event)));
    if (need > 0) {
        p.setPen(QPen(inks.warn, 1.2, Qt::DashLine));
        p.drawLine(point(0, need), point(longest, need));
        p.drawText(QRectF(area.left() + 4, point(0, need).y(), area.width(), text * 1.3),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   tr("sound needs %1").arg(QString::fromStdString(conductus::text(Volt(need)))));
    }
    for (std::size_t k = 0; k < at.size(); ++k) {
        QPainterPath path;
        bool first = true;
        for (const power::Sample& s : at[k].run.samples) {
            const QPointF here = point(s.at.value(), s.board_peak.value());
            first ? path.moveTo(here) : path.lineTo(here);
            first = false;
        }
        // Told apart by the line as well as by the ink, and named where they begin.
        p.setPen(QPen(k == 0 ? inks.note : inks.crackle.darker(115), 1.8,
                      k == 0 ? Qt::SolidLine : Qt::DashDotLine));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
        const auto& samples = at[k].run.samples;
        const power::Sample& name_at = samples[samples.size() / 4];
        p.drawText(QRectF(point(name_at.at.value(), name_at.board_peak.value()) +
                              QPointF(0, k == 0 ? 2 : -text * 1.5),
                          QSizeF(text * 8, text * 1.4)),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   QString::fromStdString(conductus::text(at[k].temperature)));
    }
}

ColdSheet::ColdSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    auto [below, below_column] =
        paper(tr("Cold and warm"), tr("lit without pause; all else as it is"), this);
    setObjectName("benchPage");
    auto temperature = [&](const QString& name, const char* object, Celsius* into) {
        auto* field = new Field(
            name,
            [this, into](const QString& typed) -> Result<void> {
                const auto number = parse_number(typed.toStdString(), "°C");
                if (!number) return tl::unexpected(number.error());
                if (!job::limits::temperature_degC.holds(*number))
                    return problem("", "out of range", "−20 to 50 °C");
                *into = Celsius(*number);
                ask();
                return {};
            },
            below);
        field->line()->setObjectName(object);
        field->show_value(QString::number(into->value()));
        keep_width(field, context_.appearance, 3.4);
        return field;
    };
    cold_ = temperature(tr("cold, in °C"), "coldAt", &cold_at_);
    warm_ = temperature(tr("warm, in °C"), "warmAt", &warm_at_);
    auto* fields = new QHBoxLayout;
    fields->addWidget(grouped(tr("cold"), cold_, QString::fromUtf8("°C"), below));
    fields->addWidget(grouped(tr("warm"), warm_, QString::fromUtf8("°C"), below));
    fields->addStretch();
    both_ = new ColdAndWarm(context, below);
    below_column->addLayout(fields);
    below_column->addWidget(both_);
    said_ = label({}, "second", below);
    said_->setObjectName("coldSaid");
    said_->setWordWrap(true);
    below_column->addWidget(said_);
    curves_ = new ColdCurves(context, below);
    below_column->addWidget(curves_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(below);
}

void ColdSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    ask();
}

void ColdSheet::ask() {
    if (plan_) studies_.ask(plan_, {cold_at_, warm_at_}, [this](StudyPtr s) { show_study(s); });
}

void ColdSheet::show_study(const StudyPtr& study) {
    both_->show_study(study);
    curves_->show_study(study);
    if (!*study || (*study)->at.size() < 2) {
        said_->setText(*study ? QString() : QString::fromStdString(study->error().text()));
        return;
    }
    const power::Discharge &cold = (*study)->at[0].run, &warm = (*study)->at[1].run;
    auto words = [](const std::string& s) { return QString::fromStdString(s); };
    auto first = [](const power::Discharge& r) { return r.samples.front(); };
    said_->setText(
        tr("Cold, a cell resists more: the board stands at %1 at %2 when full, warm at %3. At the "
           "first crackle %4 % of the charge are left cold, %5 % warm. What is held back is not "
           "lost: the cell gives it once it is warm.")
            .arg(words(text(first(cold).board_peak)), words(cold.peak_event),
                 words(text(first(warm).board_peak)))
            .arg(cold.clean_charge * 100, 0, 'f', 0)
            .arg(warm.clean_charge * 100, 0, 'f', 0));
}

} // namespace conductus::app
