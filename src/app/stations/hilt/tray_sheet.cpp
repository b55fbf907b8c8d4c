// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/tray_sheet.h"

#include <QApplication>
#include <QDrag>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QMouseEvent>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/part_drawing.h"
#include "app/parts/part_search.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/section_pane.h"
#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"
#include "core/harness/derive.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"

namespace conductus::app {
TraySheet::TraySheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] = paper(tr("Parts to fit"), {}, this);
    search_ = new PartSearch("tray", context.appearance, left);
    const auto type = [this](int row) -> const catalogue::PartType& { return *type_in(row); };
    table_ = new Table(
        {.object = "trayParts",
         .name = tr("Parts to fit"),
         .columns = {part_column(context.appearance, type),
                     reading(tr("part"), [type](int row) { return words(type(row).name); }),
                     reading(tr("figures that decide"),
                             [type](int row) {
                                 return CellText(words(catalogue::deciding_text(type(row))),
                                                 CellInk::second);
                             }),
                     reading(tr("where it goes"),
                             [this, type](int row) {
                                 const auto stands = catalogue::kind_of(type(row).figures).stands;
                                 if (stands == catalogue::Stands::apart)
                                     return CellText(tr("on what it belongs to"), CellInk::second);
                                 const hilt::NewPlace& place = place_of(type(row));
                                 if (!place.free) return CellText(words(place.why), CellInk::warn);
                                 if (stands == catalogue::Stands::wire)
                                     return CellText(tr("in its wire"), CellInk::fine);
                                 return CellText(place.opening.empty()
                                                     ? tr("free at %1").arg(words(place.at))
                                                     : tr("in %1").arg(words(place.opening)),
                                                 CellInk::fine);
                             })},
         .rows = {[this] { return static_cast<int>(found_.size()); },
                  [type](int row) { return words(type(row).id); }},
         .wide = 1,
         .dense = true,
         .main = true,
         .empty = tr("No part is so. A few letters of each word are enough; a number takes its "
                     "unit.")},
        context.appearance, left);
    keep_column(table_, context.appearance, 0, 6.5);
    left_column->addWidget(search_);
    left_column->addWidget(table_, 1);

    auto [right, right_column] = paper(tr("The part"), {}, this);
    drawing_ = new DrawingView(
        "trayDrawing", tr("The part, to scale"), context.appearance,
        [this]() -> DrawingPtr {
            const auto* shown = chosen_type();
            return shown ? std::make_shared<const PartDrawing>(*shown) : nullptr;
        },
        right);
    const auto button = [right = right](const char* object, const QString& text) {
        auto* b = new QPushButton(text, right);
        b->setObjectName(object);
        return b;
    };
    fit_ = button("trayFit", tr("Fit it"));
    into_ = button("trayInto", tr("Into the blade"));
    lit_ = button("trayLit", tr("A blade lit by it"));
    replace_ = button("trayReplace", tr("In its place"));
    again_ = button("trayAgain", tr("Another like it"));
    remove_ = button("trayRemove", tr("Take it out"));
    wire_ = button("trayWire", tr("Wire what is missing"));
    chosen_ = label({}, "second", right);
    chosen_->setObjectName("trayChosen");
    chosen_->setWordWrap(true);
    said_ = label({}, "second", right);
    said_->setObjectName("traySaid");
    said_->setWordWrap(true);
    right_column->addWidget(drawing_, 1);
    const auto side_by_side_as_they_fit =
        [&, column = right_column](std::initializer_list<QWidget*> buttons) {
            auto* holder = new QWidget(right);
            auto* flow = new FlowLayout(8, 6);
            holder->setLayout(flow);
            for (QWidget* b : buttons)
                flow->addWidget(b);
            column->addWidget(holder);
        };
    side_by_side_as_they_fit({fit_, into_, replace_});
    right_column->addWidget(chosen_);
    side_by_side_as_they_fit({again_, lit_, remove_, wire_});
    right_column->addWidget(said_);
    right_column->addStretch();

    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    row_->addWidget(left, 7);
    row_->addWidget(right, 4);

    table_->viewport()->installEventFilter(this);
    connect(search_, &PartSearch::changed, this, &TraySheet::find);
    connect(search_, &PartSearch::entered, this, [this] { fit(std::max(0, table_->chosen())); });
    connect(table_, &Table::row_chosen, this, [this] { follow(); });
    connect(table_, &Table::row_activated, this, &TraySheet::fit);
    connect(fit_, &QPushButton::clicked, this, [this] { fit(table_->chosen()); });
    connect(replace_, &QPushButton::clicked, this, &TraySheet::replace);
    connect(again_, &QPushButton::clicked, this, [this] {
        const QString ref = context_.selection.options().chosen;
        context_.session.change(tr("Another like %1").arg(ref),
                                hilt::duplicate_part(ref.toStdString(), context_.session.parts()));
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const QString ref = context_.selection.options().chosen;
        const std::string of = ref.toStdString();
        context_.session.change(tr("Take %1 out").arg(ref),
                                chosen_part() ? job::remove_part(of)
                                : job::find_ref(context_.session.job().blades, of)
                                    ? job::remove_blade(of)
                                    : job::remove_strip(of));
    });
    connect(into_, &QPushButton::clicked, this, [this] {
        const auto* strip = chosen_type();
        const job::Blade* blade = chosen_blade();
        if (!strip || !blade) return;
        const QString in = words(blade->ref);
        if (auto ok = context_.session.edit(
                tr("A strip more in %1").arg(in),
                hilt::add_strip(strip->id, blade->ref, context_.session.parts()));
            !ok)
            return said_->setText(words(ok.error()));
        said_->setText(tr("%1 is in %2.").arg(words(strip->name), in));
    });
    connect(lit_, &QPushButton::clicked, this, [this] {
        if (const job::Part* part = chosen_part())
            context_.session.change(tr("A blade lit by %1").arg(words(part->ref)),
                                    hilt::add_blade_on(part->ref, context_.session.parts()));
    });
    connect(wire_, &QPushButton::clicked, this, [this] {
        context_.session.fit(tr("Wire what is missing"),
                                harness::wire_missing(context_.session.parts()));
    });
    connect(&context.selection, &Selection::changed, this, &TraySheet::follow);
    find();
}

