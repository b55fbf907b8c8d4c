// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/looks_sheet.h"
#include "app/session/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>
#include <fmt/format.h>

#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/page_scroll.h"
#include "app/stations/lights/colour_field.h"
#include "app/stations/lights/look_list.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

bool has_two_colours(job::Style style) {
    return style == job::Style::two || style == job::Style::cycle || style == job::Style::flame ||
           style == job::Style::charge;
}

} // namespace

LooksSheet::LooksSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("paper");
    looks_ = new LookList(context, this);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(looks_);
    list_ = scroll;
    for (const auto changes : {&Appearance::changed, &Appearance::rows_changed})
        connect(&context.appearance, changes, this, &LooksSheet::keep_rows_in_sight);
    connect(looks_, &LookList::row_moved, scroll, [scroll](QRect box) {
        scroll->ensureVisible(box.center().x(), box.center().y(), 0, box.height());
    });
    arithmetic_ = label({}, "second", this);
    arithmetic_->setObjectName("arithmetic");
    arithmetic_->setWordWrap(true);

    auto* add = new QPushButton(tr("Add a look"), this);
    add->setObjectName("addLook");
    auto* ranked = new QCheckBox(tr("ranked by demand"), this);
    ranked->setObjectName("rankLooks");
    ranked->setChecked(true);
    ranked->setToolTip(tr("Off: in the order in which the board steps through them"));
    connect(ranked, &QCheckBox::toggled, this, [this](bool on) { looks_->rank(on); });
    auto* remove = new QPushButton(tr("Remove it"), this);
    remove->setObjectName("removeLook");
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Looks"), "title", this));
    head->addStretch(1);
    head->addWidget(ranked);
    head->addWidget(add);
    head->addWidget(remove);

    auto* editors = new QVBoxLayout;
    editors->setSpacing(6);
    make_look_editor(editors);

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
    make_yield(arithmetic_, 31);
    column->addWidget(arithmetic_);

    connect(add, &QPushButton::clicked, this, [this] {
        job::Look look;
        look.colour = {1, 1, 1, 0};
        for (int n = 1;; ++n) {
            look.name = tr("Look %1").arg(n).toStdString();
            if (!job::find_name(context_.session.job().looks, look.name)) break;
        }
        context_.session.change(tr("Add a look"), job::add_look(look));
        context_.selection.look_at(QString::fromStdString(look.name));
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        const std::size_t i = look_index();
        if (i >= context_.session.job().looks.size()) return;
        context_.session.change(tr("Remove a look"), job::take_out_at(fmt::format("/looks/{}", i)));
    });
    connect(&context.selection, &Selection::changed, this, [this] {
        show_look();
        show_changes();
    });
    show_job();
}

void LooksSheet::keep_rows_in_sight() {
    const int rows = static_cast<int>(context_.session.job().looks.size());
    const int least = std::min(rows, context_.appearance.rows());
    keep_height_in_page(list_, looks_->height_of(least), looks_->height_of(rows));
}

