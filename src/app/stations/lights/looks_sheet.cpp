// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/looks_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/stations/lights/look_list.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

/// What slider `i` moves: red, green, blue, white, cap.
double& share_of(job::Look& look, std::size_t i) {
    double* const shares[] = {&look.colour.red, &look.colour.green, &look.colour.blue,
                              &look.colour.white, &look.cap};
    return *shares[i];
}

} // namespace

LooksSheet::LooksSheet(const Bench& bench, QWidget* parent) : StationPage(bench, parent) {
    setObjectName("paper");
    looks_ = new LookList(bench, this);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(looks_);
    scroll->setMinimumHeight(qRound(bench.appearance.text() * 8.5));
    connect(looks_, &LookList::row_moved, scroll, [scroll](QRect box) {
        scroll->ensureVisible(box.center().x(), box.center().y(), 0, box.height());
    });
    arithmetic_ = label({}, "second", this);
    arithmetic_->setObjectName("arithmetic");
    arithmetic_->setWordWrap(true);

    auto* add = new QPushButton(tr("Add a look"), this);
    add->setObjectName("addLook");
    auto* remove = new QPushButton(tr("Remove it"), this);
    remove->setObjectName("removeLook");
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Looks"), "title", this));
    head->addSpacing(10);
    auto* remark = label(tr("each blade painted from its solved pixels"), "second", this);
    remark->setMinimumWidth(10);
    head->addWidget(remark, 1);
    head->addWidget(add);
    head->addWidget(remove);

    auto* editors = new QVBoxLayout;
    editors->setSpacing(6);
    make_look_editor(editors);
    make_blade_editor(editors);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 8);
    column->setSpacing(6);
    column->addLayout(head);
    column->addWidget(scroll, 1);
    changes_ = new QWidget(this);
    changes_->setObjectName("whatIfs");
    changes_->setLayout(new FlowLayout(12, 2));
    column->addWidget(changes_);
    column->addLayout(editors);
    column->addWidget(arithmetic_);

    connect(add, &QPushButton::clicked, this, [this] {
        job::Look look;
        look.colour = {1, 1, 1, 0};
        for (int n = 1;; ++n) {
            look.name = tr("Look %1").arg(n).toStdString();
            if (!job::find_name(bench_.session.job().looks, look.name)) break;
        }
        (void)bench_.session.edit(tr("Add a look"), [&](job::Job& job) {
            job.looks.push_back(look);
            if (job.use.look.empty()) job.use.look = look.name;
        });
        bench_.selection.look_at(QString::fromStdString(look.name));
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        const std::size_t i = look_index();
        if (i >= bench_.session.job().looks.size()) return;
        (void)bench_.session.edit(tr("Remove a look"), [i](job::Job& job) {
            const std::string gone = job.looks[i].name;
            job.looks.erase(job.looks.begin() + static_cast<std::ptrdiff_t>(i));
            if (job.use.look == gone)
                job.use.look = job.looks.empty() ? "" : job.looks.front().name;
        });
    });
    connect(&bench.selection, &Selection::changed, this, [this] {
        show_look();
        show_changes();
    });
    show_job();
}

void LooksSheet::make_look_editor(QBoxLayout* column) {
    auto* box = this;
    name_ = new Field(
        tr("Name of the look"),
        [this](const QString& text) -> Result<void> {
            const std::string name = text.trimmed().toStdString();
            const std::size_t i = look_index();
            if (i >= bench_.session.job().looks.size()) return {};
            job::Look look = bench_.session.job().looks[i];
            look.name = name;
            auto ok = bench_.session.edit(tr("Name the look"), job::set_look(i, look));
            if (ok) bench_.selection.look_at(QString::fromStdString(name));
            return ok;
        },
        box);
    name_->line()->setObjectName("lookName");
    style_ = new QComboBox(box);
    style_->setObjectName("lookStyle");
    style_->setAccessibleName(tr("Style of the look"));
    for (const auto& entry : job::Words<job::Style>::table)
        style_->addItem(QString::fromUtf8(entry.second.data()));
    connect(style_, &QComboBox::activated, this, [this](int i) {
        edit_look(tr("Change the style"), [i](job::Look& look) {
            look.style = job::Words<job::Style>::table[static_cast<std::size_t>(i)].first;
        });
    });
    auto* flow = new FlowLayout(14, 4);
    keep_least_width(name_, bench_.appearance, 13);
    keep_least_width(style_, bench_.appearance, 7.5);
    flow->addWidget(grouped(tr("name"), name_, {}, box));
    flow->addWidget(grouped(tr("style"), style_, {}, box));
    const QString names[] = {tr("red"), tr("green"), tr("blue"), tr("white die"), tr("cap")};
    const char* objects[] = {"lookRed", "lookGreen", "lookBlue", "lookWhite", "lookCap"};
    for (std::size_t i = 0; i < sliders_.size(); ++i) {
        auto* slider = new QSlider(Qt::Horizontal, box);
        slider->setRange(0, 100);
        slider->setPageStep(10);
        slider->setTracking(false); // one edit a drag, not one a pixel of it
        slider->setObjectName(objects[i]);
        slider->setAccessibleName(names[i]);
        sliders_[i] = slider;
        shares_[i] = label({}, "second", box);
        shares_[i]->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        keep_least_width(shares_[i], bench_.appearance, 3.2);
        keep_least_width(slider, bench_.appearance, 5.5);
        auto* group = new QWidget(box);
        auto* row = new QHBoxLayout(group);
        row->setContentsMargins(0, 0, 0, 0);
        row->setSpacing(5);
        row->addWidget(label(names[i], "second", group));
        row->addWidget(slider, 1);
        row->addWidget(shares_[i]);
        flow->addWidget(group);
        connect(slider, &QSlider::valueChanged, this, [this, i](int percent) {
            edit_look(tr("Change the %1").arg(sliders_[i]->accessibleName()),
                      [i, percent](job::Look& look) { share_of(look, i) = percent / 100.0; });
        });
    }
    column->addLayout(flow);
}

