// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/ribbon_list.h"

#include <QKeyEvent>
#include <QPainter>

#include "app/drawing/steps_drawing.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

constexpr double row_lines = 2.5; // height of a row in running text

}

RibbonList::RibbonList(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("ribbons");
    setAccessibleName(tr("How long each cell runs"));
    setFocusPolicy(Qt::StrongFocus);
    offer_picture(this, context.appearance);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setToolTip(tr("Up and Down choose a cell, Enter fits it"));
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

RibbonLayout RibbonList::layout_now() const {
    const double text = context_.appearance.text();
    RibbonLayout l;
    l.lettering = text;
    l.row = text * row_lines;
    l.names = std::min(text * 19, width() * 0.42);
    l.longest_min = plan_ ? longest_minutes(plan_->options) : 60;
    return l;
}

QRectF RibbonList::row_box(std::size_t row) const {
    const double h = layout_now().row;
    return {0, h * static_cast<double>(row), static_cast<double>(width()), h};
}

QSize RibbonList::sizeHint() const {
    const double text = context_.appearance.text();
    const auto rows = plan_ ? static_cast<double>(plan_->options.size()) : 9.0;
    return {qRound(text * 26), qRound(rows * text * row_lines)};
}

QString RibbonList::row_words(std::size_t row) const {
    if (!plan_ || row >= plan_->options.size()) return {};
    const plan::CellOption& o = plan_->options[row];
    return tr("%1, clean %2, bright %3, off %4, %5")
        .arg(QString::fromStdString(o.name), QString::fromStdString(duration(o.clean)),
             QString::fromStdString(duration(o.bright)), QString::fromStdString(duration(o.off)),
             QString::fromStdString(o.remark));
}

void RibbonList::show_plan(const PlanPtr& plan) {
    // The chosen row follows its cell, not its place in the list.
    const std::string chosen =
        plan_ && row_ < plan_->options.size() ? plan_->options[row_].type : "";
    plan_ = plan;
    row_ = 0;
    for (std::size_t i = 0; i < plan->options.size(); ++i)
        if (plan->options[i].type == chosen) row_ = i;
    setAccessibleDescription(row_words(row_));
    updateGeometry();
    update();
}

void RibbonList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    p.fillRect(rect(), inks.paper);
    if (!plan_) return;
    if (plan_->trouble || plan_->options.empty()) {
        p.setPen(inks.second);
        p.setFont(page_font(context_.appearance.text()));
        p.drawText(QRectF(rect()).adjusted(10, 6, -10, 0), Qt::TextWordWrap,
                   plan_->trouble ? QString::fromStdString(plan_->trouble->text())
                                  : tr("Fit a cell to see how long it runs."));
        return;
    }
    const RibbonLayout layout = layout_now();
    const double rows = layout.row * static_cast<double>(plan_->options.size());
    if (hasFocus() && row_ < plan_->options.size()) p.fillRect(row_box(row_), inks.chosen);
    paint_ribbon_grid(p, QRectF(0, 0, width(), rows), layout, inks);
    for (std::size_t i = 0; i < plan_->options.size(); ++i)
        paint_ribbon(p, row_box(i), plan_->options[i], layout, inks);
    if (hasFocus() && row_ < plan_->options.size()) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(row_box(row_).adjusted(1, 1, -1, -1));
    }
}

void RibbonList::choose(std::size_t row) {
    row_ = row;
    setAccessibleDescription(row_words(row_));
    emit row_moved(row_box(row_).toRect());
    update();
}

void RibbonList::keyPressEvent(QKeyEvent* event) {
    const std::size_t rows = plan_ ? plan_->options.size() : 0;
    if (event->key() == Qt::Key_Down && row_ + 1 < rows) {
        choose(row_ + 1);
    } else if (event->key() == Qt::Key_Up && row_ > 0) {
        choose(row_ - 1);
    } else if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && row_ < rows) {
        emit fit_wanted(row_);
    } else {
        QWidget::keyPressEvent(event);
    }
}

void RibbonList::mousePressEvent(QMouseEvent* event) {
    setFocus();
    const auto row =
        static_cast<std::size_t>(std::max(0.0, event->position().y() / layout_now().row));
    if (plan_ && row < plan_->options.size()) choose(row);
}

void RibbonList::mouseDoubleClickEvent(QMouseEvent*) {
    if (plan_ && row_ < plan_->options.size()) emit fit_wanted(row_);
}

RibbonAxis::RibbonAxis(const PageContext& context, const RibbonList& list, QWidget* parent)
    : QWidget(parent), context_(context), list_(list) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("Time axis"));
    connect(&context.appearance, &Appearance::changed, this, [this] { updateGeometry(); });
}

QSize RibbonAxis::sizeHint() const { return {100, qRound(context_.appearance.text() * 2.9)}; }

void RibbonAxis::paintEvent(QPaintEvent*) {
    QPainter p(this);
    // As wide as the list, which may have a scroll bar beside it.
    paint_ribbon_axis(p, QRectF(0, 0, list_.width(), height()), list_.layout_now(),
                      context_.appearance.inks());
}

StepsView::StepsView(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("steps");
    setAccessibleName(tr("Where the volts go"));
    offer_picture(this, context.appearance);
    connect(&context.selection, &Selection::changed, this, qOverload<>(&QWidget::update));
}

QSize StepsView::sizeHint() const {
    const double text = context_.appearance.text();
    return {qRound(text * 26), qRound(text * 8)};
}

void StepsView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    update();
}

void StepsView::paintEvent(QPaintEvent*) {
    if (!plan_) return;
    QPainter p(this);
    const SectionOptions& o = context_.selection.options();
    const plan::LookPlan* look = plan_->look(o.look.toStdString());
    if (!look && !o.moment) return;
    const plan::View& view = o.moment ? *o.moment : look->views[o.charge];
    spots_.clear();
    for (auto& s : paint_steps(p, rect(), view, context_.appearance.text(), o.chosen,
                               context_.appearance.inks()))
        spots_.emplace_back(s.ref, s.box);
    QStringList words;
    for (const auto& s : view.steps)
        words << QString::fromStdString(s.label) + " " + QString::fromStdString(text(s.drop));
    if (accessibleDescription() != words.join(", ")) setAccessibleDescription(words.join(", "));
}

void StepsView::mousePressEvent(QMouseEvent* event) {
    for (const auto& [ref, box] : spots_)
        if (box.contains(event->position())) context_.selection.choose(ref);
}

} // namespace conductus::app
