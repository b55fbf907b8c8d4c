// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/loads_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/base/parse.h"
#include "core/catalogue/count.h"
#include "core/circuit/feeds.h"
#include "core/job/limits.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

/// Places a strip is fed at, besides its foot, in the order of the combo.
const std::vector<std::vector<double>>& feeds() {
    static const std::vector<std::vector<double>> all{{}, {1}, {0.5}, {0.5, 1}};
    return all;
}

const job::Strip* strip_named(const job::Job& job, const std::string& ref) {
    for (const job::Blade& blade : job.blades)
        if (const job::Strip* strip = job::find_ref(blade.strips, ref)) return strip;
    return nullptr;
}

/// Index in feeds(); -1 for others.
int feed_index(const job::Strip& strip) {
    std::vector<double> places;
    for (const job::Feed& f : strip.feeds)
        places.push_back(f.at);
    for (std::size_t i = 0; i < feeds().size(); ++i)
        if (feeds()[i] == places) return static_cast<int>(i);
    return -1;
}

} // namespace

LoadsSheet::LoadsSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("paper");
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Loads"), "title", this));
    head->addSpacing(10);
    auto* remark =
        label(tr("each in the look or effect where it draws most, full cell"), "second", this);
    remark->setMinimumWidth(10);
    head->addWidget(remark, 1);
    const auto load = [this](int row) -> const plan::Load& {
        return plan_->lights.loads[static_cast<std::size_t>(row)];
    };
    const QString dash(QChar(0x2013));
    Column most = reading(tr("most"), [load](int row) {
        const plan::Load& l = load(row);
        return l.most > Ampere(0) ? tr("%1, %2").arg(words(text(l.most)), words(l.in))
                                  : tr("nothing");
    });
    most.sort_by = [load](int row) { return load(row).most.value(); };
    table_ = new Table(
        {.object = "loads",
         .name = tr("Loads"),
         .columns = {reading(tr("load"),
                             [load](int row) {
                                 const plan::Load& l = load(row);
                                 return l.owner.empty()
                                            ? words(l.ref)
                                            : tr("%1 in %2").arg(words(l.ref), words(l.owner));
                             }),
                     reading(tr("what it is"), [load](int row) { return words(load(row).what); }),
                     figures(tr("pixels"),
                             [=](int row) {
                                 const int n = load(row).pixels;
                                 return n > 0 ? QString::number(n) : dash;
                             }),
                     reading(tr("line"),
                             [=](int row) {
                                 return load(row).line.empty() ? dash : words(load(row).line);
                             }),
                     reading(tr("pads"),
                             [=](int row) {
                                 const std::string& pads = load(row).pads;
                                 return pads == "always" ? tr("always lit")
                                        : pads.empty()   ? dash
                                                         : words(pads);
                             }),
                     most,
                     figures(tr("at its pads"),
                             [load](int row) {
                                 const plan::Load& l = load(row);
                                 return l.most > Ampere(0) ? words(text(l.across)) : QString();
                             }),
                     figures(tr("gets to"),
                             [load](int row) {
                                 const auto& hottest = load(row).hottest;
                                 return hottest ? words(text(*hottest)) : QString();
                             })},
         .rows = {[this] { return plan_ ? static_cast<int>(plan_->lights.loads.size()) : 0; },
                  [load](int row) { return words(load(row).ref); }},
         .wide = 1,
         .sortable = true,
         .main = true},
        context.appearance, this);
    none_ = label(
        tr("Nothing lights up yet. Begin the job on its start sheet, fit a strip at Hilt, Parts, "
           "or add an accent below."),
        "second", this);
    none_->setWordWrap(true);
    said_ = label({}, "second", this);
    said_->setObjectName("loadSaid");
    said_->setWordWrap(true);

    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 8);
    column->setSpacing(6);
    column->addLayout(head);
    column->addWidget(none_);
    column->addWidget(table_, 1);
    column->addWidget(said_);
    make_editor(column);

    connect(table_, &Table::row_chosen, this, [this, load](int row) {
        context_.selection.choose(words(load(row).ref));
        show_chosen();
    });
}