void LooksSheet::make_look_editor(QBoxLayout* column) {
    auto* box = this;
    name_ = new EntryField(
        tr("Name of the look"),
        [this](const QString& text) -> Result<void> {
            const std::string name = text.trimmed().toStdString();
            const std::size_t i = look_index();
            if (i >= context_.session.job().looks.size()) return {};
            job::Look look = context_.session.job().looks[i];
            look.name = name;
            auto ok = context_.session.edit(tr("Name the look"), job::set_look(i, look));
            if (ok) context_.selection.look_at(QString::fromStdString(name));
            return ok;
        },
        box);
    name_->line()->setObjectName("lookName");
    light_ = new QComboBox(box);
    light_->setObjectName("lookLight");
    light_->setAccessibleName(tr("Light of the look that is edited"));
    light_->setToolTip(tr("A single light can show something else than the blade"));
    connect(light_, &QComboBox::activated, this, [this] { show_look(); });
    as_look_ = new QPushButton(tr("As the look"), box);
    as_look_->setObjectName("lightAsLook");
    connect(as_look_, &QPushButton::clicked, this, [this] {
        job::Look look = context_.session.job().looks[look_index()];
        std::erase_if(look.lights, [&](const job::LightOverride& s) { return s.light == light(); });
        context_.session.change(tr("%1 as the look").arg(light_->currentText()),
                                job::set_look(look_index(), look));
    });
    style_ = new QComboBox(box);
    style_->setObjectName("lookStyle");
    style_->setAccessibleName(tr("Style of the look"));
    for (const auto& entry : job::Words<job::Style>::table)
        style_->addItem(QString::fromUtf8(entry.second.data()));
    connect(style_, &QComboBox::activated, this, [this](int i) {
        Setting now = setting();
        now.style = job::Words<job::Style>::table[static_cast<std::size_t>(i)].first;
        // A second colour that is seen, to begin with; the charge is shown against the dark.
        if (has_two_colours(now.style) && now.style != job::Style::charge &&
            now.second == job::Colour{})
            now.second = {now.colour.blue, now.colour.red, now.colour.green, now.colour.white};
        edit_setting(tr("Change the style"), now);
    });
    field_ = new ColourField(context_, box);
    auto colour = [this](const job::Colour& c) {
        Setting now = setting();
        edited(now) = c;
        return now;
    };
    connect(field_, &ColourField::dragged, this,
            [this, colour](const job::Colour& c) { preview_setting(colour(c)); });
    connect(field_, &ColourField::chosen, this, [this, colour](const job::Colour& c) {
        edit_setting(tr("Choose the colour"), colour(c));
    });
    auto* flow = new FlowLayout(14, 4);
    keep_least_width(name_, context_.appearance, 11);
    keep_least_width(style_, context_.appearance, 7.5);
    keep_least_width(light_, context_.appearance, 9);
    flow->addWidget(grouped(tr("name"), name_, {}, box));
    flow->addWidget(grouped(tr("style"), style_, {}, box));
    flow->addWidget(grouped(tr("of"), light_, {}, box));
    colour_ = new QComboBox(box);
    colour_->setObjectName("lookColour");
    colour_->setAccessibleName(tr("Which of the two colours is edited"));
    colour_->addItems({tr("first colour"), tr("second colour")});
    connect(colour_, &QComboBox::activated, this, [this] { show_look(); });
    meets_ = new QSpinBox(box);
    meets_->setObjectName("lookMeets");
    meets_->setAccessibleName(tr("Where the second colour begins, percent from the foot"));
    meets_->setRange(0, 100);
    meets_->setSuffix(QString(QChar(0x202f)) + "%");
    meets_->setKeyboardTracking(false);
    connect(meets_, &QSpinBox::valueChanged, this, [this](int percent) {
        Setting now = setting();
        now.meets = percent / 100.0;
        edit_setting(tr("Move where the colours meet"), now);
    });
    colours_ = grouped(tr("edit"), colour_, {}, box);
    meeting_ = grouped(tr("second from"), meets_, {}, box);
    flow->addWidget(colours_);
    flow->addWidget(meeting_);
    flow->addWidget(as_look_);
    for (std::size_t i = 0; i < sliders_.size(); ++i)
        make_slider(i, flow);
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    row->addWidget(field_, 0, Qt::AlignTop);
    row->addLayout(flow, 1);
    column->addLayout(row);
}

void LooksSheet::make_slider(std::size_t i, QLayout* flow) {
    static const char* const objects[] = {"lookRed", "lookGreen", "lookBlue", "lookWhite",
                                          "lookCap"};
    const QString names[] = {tr("red"), tr("green"), tr("blue"), tr("white die"), tr("cap")};
    auto* group = new QWidget(this);
    auto* slider = new QSlider(Qt::Horizontal, group);
    slider->setRange(0, 100);
    slider->setPageStep(10);
    slider->setObjectName(objects[i]);
    slider->setAccessibleName(names[i]);
    auto* share = new QSpinBox(group);
    share->setRange(0, 100);
    share->setSuffix(QString(QChar(0x202f)) + "%");
    share->setButtonSymbols(QAbstractSpinBox::NoButtons);
    share->setAlignment(Qt::AlignRight);
    share->setKeyboardTracking(false);
    share->setObjectName(QString(objects[i]) + "Share");
    share->setAccessibleName(tr("%1, percent").arg(names[i]));
    sliders_[i] = slider;
    shares_[i] = share;
    keep_width(share, context_.appearance, 3.9);
    keep_least_width(slider, context_.appearance, 4);
    auto* row = new QHBoxLayout(group);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(5);
    row->addWidget(label(names[i], "second", group));
    row->addWidget(slider, 1);
    row->addWidget(share);
    if (i == 3) white_ = group;
    flow->addWidget(group);
    auto with = [this, i](int percent) {
        Setting now = setting();
        share_of(now, i) = percent / 100.0;
        return now;
    };
    auto change = [this, with, name = names[i]](int percent) {
        edit_setting(tr("Change the %1").arg(name), with(percent));
    };
    // Dragged, it is shown live and becomes one edit where it is let go.
    connect(slider, &QSlider::valueChanged, this, [this, i, with, change](int percent) {
        const QSignalBlocker quiet(shares_[i]);
        shares_[i]->setValue(percent);
        sliders_[i]->isSliderDown() ? preview_setting(with(percent)) : change(percent);
    });
    connect(slider, &QSlider::sliderReleased, this, [slider, change] { change(slider->value()); });
    connect(share, &QSpinBox::valueChanged, this, change);
}

