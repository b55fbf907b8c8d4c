// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/part/part_page.h"

#include <QKeyEvent>
#include <QVBoxLayout>
#include <fmt/format.h>

#include "app/drawing/part_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/stations/brief/picture_strip.h"
#include "core/catalogue/kinds.h"
#include "core/hilt/part_edits.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/terminals.h"

namespace conductus::app {
namespace {

/// What a terminal takes, in words.
QString takes_words(const catalogue::Takes& takes) {
    QStringList all;
    if (takes.supply) all << PartPage::tr("supply");
    if (takes.back) all << PartPage::tr("return");
    if (takes.data) all << PartPage::tr("data");
    if (takes.button) all << PartPage::tr("button");
    if (takes.sound) all << PartPage::tr("sound");
    return all.join(QStringLiteral(", "));
}

} // namespace

PartPage::PartPage(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, column] = paper({}, {}, this);
    auto* head = qobject_cast<QHBoxLayout*>(column->itemAt(0)->layout());
    title_ = head->itemAt(0)->widget() ? qobject_cast<QLabel*>(head->itemAt(0)->widget()) : nullptr;
    title_->setObjectName("partTitle");
    head->setStretch(0, 1);
    const auto button = [left = left, head](const char* object, const QString& text) {
        auto* b = new QPushButton(text, left);
        b->setObjectName(object);
        head->addWidget(b);
        return b;
    };
    again_ = button("partAgain", tr("Another like it"));
    remove_ = button("partRemove", tr("Take it out"));
    auto* close = button("partClose", tr("Close"));
    close->setToolTip(tr("Esc"));
    const auto value = [this](int row) -> const job::PartValue& {
        return values_[static_cast<std::size_t>(row)];
    };
    Column name = reading(tr("of the part"), [value](int row) {
        const QString unit = words(value(row).unit);
        return CellText(unit.isEmpty() ? words(value(row).name)
                                       : tr("%1, %2").arg(words(value(row).name), unit),
                        CellInk::second);
    });
    Column what = reading(tr("is"), [this, value](int row) -> CellText {
        const std::string typed = typed_text(value(row));
        if (typed.empty() && !value(row).otherwise.empty())
            return {words(value(row).otherwise), CellInk::second};
        return shown(value(row), typed);
    });
    what.typed = [this, value](int row) { return shown(value(row), typed_text(value(row))); };
    what.choices = [this, value](int row) {
        QStringList all;
        for (const std::string& choice : value(row).choices)
            all << shown(value(row), choice);
        if (all.isEmpty())
            for (const std::string_view word : job::words_at(context_.session.job(), value(row).at))
                all << words(word);
        if (value(row).may_be_empty && !all.isEmpty()) all << QString();
        return all;
    };
    what.edit = [this](int row, const std::string& typed) { return edit(row, typed); };
    table_ = new Table({.object = "partValues",
                        .name = tr("Values of the part"),
                        .what = tr("Part"),
                        .columns = {std::move(name), std::move(what)},
                        .rows = {[this] { return static_cast<int>(values_.size()); },
                                 [value](int row) { return words(value(row).name); }},
                        .wide = 1,
                        .dense = true,
                        .live = true,
                        .session = &context.session},
                       context.appearance, left);
    said_ = label({}, "second", left);
    said_->setObjectName("partSaid");
    said_->setWordWrap(true);
    said_->hide();
    table_->as_high_as_its_rows(16);
    column->addWidget(table_);
    column->addWidget(table_->refusal());
    column->addWidget(said_);
    drawing_ = new DrawingView(
        "partDrawing", tr("The part, to scale"), context.appearance,
        [this]() -> DrawingPtr {
            return type() ? std::make_shared<const PartDrawing>(*type()) : nullptr;
        },
        left);
    drawing_->setMinimumHeight(qRound(context.appearance.text() * 6));
    column->addWidget(drawing_, 1);
    column->addStretch();