void LooksSheet::make_blade_editor(QBoxLayout* column) {
    auto* box = this;
    strip_ = new QComboBox(box);
    strip_->setObjectName("stripType");
    strip_->setAccessibleName(tr("Pixel strip of the blade"));
    strip_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    strip_->setMinimumContentsLength(12);
    for (const auto* type : bench_.session.parts().all<catalogue::Strip>())
        strip_->addItem(QString::fromStdString(type->name), QString::fromStdString(type->id));
    connect(strip_, &QComboBox::activated, this, [this](int i) {
        (void)bench_.session.edit(tr("Fit %1").arg(strip_->itemText(i)),
                                  job::fit_strips(strip_->itemData(i).toString().toStdString()));
    });
    // Strips of a blade lie back to back: they are cut alike.
    auto all_strips = [this](const QString& what,
                             const std::function<void(job::Strip&, job::Blade&)>& change) {
        return bench_.session.edit(what, [&](job::Job& job) {
            for (job::Blade& blade : job.blades) {
                if (blade.strips.empty()) continue;
                for (job::Strip& strip : blade.strips)
                    change(strip, blade);
                return; // the first blade with strips: the one that is shown
            }
        });
    };
    pixels_ = new Field(
        tr("Pixels set per strip"),
        [all_strips](const QString& text) -> Result<void> {
            const auto n = parse_number(text.toStdString(), "px");
            if (!n) return tl::unexpected(n.error());
            if (!job::limits::pixels.holds(*n) || *n != std::floor(*n))
                return problem("", "not a number of pixels", "Write a whole number from 1");
            return all_strips(tr("Set the pixels"),
                              [&](job::Strip& s, job::Blade&) { s.pixels = static_cast<int>(*n); });
        },
        box);
    length_ = new Field(
        tr("Length of the strips"),
        [all_strips](const QString& text) -> Result<void> {
            const auto l = parse_length(text.toStdString());
            if (!l) return tl::unexpected(l.error());
            if (!job::limits::length_mm.holds(l->value()))
                return problem("", "out of range", "0.1 to 3000 mm");
            return all_strips(tr("Cut the strips"),
                              [&](job::Strip& s, job::Blade&) { s.length = *l; });
        },
        box);
    pixels_->line()->setObjectName("stripPixels");
    length_->line()->setObjectName("stripLength");
    auto* flow = new FlowLayout(14, 4);
    keep_least_width(strip_, bench_.appearance, 20);
    keep_least_width(pixels_, bench_.appearance, 5);
    keep_least_width(length_, bench_.appearance, 7);
    flow->addWidget(grouped(tr("each strip"), strip_, {}, box));
    flow->addWidget(grouped({}, pixels_, tr("pixels"), box));
    flow->addWidget(grouped(tr("length"), length_, {}, box));
    column->addLayout(flow);
}

std::size_t LooksSheet::look_index() const {
    const auto& looks = bench_.session.job().looks;
    const std::string name = bench_.selection.options().look.toStdString();
    for (std::size_t i = 0; i < looks.size(); ++i)
        if (looks[i].name == name) return i;
    return looks.empty() ? looks.size() : 0;
}