std::size_t LooksSheet::look_index() const {
    const auto& looks = context_.session.job().looks;
    const std::string name = context_.selection.options().look.toStdString();
    for (std::size_t i = 0; i < looks.size(); ++i)
        if (looks[i].name == name) return i;
    return looks.empty() ? looks.size() : 0;
}

std::string LooksSheet::light() const { return light_->currentData().toString().toStdString(); }

LooksSheet::Setting LooksSheet::setting() const {
    const job::Look& look = context_.session.job().looks[look_index()];
    for (const job::LightOverride& s : look.lights)
        if (s.light == light()) return {s.colour, s.style, s.cap, s.second, s.meets};
    return {look.colour, look.style, look.cap, look.second, look.meets};
}

bool LooksSheet::second() const {
    return colour_->currentIndex() == 1 && has_two_colours(setting().style);
}

job::Colour& LooksSheet::edited(Setting& of) const { return second() ? of.second : of.colour; }

double& LooksSheet::share_of(Setting& of, std::size_t i) const {
    job::Colour& c = edited(of);
    double* const shares[] = {&c.red, &c.green, &c.blue, &c.white, &of.cap};
    return *shares[i];
}

job::Look LooksSheet::look_with(const Setting& setting) const {
    job::Look look = context_.session.job().looks[look_index()];
    // One colour is all there is of the others.
    const bool two = has_two_colours(setting.style);
    const job::Colour other = two ? setting.second : job::Colour{};
    const auto meets = setting.style == job::Style::two ? setting.meets : std::nullopt;
    if (light().empty()) {
        look.colour = setting.colour, look.style = setting.style, look.cap = setting.cap;
        look.second = other, look.meets = meets;
        return look;
    }
    auto shown = std::find_if(look.lights.begin(), look.lights.end(),
                              [&](const job::LightOverride& s) { return s.light == light(); });
    if (shown == look.lights.end()) shown = look.lights.insert(shown, job::LightOverride{});
    *shown = {light(), setting.colour, setting.style, setting.cap, other, meets};
    return look;
}

void LooksSheet::edit_setting(const QString& what, const Setting& setting) {
    if (look_index() >= context_.session.job().looks.size()) return;
    const job::Look look = look_with(setting);
    const QString of =
        light().empty()
            ? QString::fromStdString(look.name)
            : tr("%1 in %2").arg(light_->currentText(), QString::fromStdString(look.name));
    context_.session.change(tr("%1 of %2").arg(what, of), job::set_look(look_index(), look));
}

void LooksSheet::preview_setting(const Setting& setting) {
    if (look_index() >= context_.session.job().looks.size()) return;
    (void)context_.session.preview(job::set_look(look_index(), look_with(setting)));
}

/// The lights a look may tell apart: strips, accents, LEDs, stretches, and blades where there are
/// several.
void LooksSheet::show_lights() {
    const job::Job& job = context_.session.job();
    const std::string was = light();
    QStringList names;
    if (job.blades.size() > 1)
        for (const job::Blade& blade : job.blades)
            names << QString::fromStdString(blade.ref);
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            names << QString::fromStdString(strip.ref);
    for (const job::Part& part : job.parts) {
        const auto* type = context_.session.parts().find(part.type);
        if (std::holds_alternative<catalogue::Pixel>(type->figures) ||
            std::holds_alternative<catalogue::PixelGroup>(type->figures) ||
            std::holds_alternative<catalogue::Led>(type->figures))
            names << QString::fromStdString(part.ref);
    }
    for (const job::Stretch& stretch : job.stretches)
        names << QString::fromStdString(stretch.name);
    light_->clear();
    light_->addItem(tr("the whole look"), QString());
    for (const QString& name : names)
        light_->addItem(name, name);
    light_->setCurrentIndex(
        std::max(0, light_->findData(QString::fromStdString(was), Qt::UserRole)));
    light_->setEnabled(names.size() > 1);
}

