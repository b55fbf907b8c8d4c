// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/variants_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

#include "app/drawing/blade_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/plan/compare.h"

namespace conductus::app {
namespace {

QScrollArea* scrolled(QWidget* inner, QWidget* parent) {
    auto* scroll = new QScrollArea(parent);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    return scroll;
}

} // namespace

VariantsView::VariantsView(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("variantsView");
    setAccessibleName(tr("Looks of both ways of building"));
    connect(&context.appearance, &Appearance::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void VariantsView::show_plans(const PlanPtr& now, const PlanPtr& other) {
    now_ = now;
    other_ = other;
    updateGeometry();
    update();
}

std::vector<std::string> VariantsView::names() const {
    std::vector<std::string> all;
    for (const PlanPtr& plan : {now_, other_})
        for (std::size_t i = 0; plan && i < plan->looks.size(); ++i)
            if (std::find(all.begin(), all.end(), plan->looks[i].name) == all.end())
                all.push_back(plan->looks[i].name);
    return all;
}

QSize VariantsView::sizeHint() const {
    const double text = context_.appearance.text();
    return {qRound(text * 24), qRound(text * (1.8 + 3.4 * static_cast<double>(names().size())))};
}

void VariantsView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    const double label = text * 8, right = text * 5.2;
    const double blade = (width() - label - right - text) * 0.62;
    const double bars = width() - label - right - text - blade - text;
    double most = 0.1;
    for (const PlanPtr& plan : {now_, other_})
        for (std::size_t i = 0; plan && i < plan->looks.size(); ++i)
            most = std::max(most, plan->looks[i].mean.value());
    p.setFont(page_font(text * 0.86));
    p.setPen(inks.second);
    p.drawText(QRectF(label, 0, blade, text * 1.6), Qt::AlignVCenter,
               QFontMetricsF(p.font()).elidedText(tr("as built, the other under it"),
                                                  Qt::ElideRight, blade));
    p.drawText(QRectF(label + blade + text, 0, bars + right, text * 1.6), Qt::AlignVCenter,
               tr("mean amps"));
    double y = text * 1.8;
    for (const std::string& name : names()) {
        p.setFont(page_font(text));
        p.setPen(inks.ink);
        p.drawText(QRectF(0, y, label - 6, text * 2.9), Qt::AlignVCenter | Qt::TextWordWrap,
                   words(name));
        double top = y;
        for (const PlanPtr& plan : {now_, other_}) {
            const plan::LookPlan* look = plan ? plan->look(name) : nullptr;
            const QRectF tube = QRectF(label, top, blade, text * 1.2).toRect();
            if (look && !look->views[plan::full].paint.empty()) {
                paint_blade(p, tube, look->views[plan::full].paint, inks);
            } else {
                p.setFont(page_font(text * 0.86));
                p.setPen(inks.second);
                p.drawText(tube, Qt::AlignVCenter,
                           look ? tr("no blade lights up") : tr("not kept"));
            }
            if (look) {
                const double w = bars * look->mean.value() / most;
                p.fillRect(QRectF(label + blade + text, top + text * 0.2, w, text * 0.8),
                           plan == now_ ? inks.clean : inks.clean_pale);
                p.setFont(page_font(text * 0.92, plan == now_));
                p.setPen(inks.ink);
                p.drawText(QRectF(label + blade + text + w + 5, top, right, text * 1.2),
                           Qt::AlignVCenter, words(conductus::text(look->mean)));
            }
            top += text * 1.45;
        }
        y += text * 3.4;
    }
}

VariantsSheet::VariantsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("benchPage");
    auto [left, left_column] = paper(tr("Variants"), tr("ways of building the same job"), this);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    which_ = new QComboBox(left);
    which_->setObjectName("variantWhich");
    which_->setAccessibleName(tr("Variant to compare with"));
    keep_least_width(which_, context.appearance, 11);
    take_ = new QPushButton(tr("Build it that way"), left);
    take_->setObjectName("variantTake");
    drop_ = new QPushButton(tr("Drop it"), left);
    drop_->setObjectName("variantDrop");
    row->addWidget(label(tr("compare with"), "second", left));
    row->addWidget(which_, 1);
    row->addWidget(take_);
    row->addWidget(drop_);
    none_ = label(tr("No other way of building is kept. Name the one you have and keep it; then "
                     "change the job, and both stand here one above the other."),
                  "second", left);
    none_->setWordWrap(true);
    view_ = new VariantsView(context, left);
    auto* keeping = new QHBoxLayout;
    keeping->setSpacing(8);
    name_ = new QLineEdit(left);
    name_->setObjectName("variantName");
    name_->setAccessibleName(tr("Name to keep this way of building under"));
    name_->setPlaceholderText(tr("name of this way of building"));
    keep_ = new QPushButton(tr("Keep it to compare"), left);
    keep_->setObjectName("variantKeep");
    keeping->addWidget(name_, 1);
    keeping->addWidget(keep_);
    refused_ = label({}, "refused", left);
    refused_->setObjectName("variantRefused");
    refused_->setWordWrap(true);
    refused_->hide();
    left_column->addLayout(row);
    left_column->addWidget(none_);
    left_column->addWidget(scrolled(view_, left), 1);
    left_column->addLayout(keeping);
    left_column->addWidget(refused_);

    auto [right, right_column] = paper(tr("The difference"), tr("from now to the other"), this);
    words_ = label({}, "", right);
    words_->setObjectName("variantWords");
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop);
    words_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    right_column->addWidget(scrolled(words_, right), 1);
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(left, 5);
    all->addWidget(right, 3);