bool TraySheet::eventFilter(QObject* watched, QEvent* event) {
    if (watched != table_->viewport()) return StationPage::eventFilter(watched, event);
    if (event->type() == QEvent::MouseButtonPress)
        pressed_ = static_cast<QMouseEvent*>(event)->pos();
    if (event->type() == QEvent::MouseMove) {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        const bool far =
            (mouse->pos() - pressed_).manhattanLength() >= QApplication::startDragDistance();
        const auto* type = chosen_type();
        if (!mouse->buttons().testFlag(Qt::LeftButton) || !far || !type) return false;
        // Onto the section above: there it is fitted where it is let go.
        auto* drag = new QDrag(this);
        auto* mime = new QMimeData;
        mime->setData(dragged_type, QByteArray::fromStdString(type->id));
        mime->setText(words(type->name));
        drag->setMimeData(mime);
        drag->exec(Qt::CopyAction);
        return true;
    }
    return StationPage::eventFilter(watched, event);
}

void TraySheet::resizeEvent(QResizeEvent* event) {
    StationPage::resizeEvent(event);
    // Side by side while both have room to be read; else what can be done stands under the table.
    const bool narrow = width() < context_.appearance.text() * 56;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    row_->setStretch(1, narrow ? 0 : 4);
    drawing_->setVisible(!narrow);
}

const catalogue::PartType* TraySheet::type_in(int row) const {
    return row >= 0 && row < static_cast<int>(found_.size()) ? found_[static_cast<std::size_t>(row)]
                                                             : nullptr;
}

const catalogue::PartType* TraySheet::chosen_type() const { return type_in(table_->chosen()); }

const job::Part* TraySheet::chosen_part() const {
    return job::find_ref(context_.session.job().parts,
                         context_.selection.options().chosen.toStdString());
}

const job::Blade* TraySheet::chosen_blade() const {
    const std::string ref = context_.selection.options().chosen.toStdString();
    for (const job::Blade& blade : context_.session.job().blades)
        if (blade.ref == ref || job::find_ref(blade.strips, ref) ||
            job::find_ref(blade.strings, ref))
            return &blade;
    return nullptr;
}

const hilt::NewPlace& TraySheet::place_of(const catalogue::PartType& type) const {
    const auto [it, fresh] = places_.try_emplace(type.id);
    if (fresh)
        it->second = hilt::place_for(context_.session.job(), context_.session.parts(), type.id);
    return it->second;
}