    auto [right, right_column] = paper(tr("Terminals"), {}, this);
    const auto end = [this](int row) -> const End& { return ends_[static_cast<std::size_t>(row)]; };
    terminals_ = new Table(
        {.object = "partTerminals",
         .name = tr("Terminals and what is on them"),
         .columns = {reading(tr("terminal"),
                             [end](int row) { return CellText(words(end(row).terminal)); }),
                     reading(tr("on it"),
                             [this, end](int row) -> CellText {
                                 const End& e = end(row);
                                 if (e.wire)
                                     return tr("%1 to %2, %3 AWG, %4")
                                         .arg(words(e.wire->ref), words(e.other))
                                         .arg(e.wire->gauge)
                                         .arg(term(e.wire->colour));
                                 return {free_words(e.terminal), CellInk::second};
                             }),
                     figures(tr("carries"),
                             [end](int row) -> CellText {
                                 const End& e = end(row);
                                 return e.wire && e.wire->amps > Ampere(0)
                                            ? words(text(e.wire->amps))
                                            : QString();
                             })},
         .rows = {[this] { return static_cast<int>(ends_.size()); },
                  [end](int row) { return words(end(row).terminal); }},
         .wide = 1,
         .dense = true,
         .empty = tr("It has no terminals.")},
        context.appearance, right);
    found_ = label({}, "second", right);
    found_->setObjectName("partFound");
    found_->setWordWrap(true);
    pictures_ = new PictureStrip(context, right);
    // Beside the strip of the inspection: names by which each is found.
    for (auto* inner : pictures_->findChildren<QWidget*>())
        if (const QString called = inner->objectName();
            !called.isEmpty() && !called.startsWith("qt_"))
            inner->setObjectName("part_" + called);
    right_column->addWidget(terminals_, 1);
    right_column->addWidget(found_);
    right_column->addWidget(pictures_);

    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(10);
    row_->addWidget(left, 1);
    row_->addWidget(right, 1);

    connect(close, &QPushButton::clicked, this, &PartPage::closed);
    connect(again_, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Another like %1").arg(ref_),
                                hilt::duplicate_part(ref_.toStdString(), context_.session.parts()));
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const job::Job& job = context_.session.job();
        const std::string ref = ref_.toStdString();
        context_.session.change(tr("Take %1 out").arg(ref_),
                                job::find_ref(job.parts, ref)    ? job::remove_part(ref)
                                : job::find_ref(job.blades, ref) ? job::remove_blade(ref)
                                                                 : job::remove_strip(ref));
    });
    connect(terminals_, &Table::row_activated, this, [this](int row) {
        if (const End& e = ends_[static_cast<std::size_t>(row)]; e.wire)
            context_.selection.open(words(job::split_terminal(e.other).first));
    });
    connect(
        pictures_, &PictureStrip::added, this,
        [this](const QString& id, const files::Attachment& picture, const QString& caption) {
            context_.session.change(
                tr("Picture of %1").arg(ref_),
                job::picture_part(ref_.toStdString(), {id.toStdString(), caption.toStdString()}),
                {{id.toStdString(), picture}});
        });
    connect(pictures_, &PictureStrip::removed, this, [this](int at) {
        const auto& items = context_.session.job().inspection;
        for (std::size_t i = 0; i < items.size(); ++i)
            if (words(items[i].part) == ref_)
                return context_.session.change(
                    tr("Take a picture of %1 out").arg(ref_),
                    job::take_out_at(fmt::format("/inspection/{}/pictures/{}", i, at)));
    });
}

const catalogue::PartType* PartPage::type() const {
    const std::string ref = ref_.toStdString();
    const job::Job& job = context_.session.job();
    if (const job::Part* part = job::find_ref(job.parts, ref))
        return context_.session.parts().find(part->type);
    for (const job::Blade& blade : job.blades) {
        if (const auto* strip = job::find_ref(blade.strips, ref))
            return context_.session.parts().find(strip->type);
        if (const auto* string = job::find_ref(blade.strings, ref))
            return context_.session.parts().find(string->type);
    }
    return nullptr;
}

std::string PartPage::typed_text(const job::PartValue& value) const {
    const job::Job& job = context_.session.job();
    if (value.pin.empty()) return job::typed_at(job, value.at, value.unit).value_or("");
    const job::Part* part = job::find_ref(job.parts, ref_.toStdString());
    for (const job::MeasuredPin& pin : part ? part->measured.pins : job::Measured{}.pins)
        if (pin.pin == value.pin) return fmt::format("{:.10g}", pin.resistance.value() * 1e3);
    return {};
}

QString PartPage::shown(const job::PartValue&, const std::string& typed) const {
    const auto* named = context_.session.parts().find(typed);
    return named ? words(named->name) : words(typed);
}