void LoadsSheet::make_editor(QBoxLayout* column) {
    type_ = new QComboBox(this);
    type_->setObjectName("loadType");
    type_->setAccessibleName(tr("Type of the load"));
    type_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    type_->setMinimumContentsLength(14);
    keep_least_width(type_, context_.appearance, 27);
    connect(type_, &QComboBox::activated, this,
            [this](int i) { fit(type_->itemData(i).toString()); });

    strip_box_ = new QWidget(this);
    strip_box_->setLayout(new FlowLayout(12, 4));
    auto cut = [this](const QString& what, auto change) -> Result<void> {
        const plan::Load* load = chosen();
        const job::Strip* strip = load ? strip_named(context_.session.job(), load->ref) : nullptr;
        if (!strip) return {};
        Millimetre length = strip->length;
        int pixels = strip->pixels;
        if (auto ok = change(length, pixels); !ok) return ok;
        return context_.session.edit(tr("%1 of %2").arg(what, words(load->ref)),
                                     job::cut_strip(load->ref, length, pixels));
    };
    pixels_ = new EntryField(
        tr("Pixels of the strip"),
        [cut](const QString& text) {
            return cut(tr("Pixels"), [&](Millimetre&, int& pixels) -> Result<void> {
                const auto n = parse_number(text.toStdString(), "px");
                if (!n) return tl::unexpected(n.error());
                if (!job::limits::pixels.holds(*n) || *n != std::floor(*n))
                    return problem("", "not a number of pixels", "Write a whole number from 1");
                pixels = static_cast<int>(*n);
                return {};
            });
        },
        strip_box_);
    length_ = new EntryField(
        tr("Length of the strip"),
        [this, cut](const QString& text) {
            return cut(tr("Length"), [&](Millimetre& length, int& pixels) -> Result<void> {
                const auto l = parse_length(text.toStdString());
                if (!l) return tl::unexpected(l.error());
                if (!job::limits::length_mm.holds(l->value()))
                    return problem("", "out of range", "0.1 to 3000 mm");
                // A count that followed from the old length follows to the new one.
                const auto* strip = strip_named(context_.session.job(), chosen()->ref);
                const auto density =
                    context_.session.parts().find_as<catalogue::Strip>(strip->type)->density;
                if (pixels == catalogue::pixels_on(length, density))
                    pixels = std::max(1, catalogue::pixels_on(*l, density));
                length = *l;
                return {};
            });
        },
        strip_box_);
    pixels_->line()->setObjectName("loadPixels");
    length_->line()->setObjectName("loadLength");
    keep_least_width(pixels_, context_.appearance, 4.5);
    keep_least_width(length_, context_.appearance, 6.5);
    feed_ = new QComboBox(strip_box_);
    feed_->setObjectName("loadFeed");
    feed_->setAccessibleName(tr("Where the strip is fed"));
    feed_->addItems(
        {tr("foot"), tr("foot and tip"), tr("foot and middle"), tr("foot, middle and tip")});
    connect(feed_, &QComboBox::activated, this, [this](int i) {
        if (const plan::Load* load = chosen())
            context_.session.change(
                tr("Feed %1 at %2").arg(words(load->ref), feed_->itemText(i)),
                circuit::feed_at(load->ref, feeds()[static_cast<std::size_t>(i)]));
    });
    strip_box_->layout()->addWidget(grouped(tr("length"), length_, {}, strip_box_));
    strip_box_->layout()->addWidget(grouped({}, pixels_, tr("pixels"), strip_box_));
    strip_box_->layout()->addWidget(grouped(tr("fed at"), feed_, {}, strip_box_));

    led_box_ = new QWidget(this);
    led_box_->setLayout(new FlowLayout(12, 4));
    ohms_ = new EntryField(
        tr("Resistor of the LED"),
        [this](const QString& text) -> Result<void> {
            const auto ohms = parse_number(text.toStdString(), "Ω");
            if (!ohms) return tl::unexpected(ohms.error());
            if (!job::limits::resistor_Ohm.holds(*ohms))
                return problem("", "out of range", "0.01 Ω to 1 MΩ");
            const plan::Load* load = chosen();
            if (!load) return {};
            for (const power::LedRun& run : plan_->leds)
                if (run.led == load->ref && !run.resistor.empty())
                    return context_.session.edit(tr("Choose %1").arg(words(run.resistor)),
                                                 job::choose_resistor(run.resistor, Ohm(*ohms)));
            return {};
        },
        led_box_);
    ohms_->line()->setObjectName("loadOhms");
    keep_least_width(ohms_, context_.appearance, 6);
    pick_ = new LinkButton(tr("take the pick"), context_.appearance, led_box_);
    pick_->setObjectName("takePick");
    connect(pick_, &LinkButton::clicked, this, [this] {
        const plan::Load* load = chosen();
        if (!load) return;
        // Every die of the LED that has a resistor of its own.
        std::vector<job::Edit> picks;
        for (const power::LedRun& run : plan_->leds)
            if (run.led == load->ref && !run.resistor.empty() && run.e24 > Ohm(0))
                picks.push_back(job::choose_resistor(run.resistor, run.e24));
        context_.session.change(tr("Take the pick for %1").arg(words(load->ref)),
                                job::all_of(std::move(picks)));
    });
    led_box_->layout()->addWidget(grouped(tr("resistor"), ohms_, {}, led_box_));
    led_box_->layout()->addWidget(pick_);

    remove_ = new QPushButton(tr("Remove it"), this);
    remove_->setObjectName("removeLoad");
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (const plan::Load* load = chosen())
            context_.session.change(tr("Remove %1").arg(words(load->ref)),
                                    load->kind == plan::Load::Kind::strip
                                        ? job::remove_strip(load->ref)
                                        : job::remove_part(load->ref));
    });
    auto* row = new FlowLayout(12, 4);
    row->addWidget(type_);
    row->addWidget(strip_box_);
    row->addWidget(led_box_);
    row->addWidget(remove_);
    column->addLayout(row);

    add_what_ = new QComboBox(this);
    add_what_->setObjectName("addAccentWhat");
    add_what_->setAccessibleName(tr("Load to add"));
    const auto& parts = context_.session.parts();
    for (const auto* type : parts.all<catalogue::PixelGroup>())
        add_what_->addItem(words(type->name), words(type->id));
    for (const auto* type : parts.all<catalogue::Pixel>())
        add_what_->addItem(words(type->name), words(type->id));
    add_what_->insertSeparator(add_what_->count());
    add_what_->addItem(tr("another strip beside the chosen one"), "strip");
    add_what_->addItem(tr("another blade like the chosen one"), "blade");
    add_what_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    add_what_->setMinimumContentsLength(14);
    keep_least_width(add_what_, context_.appearance, 22);
    add_how_ = new QComboBox(this);
    add_how_->setObjectName("addAccentHow");
    add_how_->setAccessibleName(tr("How it hears its data"));
    add_how_->addItems(
        {tr("on a line of its own"), tr("ahead of the blade"), tr("in parallel: it mirrors")});
    auto* add = new QPushButton(tr("Add"), this);
    add->setObjectName("addAccent");
    connect(add, &QPushButton::clicked, this, [this] {
        const std::string what = add_what_->currentData().toString().toStdString();
        const auto how = static_cast<job::Mount>(add_how_->currentIndex());
        const plan::Load* load = chosen();
        const std::string like = !load                 ? std::string()
                                 : load->owner.empty() ? load->ref
                                                       : load->owner;
        job::Edit edit = what == "strip"   ? job::add_strip(load ? load->ref : std::string())
                         : what == "blade" ? job::add_blade(like, how, context_.session.parts())
                                           : job::add_accent(what, how, context_.session.parts());
        context_.session.fit(tr("Add %1").arg(add_what_->currentText()), edit);
    });
    auto* adding = new FlowLayout(12, 4);
    adding->addWidget(add_what_);
    adding->addWidget(add_how_);
    adding->addWidget(add);
    column->addLayout(adding);
}