void TraySheet::find() {
    const std::string before = chosen_type() ? chosen_type()->id : std::string();
    found_.clear();
    for (const std::string& id : context_.session.parts().ids()) {
        const catalogue::PartType* type = context_.session.parts().find(id);
        if (search_->asks_for(*type)) found_.push_back(type);
    }
    table_->refresh();
    int row = 0;
    for (std::size_t i = 0; i < found_.size(); ++i)
        if (found_[i]->id == before) row = static_cast<int>(i);
    if (!found_.empty()) table_->choose(row);
    follow();
}

void TraySheet::follow() {
    const catalogue::PartType* type = chosen_type();
    const job::Part* part = chosen_part();
    const bool apart = type && catalogue::kind_of(type->figures).stands == catalogue::Stands::apart;
    fit_->setEnabled(type);
    const job::Blade* blade = chosen_blade();
    const QString ref = part || blade ? context_.selection.options().chosen : QString();
    const bool strip = type && std::holds_alternative<catalogue::Strip>(type->figures);
    into_->setVisible(blade && strip);
    if (blade) into_->setText(tr("Into %1").arg(words(blade->ref)));
    const auto* led = part ? context_.session.parts().find_as<catalogue::Led>(part->type) : nullptr;
    lit_->setVisible(led);
    lit_->setText(tr("A blade lit by %1").arg(ref));
    replace_->setVisible(part);
    replace_->setText(tr("In place of %1").arg(ref));
    replace_->setEnabled(part && type && !apart && type->id != part->type);
    again_->setVisible(part || (blade && !job::find_ref(blade->strings, ref.toStdString())));
    again_->setText(tr("Another like %1").arg(ref));
    remove_->setVisible(part || blade);
    remove_->setText(tr("Take %1 out").arg(ref));
    if (part) {
        const auto* of = context_.session.parts().find(part->type);
        chosen_->setText(
            tr("Chosen in the hilt: %1, %2").arg(ref, of ? words(of->name) : words(part->type)));
    } else if (blade) {
        chosen_->setText(tr("Chosen: %1, a blade of %2 with %3")
                             .arg(words(blade->ref), words(blade->length),
                                  counted(static_cast<int>(blade->strips.size()), tr("%1 strip"),
                                          tr("%1 strips"))));
    } else {
        chosen_->setText(tr("Choose a part of the section above to replace it, take it out, or fit "
                            "another like it."));
    }
    drawing_->redraw();
}

void TraySheet::fit(int row) {
    const catalogue::PartType* type = type_in(row);
    if (!type) return;
    const std::size_t before = context_.session.job().parts.size();
    const std::size_t blades = context_.session.job().blades.size();
    const auto ok =
        context_.session.edit(tr("Fit a %1").arg(words(type->name)),
                              hilt::add_part(type->id, std::nullopt, context_.session.parts()));
    if (!ok) return said_->setText(words(ok.error()));
    const auto& parts = context_.session.job().parts;
    if (parts.size() > before) context_.selection.choose(words(parts.back().ref));
    if (context_.session.job().blades.size() > blades)
        context_.selection.choose(words(context_.session.job().blades.back().ref));
    said_->setText(parts.size() > before
                       ? tr("%1 is fitted as %2.").arg(words(type->name), words(parts.back().ref))
                       : tr("%1 is fitted.").arg(words(type->name)));
}

void TraySheet::replace() {
    const catalogue::PartType* type = chosen_type();
    const job::Part* part = chosen_part();
    if (!type || !part) return;
    const QString ref = words(part->ref);
    const auto replacement =
        hilt::replace_part(context_.session.job(), part->ref, type->id, context_.session.parts());
    const auto ok = context_.session.edit(tr("%1 in place of %2").arg(words(type->name), ref),
                                          replacement.edit);
    if (!ok) return said_->setText(words(ok.error()));
    QStringList lost;
    for (const Message& one : replacement.lost)
        lost << words(one);
    said_->setText(
        lost.isEmpty()
            ? tr("%1 is now a %2; its place and its wires stay.").arg(ref, words(type->name))
            : tr("%1 is now a %2. It could not keep: %3.")
                  .arg(ref, words(type->name), lost.join("; ")));
}

void TraySheet::show_job() {
    places_.clear();
    table_->refresh();
    follow();
}

void TraySheet::show_plan(const PlanPtr& plan) {
    const auto missing = plan->harness.missing.size();
    wire_->setVisible(missing > 0);
    wire_->setText(counted(static_cast<int>(missing), tr("Wire what is missing: %1 wire"),
                           tr("Wire what is missing: %1 wires")));
}

} // namespace conductus::app