void LooksSheet::edit_look(const QString& what, const std::function<void(job::Look&)>& change) {
    const std::size_t i = look_index();
    if (i >= bench_.session.job().looks.size()) return;
    job::Look look = bench_.session.job().looks[i];
    change(look);
    (void)bench_.session.edit(tr("%1 of %2").arg(what, QString::fromStdString(look.name)),
                              job::set_look(i, look));
}

void LooksSheet::show_look() {
    const std::size_t i = look_index();
    const bool any = i < bench_.session.job().looks.size();
    name_->setEnabled(any);
    style_->setEnabled(any);
    for (auto* slider : sliders_)
        slider->setEnabled(any);
    if (!any) return;
    job::Look look = bench_.session.job().looks[i];
    name_->show_value(QString::fromStdString(look.name));
    style_->setCurrentText(QString::fromUtf8(job::word(look.style).data()));
    for (std::size_t k = 0; k < sliders_.size(); ++k) {
        const int percent = qRound(share_of(look, k) * 100);
        const QSignalBlocker quiet(sliders_[k]);
        sliders_[k]->setValue(percent);
        shares_[k]->setText(QString("%1").arg(percent) + QChar(0x202f) + "%");
    }
}

void LooksSheet::show_job() {
    show_look();
    const job::Job& job = bench_.session.job();
    const job::Strip* strip = nullptr;
    for (const auto& blade : job.blades)
        if (!strip && !blade.strips.empty()) strip = &blade.strips.front();
    strip_->setEnabled(strip);
    pixels_->setEnabled(strip);
    length_->setEnabled(strip);
    if (!strip) return;
    strip_->setCurrentIndex(strip_->findData(QString::fromStdString(strip->type)));
    strip_->setToolTip(strip_->currentText());
    pixels_->show_value(QString::number(strip->pixels));
    length_->show_value(QString::number(strip->length.value()) + " mm");
}

void LooksSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    looks_->show_plan(plan);
    show_changes();
    const Explained* peak = plan->figure("peak-current");
    if (plan->by_count <= Ampere(0) || !peak || !peak->value) return arithmetic_->setText({});
    const QString count = QString::fromStdString(text(plan->by_count));
    const QString solved = QString::fromStdString(text(Ampere(*peak->value)));
    arithmetic_->setText(
        plan->pixels > 0
            ? tr("%1 pixels × 60 mA would say %2. Solved %3 at its peak: green and blue starve as "
                 "the voltage falls along the blade.")
                  .arg(plan->pixels)
                  .arg(count, solved)
            : tr("LEDs at what they are stated for would say %1. Solved %2 at its peak: what they "
                 "take follows from the cell's volts and their resistors.")
                  .arg(count, solved));
}

/// What would change the chosen look, each a link that does it.
void LooksSheet::show_changes() {
    const std::size_t i = look_index();
    const bool any = plan_ && i < plan_->lights.what_ifs.size() &&
                     plan_->looks[i].name == bench_.session.job().looks[i].name;
    auto* flow = changes_->layout();
    while (QLayoutItem* item = flow->takeAt(0)) {
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    changes_->setVisible(any && !plan_->lights.what_ifs[i].empty());
    if (!any) return;
    flow->addWidget(label(tr("would change it"), "second", changes_));
    for (const power::WhatIf& w : plan_->lights.what_ifs[i]) {
        const double amps = (w.mean_after - w.mean_before).value();
        const int before = qRound(w.tip_before * 100), after = qRound(w.tip_after * 100);
        // What the third figure would hardly show is no difference.
        QString brings = tr("as many amps");
        if (std::abs(amps) >= 0.01 * w.mean_before.value())
            brings = (amps <= 0 ? QString(QChar(0x2212)) : QString("+")) +
                     QString::fromStdString(text(Ampere(std::abs(amps))));
        if (before != after) brings += tr(", tip %1").arg(after) + QChar(0x202f) + "%";
        auto* link = new LinkButton(tr("%1: %2").arg(QString::fromStdString(w.text), brings),
                                    bench_.appearance, changes_);
        link->setObjectName("whatIf_" + QString::fromStdString(w.id));
        link->setToolTip(tr("At full charge, mean; tip at half charge. Click to do it"));
        connect(link, &LinkButton::clicked, this, [this, edit = w.edit, what = w.text] {
            QString label = QString::fromStdString(what);
            label[0] = label[0].toUpper();
            (void)bench_.session.edit(label, edit);
        });
        QFont font = page_font(bench_.appearance.text() * 0.95, true);
        link->setFixedWidth(QFontMetrics(font).horizontalAdvance(link->text()) + 8);
        flow->addWidget(link);
    }
}

} // namespace conductus::app