job::Edit PartPage::edit(int row, const std::string& typed) {
    const job::PartValue& value = values_[static_cast<std::size_t>(row)];
    if (!value.pin.empty()) return job::measure_pin(ref_.toStdString(), value.pin, typed);
    std::string meant = typed;
    // A name of the catalogue, or as much of it as only one of the choices has.
    std::vector<std::string> near;
    for (const std::string& choice : value.choices) {
        const QString name = shown(value, choice);
        if (words(typed) == name || typed == choice) near = {choice};
        if (words(typed) == name || typed == choice) break;
        if (!typed.empty() && name.contains(words(typed), Qt::CaseInsensitive))
            near.push_back(choice);
    }
    if (!value.choices.empty() && !typed.empty()) {
        if (near.size() != 1)
            return job::refused({"",
                                 near.empty() ? Message("there is no such choice")
                                              : Message("more than one choice is called like that"),
                                 "Choose one of the list behind the arrow"});
        meant = near.front();
    }
    if (!value.is_type) return job::write_at(value.at, meant, value.unit);
    const std::string ref = ref_.toStdString();
    if (!job::find_ref(context_.session.job().parts, ref))
        return value.at.find("/strips/") != std::string::npos ? job::fit_strip_type(ref, meant)
                                                              : job::write_at(value.at, meant);
    auto replacement =
        hilt::replace_part(context_.session.job(), ref, meant, context_.session.parts());
    QStringList lost;
    for (const Message& one : replacement.lost)
        lost << words(one);
    said_->setText(tr("It could not keep: %1.").arg(lost.join("; ")));
    said_->setVisible(!lost.isEmpty());
    return std::move(replacement.edit);
}

bool PartPage::show_part(const QString& ref) {
    ref_ = ref;
    said_->hide();
    show_job();
    if (values_.empty()) return false;
    table_->choose(0, 1);
    table_->setFocus(Qt::OtherFocusReason);
    return true;
}

void PartPage::show_job() {
    const job::Job& job = context_.session.job();
    // It may have been given another name here.
    const std::string chosen = context_.selection.options().chosen.toStdString();
    values_ = job::values_of(job, context_.session.parts(), ref_.toStdString());
    if (values_.empty() && !chosen.empty()) {
        values_ = job::values_of(job, context_.session.parts(), chosen);
        if (!values_.empty()) ref_ = words(chosen);
    }
    const auto* of = type();
    title_->setText(ref_);
    setAccessibleDescription(of ? tr("%1: %2").arg(ref_, words(of->name)) : ref_);
    const bool part = job::find_ref(job.parts, ref_.toStdString());
    const bool blade = job::find_ref(job.blades, ref_.toStdString());
    const bool strip = of && std::holds_alternative<catalogue::Strip>(of->figures);
    again_->setVisible(part || blade || strip);
    remove_->setVisible(of || blade);
    table_->refresh();
    drawing_->redraw();
    drawing_->setVisible(of);
    const job::Inspected* item = nullptr;
    for (const job::Inspected& i : job.inspection)
        if (words(i.part) == ref_ && !item) item = &i;
    found_->setVisible(item);
    if (item)
        found_->setText(item->note.empty()
                            ? tr("As received: %1").arg(term(job::word(item->condition)))
                            : tr("As received: %1. %2")
                                  .arg(term(job::word(item->condition)), words(item->note)));
    pictures_->setVisible(part);
    pictures_->show_pictures(item ? item->pictures : std::vector<job::Picture>{});
    follow_terminals();
}

QString PartPage::free_words(const std::string& terminal) const {
    if (const auto* blade = job::find_ref(context_.session.job().blades, ref_.toStdString()))
        return blade->connector.empty() ? tr("free") : tr("on %1").arg(words(blade->connector));
    const auto* of = type();
    const QString takes = of ? takes_words(catalogue::takes(of->figures, terminal)) : QString();
    return takes.isEmpty() ? tr("free") : tr("free: takes %1").arg(takes);
}

void PartPage::follow_terminals() {
    ends_.clear();
    const std::string ref = ref_.toStdString();
    const auto all = job::terminals_of(context_.session.job(), context_.session.parts());
    if (const auto own = all.find(ref); own != all.end() && plan_)
        for (const std::string& terminal : own->second) {
            const std::string full = ref + "." + terminal;
            const std::size_t before = ends_.size();
            for (const harness::WireRow& wire : plan_->harness.wires)
                if (wire.from == full || wire.to == full)
                    ends_.push_back({terminal, wire.from == full ? wire.to : wire.from, &wire});
            if (ends_.size() == before) ends_.push_back({terminal, {}, nullptr});
        }
    terminals_->refresh();
}

void PartPage::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    follow_terminals();
}

void PartPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return emit closed();
    StationPage::keyPressEvent(event);
}

void PartPage::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    const bool narrow = width() < context_.appearance.text() * 50;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

} // namespace conductus::app