void LooksSheet::show_look() {
    const std::size_t i = look_index();
    const bool any = i < context_.session.job().looks.size();
    name_->setEnabled(any);
    style_->setEnabled(any);
    field_->setEnabled(any);
    for (std::size_t k = 0; k < sliders_.size(); ++k)
        sliders_[k]->setEnabled(any), shares_[k]->setEnabled(any);
    as_look_->setVisible(false);
    if (!any) return;
    const job::Look& look = context_.session.job().looks[i];
    name_->show_value(QString::fromStdString(look.name));
    // Which lights show something of their own is said in the list of them.
    for (int k = 1; k < light_->count(); ++k) {
        const QString name = light_->itemData(k).toString();
        const bool own =
            std::any_of(look.lights.begin(), look.lights.end(), [&](const job::LightOverride& s) {
                return QString::fromStdString(s.light) == name;
            });
        light_->setItemText(k, own ? tr("%1, its own").arg(name) : name);
        if (own && k == light_->currentIndex()) as_look_->setVisible(true);
    }
    Setting now = setting();
    style_->setCurrentText(term(job::word(now.style)));
    colours_->setVisible(has_two_colours(now.style));
    meeting_->setVisible(now.style == job::Style::two);
    {
        const QSignalBlocker quiet(meets_);
        meets_->setValue(qRound(now.meets.value_or(0.5) * 100));
    }
    field_->show_colour(edited(now));
    for (std::size_t k = 0; k < sliders_.size(); ++k) {
        const int percent = qRound(share_of(now, k) * 100);
        const QSignalBlocker quiet(sliders_[k]), also(shares_[k]);
        sliders_[k]->setValue(percent);
        shares_[k]->setValue(percent);
    }
    show_tips(plan_);
}

void LooksSheet::show_tips(const PlanPtr& plan) {
    const std::size_t i = look_index();
    // Where the tip ends up is told of what the blade shows.
    const bool blade = plan && i < plan->looks.size() && light().empty();
    field_->show_tips(blade ? &plan->looks[i] : nullptr);
}

void LooksSheet::show_job() {
    show_lights();
    show_look();
}

void LooksSheet::show_preview(const PlanPtr& plan) {
    looks_->show_preview(plan);
    show_tips(plan);
    const std::size_t i = look_index();
    if (i >= plan->job->looks.size()) return;
    // What is not dragged follows: the sliders the field's colour, the field the sliders'.
    const job::Look& look = plan->job->looks[i];
    Setting now{look.colour, look.style, look.cap, look.second, look.meets};
    for (const job::LightOverride& s : look.lights)
        if (s.light == light()) now = {s.colour, s.style, s.cap, s.second, s.meets};
    if (!field_->is_dragged()) field_->show_colour(edited(now));
    for (std::size_t k = 0; k < sliders_.size(); ++k) {
        if (sliders_[k]->isSliderDown()) continue;
        const QSignalBlocker quiet(sliders_[k]), also(shares_[k]);
        sliders_[k]->setValue(qRound(share_of(now, k) * 100));
        shares_[k]->setValue(qRound(share_of(now, k) * 100));
    }
}

void LooksSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    looks_->show_plan(plan);
    keep_rows_in_sight();
    field_->show_pixel(plan->lights.luminous);
    // Pixels without a white die show white by the three others: no slider of its own.
    const auto& luminous = plan->lights.luminous;
    bool white = luminous[3] > 0 || !(luminous[0] > 0);
    for (const job::Look& look : plan->job->looks) {
        white |= look.colour.white > 0;
        for (const job::LightOverride& shown : look.lights)
            white |= shown.colour.white > 0;
    }
    white_->setVisible(white);
    show_tips(plan);
    show_changes();
    const Explained* peak = plan->figure("peak-current");
    if (plan->by_count <= Ampere(0) || !peak || !peak->value) return arithmetic_->setText({});
    const QString count = QString::fromStdString(text(plan->by_count));
    const QString solved = QString::fromStdString(text(Ampere(*peak->value)));
    arithmetic_->setText(
        plan->pixels > 0
            ? tr("%1 pixels × 60 mA would say %2. Solved %3 at its peak: green and blue starve "
                 "along "
                 "the blade.")
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
                     plan_->looks[i].name == context_.session.job().looks[i].name;
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
        auto* link =
            new LinkButton(tr("%1: %2").arg(words(w.text), brings), context_.appearance, changes_);
        link->setObjectName("whatIf_" + QString::fromStdString(w.id));
        link->setToolTip(tr("At full charge, mean; tip at half charge. Click to do it"));
        connect(link, &LinkButton::clicked, this, [this, edit = w.edit, what = w.text] {
            QString label = words(what);
            label[0] = label[0].toUpper();
            context_.session.change(label, edit);
        });
        QFont font = page_font(context_.appearance.text() * 0.95, true);
        link->setFixedWidth(QFontMetrics(font).horizontalAdvance(link->text()) + 8);
        flow->addWidget(link);
    }
}

} // namespace conductus::app