    connect(which_, &QComboBox::activated, this, [this] { plan_other(); });
    connect(keep_, &QPushButton::clicked, this, [this] {
        const std::string name = name_->text().trimmed().toStdString();
        const job::Job& job = context_.session.job();
        const std::string now = job.variant.empty() ? "as it goes on" : job.variant;
        Result<void> ok;
        if (name.empty())
            ok = problem("", "it has no name", "Write one beside");
        else
            ok = context_.session.edit(tr("Keep %1 to compare").arg(words(name)),
                                       job::keep_variant(name, now == name ? now + " anew" : now));
        refused_->setVisible(!ok);
        if (ok)
            name_->clear();
        else
            refused_->setText(
                tr("Not kept: %1. %2").arg(words(ok.error().what), words(ok.error().mend)));
    });
    auto chosen = [this] { return static_cast<std::size_t>(std::max(0, which_->currentIndex())); };
    connect(take_, &QPushButton::clicked, this, [this, chosen] {
        if (which_->count() > 0)
            context_.session.change(tr("Build as %1").arg(which_->currentText()),
                                    job::take_variant(chosen()));
    });
    connect(drop_, &QPushButton::clicked, this, [this, chosen] {
        if (which_->count() > 0)
            context_.session.change(tr("Drop %1").arg(which_->currentText()),
                                    job::take_out_at(fmt::format("/variants/{}", chosen())));
    });
}

void VariantsSheet::show_job() {
    const job::Job& job = context_.session.job();
    const int was = which_->currentIndex();
    which_->clear();
    for (const job::Variant& v : job.variants)
        which_->addItem(words(v.name));
    which_->setCurrentIndex(std::clamp(was, which_->count() ? 0 : -1, which_->count() - 1));
    const bool any = !job.variants.empty();
    for (QWidget* w : {static_cast<QWidget*>(which_), static_cast<QWidget*>(take_),
                       static_cast<QWidget*>(drop_)})
        w->setEnabled(any);
    none_->setVisible(!any);
}

void VariantsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    plan_other();
}

void VariantsSheet::plan_other() {
    if (!plan_) return;
    const auto at = static_cast<std::size_t>(std::max(0, which_->currentIndex()));
    if (at >= plan_->job->variants.size()) {
        others_.forget();
        other_.reset();
        return show_both();
    }
    others_.ask(
        [plan = plan_, at]() -> PlanPtr {
            return std::make_shared<const plan::Plan>(plan::analyse_figures(
                std::make_shared<const job::Job>(job::with_variant(*plan->job, at)), plan->parts));
        },
        [this](const PlanPtr& made) {
            other_ = made;
            show_both();
        });
}

void VariantsSheet::show_both() {
    view_->show_plans(plan_, other_);
    if (!other_) return words_->setText({});
    const plan::Comparison difference = plan::compare(*plan_, *other_);
    QStringList lines;
    for (const plan::FigureChange& f : difference.figures)
        lines << words(f.text);
    for (const std::string& a : difference.agreements)
        lines << words(a);
    for (const std::string& f : difference.findings)
        lines << words(f);
    if (!lines.isEmpty()) lines << QString();
    for (const job::Change& c : difference.changes)
        if (!c.path.starts_with("/variants") && c.path != "/variant") lines << words(c.text);
    words_->setText(lines.join('\n'));
}

} // namespace conductus::app