void LoadsSheet::fit(const QString& type) {
    const plan::Load* load = chosen();
    if (!load) return;
    const std::string id = type.toStdString();
    context_.session.change(tr("Fit %1").arg(type_->currentText()),
                            load->kind == plan::Load::Kind::strip
                                ? job::fit_strip_type(load->ref, id)
                                : job::fit_type(load->ref, id));
}

const plan::Load* LoadsSheet::chosen() const {
    const int row = table_->chosen();
    if (!plan_ || row < 0 || row >= static_cast<int>(plan_->lights.loads.size())) return nullptr;
    return &plan_->lights.loads[static_cast<std::size_t>(row)];
}

void LoadsSheet::show_chosen() {
    const plan::Load* load = chosen();
    using Kind = plan::Load::Kind;
    const bool strip = load && load->kind == Kind::strip;
    const bool led = load && load->kind == Kind::led;
    const bool part = load && load->owner.empty();
    type_->setVisible(load && load->kind != Kind::string);
    strip_box_->setVisible(strip);
    led_box_->setVisible(false);
    remove_->setVisible(strip || (part && load->kind != Kind::connector));
    said_->setText({});
    if (!load) return;
    const job::Job& job = context_.session.job();
    type_->clear();
    auto offer = [&](const auto& types) {
        for (const auto* type : types)
            type_->addItem(words(type->name), words(type->id));
    };
    const auto& parts = context_.session.parts();
    std::string id;
    if (strip) {
        offer(parts.all<catalogue::Strip>());
        const job::Strip* s = strip_named(job, load->ref);
        if (!s) return;
        id = s->type;
        pixels_->show_value(QString::number(s->pixels));
        length_->show_value(QString::number(s->length.value()) + " mm");
        feed_->setCurrentIndex(feed_index(*s));
        const double fits =
            s->length.value() * 1e-3 * parts.find_as<catalogue::Strip>(s->type)->density.value();
        said_->setText(tr("%1 mm takes %2 pixels; %3 are fitted.")
                           .arg(s->length.value())
                           .arg(fits, 0, 'f', 1)
                           .arg(s->pixels));
    } else if (const job::Part* p = job::find_ref(job.parts, load->ref)) {
        id = p->type;
        const auto& figures = parts.find(p->type)->figures;
        if (std::holds_alternative<catalogue::PixelGroup>(figures) ||
            std::holds_alternative<catalogue::Pixel>(figures)) {
            offer(parts.all<catalogue::PixelGroup>());
            offer(parts.all<catalogue::Pixel>());
        } else if (std::holds_alternative<catalogue::Led>(figures)) {
            // Only LEDs with as many terminals take its wires.
            for (const auto* type : parts.all<catalogue::Led>())
                if (type->terminals == parts.find(p->type)->terminals)
                    type_->addItem(words(type->name), words(type->id));
        } else {
            type_->addItem(words(parts.find(p->type)->name), words(p->type));
        }
    }
    type_->setCurrentIndex(type_->findData(words(id)));
    if (led || load->kind == Kind::string) {
        QStringList lines;
        for (const power::LedRun& run : plan_->leds) {
            // Segments are alike: the first stands for them.
            if (run.led != load->ref || (run.die.starts_with("seg") && run.die != "seg1")) continue;
            QString line = tr("%1 runs at %2, stated %3, stands %4")
                               .arg(words(run.die), words(text(run.amps)), words(text(run.stated)),
                                    words(text(run.most)));
            if (!run.resistor.empty()) {
                line +=
                    tr("; %1 is %2 and burns %3")
                        .arg(words(run.resistor), words(text(run.fitted)), words(text(run.power)));
                led_box_->setVisible(true);
                ohms_->show_value(QString::number(run.fitted.value()) + QString::fromUtf8(" Ω"));
            }
            if (run.built_in > Ohm(0))
                line += tr(" in each row; its %1 burn %2")
                            .arg(words(text(run.built_in)), words(text(run.power)));
            if (!run.driver.empty()) line += tr("; kept by %1").arg(words(run.driver));
            if (run.e24 > Ohm(0)) line += tr("; %1 suits").arg(words(text(run.e24)));
            lines << line;
        }
        said_->setText(lines.join(".\n"));
    }
    for (const power::LeftOn& on : plan_->left_on)
        if (on.ref == load->ref)
            said_->setText((said_->text().isEmpty() ? QString() : said_->text() + " ") +
                           tr("Left on by itself it draws %1 and empties a full cell in %2 h.")
                               .arg(words(text(on.amps)))
                               .arg(qRound(on.hours)));
}

void LoadsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const auto& loads = plan->lights.loads;
    none_->setVisible(loads.empty());
    table_->refresh();
    if (table_->chosen() < 0 && !loads.empty()) {
        const auto* wanted =
            job::find_ref(loads, context_.selection.options().chosen.toStdString());
        table_->choose(wanted ? static_cast<int>(wanted - loads.data()) : 0);
    }
    show_chosen();
}

} // namespace conductus::app
