// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/section_pane.h"

#include <QApplication>
#include <QDragEnterEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/drawings.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/job/words.h"

namespace conductus::app {

SectionView::SectionView(Selection& selection, const Appearance& appearance, QWidget* parent)
    : DrawingView(
          "section", tr("Long section of the hilt"), appearance,
          [this]() -> DrawingPtr {
              return plan_ ? section_drawing(plan_, selection_.options()) : nullptr;
          },
          parent),
      selection_(selection) {
    setAcceptDrops(true);
    connect(&selection, &Selection::changed, this, &SectionView::follow);
    connect(this, &DrawingView::pressed, this, &SectionView::take_in_hand);
    connect(this, &DrawingView::dragged, this, &SectionView::drag);
    connect(this, &DrawingView::released, this, &SectionView::drop);
    connect(this, &DrawingView::opened, this, [this] {
        if (const QString& chosen = selection_.options().chosen; !chosen.isEmpty())
            selection_.open(chosen);
    });
    connect(this, &DrawingView::stepped, this, &SectionView::step);
    connect(this, &DrawingView::hovered, this, [this](QPointF at) {
        setCursor(boundary_at(at) ? Qt::SplitHCursor : Qt::ArrowCursor);
    });
    tell([this](QPointF at) {
        if (const auto section = boundary_at(at))
            return tr("end of %1 at %2: drag it")
                .arg(words(plan_->job->hilt.sections[*section].name),
                     words(plan_->job->hilt.sections[*section].to));
        const QString ref = ref_at(at);
        return ref.isEmpty() || !plan_ ? QString() : words_for(ref);
    });
}

void SectionView::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    follow();
}

void SectionView::follow() {
    redraw();
    if (const QString& chosen = selection_.options().chosen; plan_ && !chosen.isEmpty())
        setAccessibleDescription(words_for(chosen));
}

void SectionView::paintEvent(QPaintEvent* event) {
    DrawingView::paintEvent(event);
    if (!plan_ || !selection_.options().sliding.isEmpty()) return;
    const Scale s = scale_now();
    selection_.lay_axis(
        {to_widget({s.x0, 0}).x() + mapTo(window(), QPoint(0, 0)).x(), s.per_mm * zoom()});
}

Scale SectionView::scale_now() const {
    return section_scale(plan_, selection_.options(), frame(), lettering(), appearance_.inks());
}

const job::Part* SectionView::chosen_part() const {
    return plan_ ? job::find_ref(plan_->job->parts, selection_.options().chosen.toStdString())
                 : nullptr;
}

std::optional<std::size_t> SectionView::boundary_at(QPointF at) const {
    if (!plan_ || !selection_.options().sliding.isEmpty()) return std::nullopt;
    constexpr double near_by = 5; // pixels
    const Scale s = scale_now();
    const auto& sections = plan_->job->hilt.sections;
    const double off = std::abs(at.y() - s.axis) / s.per_mm;
    for (std::size_t i = 0; i < sections.size(); ++i) {
        if (std::abs(s.x(sections[i].to) - at.x()) > near_by) continue;
        double bore = sections[i].bore.value(), outer = sections[i].outer.value();
        if (i + 1 < sections.size()) {
            bore = std::min(bore, sections[i + 1].bore.value());
            outer = std::max(outer, sections[i + 1].outer.value());
        }
        if (off >= bore / 2 && off <= outer / 2 + near_by / s.per_mm) return i;
    }
    return std::nullopt;
}

void SectionView::zoom_to_chosen() {
    if (zoom_before_ > 0) {
        zoom_to(zoom_before_, QPointF(width() / 2.0, height() / 2.0));
        zoom_before_ = 0;
        return;
    }
    for (const HitBox& box : boxes())
        if (box.ref == selection_.options().chosen) {
            zoom_before_ = zoom();
            zoom_to_box(box.box);
            return;
        }
}

void SectionView::take_in_hand(QPointF at) {
    boundary_.reset();
    if (const auto section = boundary_at(at)) {
        in_hand_.reset();
        boundary_ = Boundary{*section, at.x(), plan_->job->hilt.sections[*section].to.value()};
        return;
    }
    const QString ref = ref_at(at);
    selection_.choose(ref);
    in_hand_.reset();
    // What is shown on its way in lies elsewhere than where it is planned.
    if (!selection_.options().sliding.isEmpty()) return;
    if (const job::Part* part = chosen_part())
        in_hand_ = InHand{ref, at, hilt::place_of(*part), false};
}

void SectionView::drag(QPointF at) {
    if (boundary_) {
        const double by = at.x() - boundary_->from_x;
        if (!boundary_->moved && std::abs(by) < 3) return;
        boundary_->moved = true;
        // Whole millimetres; tenths when it is drawn large enough to tell them.
        const double mm = boundary_->was_mm + by / scale_now().per_mm;
        const double step = scale_now().per_mm * zoom() > 12 ? 10 : 1;
        return emit boundary_dragged(boundary_->section, std::round(mm * step) / step);
    }
    if (!in_hand_) return;
    constexpr double still = 4, snaps = 7; // pixels
    const QPointF by = at - in_hand_->from;
    if (!in_hand_->moved && by.manhattanLength() < still) return;
    in_hand_->moved = true;
    const double per_mm = scale_now().per_mm;
    hilt::HandPlace to = in_hand_->was;
    if (QApplication::keyboardModifiers().testFlag(Qt::ControlModifier)) {
        to.turn += Degree(std::round(-by.y()));
    } else {
        to.at += Millimetre(by.x() / per_mm);
        // Across only where it is meant; to the middle it snaps.
        if (std::abs(by.y()) > 2 * still) {
            const double up =
                std::round((in_hand_->was.off_axis.value() - by.y() / per_mm) * 10) / 10;
            to.off_axis = Millimetre(std::abs(up) < 0.5 ? 0 : up);
        }
    }
    emit part_dragged(in_hand_->ref, to, snaps / per_mm);
}

void SectionView::drop() {
    if (boundary_) {
        const bool was_moved = boundary_->moved;
        boundary_.reset();
        if (was_moved) emit boundary_dropped();
        return;
    }
    const bool moved = in_hand_ && in_hand_->moved;
    in_hand_.reset();
    if (moved) emit part_dropped();
}

void SectionView::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    if (key == Qt::Key_Escape &&
        ((in_hand_ && in_hand_->moved) || (boundary_ && boundary_->moved))) {
        in_hand_.reset();
        boundary_.reset();
        return emit drag_given_up();
    }
    if (key == Qt::Key_Z && event->modifiers() == Qt::NoModifier) return zoom_to_chosen();
    if (key == Qt::Key_PageDown || key == Qt::Key_PageUp)
        return step(key == Qt::Key_PageDown ? 1 : -1);
    const bool arrow =
        key == Qt::Key_Left || key == Qt::Key_Right || key == Qt::Key_Up || key == Qt::Key_Down;
    const auto with = event->modifiers() & ~Qt::KeypadModifier;
    const job::Part* part = chosen_part();
    if (arrow && with.testFlag(Qt::AltModifier)) { // the drawing is moved, whatever is chosen
        QKeyEvent pans(QEvent::KeyPress, key, Qt::ShiftModifier);
        return DrawingView::keyPressEvent(&pans);
    }
    if (!arrow || !part) return DrawingView::keyPressEvent(event);
    const double size = with.testFlag(Qt::ShiftModifier) ? 0.1 : 1;
    const double along = key == Qt::Key_Right ? size : key == Qt::Key_Left ? -size : 0;
    const double up = key == Qt::Key_Up ? size : key == Qt::Key_Down ? -size : 0;
    const bool turns = with.testFlag(Qt::ControlModifier);
    emit part_nudged(selection_.options().chosen, turns ? 0 : along, turns ? 0 : up,
                     turns ? along + up : 0);
}

void SectionView::dragEnterEvent(QDragEnterEvent* event) {
    if (plan_ && event->mimeData()->hasFormat(dragged_type)) event->acceptProposedAction();
}

void SectionView::dragMoveEvent(QDragMoveEvent* event) {
    event->acceptProposedAction();
    const Scale s = scale_now();
    emit type_held(QString::fromUtf8(event->mimeData()->data(dragged_type)),
                   (to_drawing(event->position()).x() - s.x0) / s.per_mm);
}

void SectionView::dragLeaveEvent(QDragLeaveEvent*) { emit type_taken_away(); }

void SectionView::dropEvent(QDropEvent* event) {
    if (!plan_) return;
    event->acceptProposedAction();
    const Scale s = scale_now();
    emit type_dropped(QString::fromUtf8(event->mimeData()->data(dragged_type)),
                      (to_drawing(event->position()).x() - s.x0) / s.per_mm);
}

QString SectionView::words_for(const QString& ref) const {
    const std::string r = ref.toStdString();
    const job::Job& job = *plan_->job;
    if (const auto* part = job::find_ref(job.parts, r)) {
        QString words = ref + ": " + QString::fromStdString(plan_->parts->find(part->type)->name);
        if (const auto* c = plan_->fit.of(r))
            words += "\n" + tr("%1 spare in %2")
                                .arg(QString::fromStdString(text(c->spare)),
                                     QString::fromStdString(c->against));
        return words;
    }
    if (const auto* blade = job::find_ref(job.blades, r))
        return ref + ": " +
               tr("blade, %1, %n strip(s)", nullptr, int(blade->strips.size()))
                   .arg(QString::fromStdString(text(blade->length)));
    return ref;
}

void SectionView::step(int by) {
    if (boxes().empty()) return;
    auto order = boxes();
    std::stable_sort(order.begin(), order.end(),
                     [](const HitBox& a, const HitBox& b) { return a.box.left() < b.box.left(); });
    const auto now = std::find_if(order.begin(), order.end(), [&](const HitBox& s) {
        return s.ref == selection_.options().chosen;
    });
    auto i = now == order.end() ? (by > 0 ? -1 : 0) : now - order.begin();
    i = (i + by + std::ssize(order)) % std::ssize(order);
    selection_.choose(order[static_cast<std::size_t>(i)].ref);
}

SectionPane::SectionPane(Selection& selection, const Appearance& appearance, QWidget* parent)
    : QFrame(parent), selection_(selection), appearance_(appearance),
      view_(new SectionView(selection, appearance, this)), whole_(new QWidget(this)),
      ribbon_(new QWidget(this)), look_(new QComboBox(this)), charge_(new QComboBox(this)) {
    setObjectName("paper");
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Long section"), "heading", this));
    head->addSpacing(12);
    for (const OverlayEntry& entry : overlays()) {
        auto* b = new QPushButton(QCoreApplication::translate("Overlay", entry.title), this);
        QString id = words(entry.id);
        id[0] = id[0].toUpper();
        b->setObjectName("overlay" + id);
        b->setToolTip(QCoreApplication::translate("Overlay", entry.help));
        b->setCheckable(true);
        b->setAutoExclusive(true);
        b->setProperty("role", "choice");
        head->addWidget(b);
        connect(b, &QPushButton::clicked, this,
                [this, overlay = entry.overlay] { selection_.overlay(overlay); });
        overlays_.push_back(b);
    }
    head->addStretch();
    mated_ = new QPushButton(this);
    mated_->setObjectName("mated");
    mated_->setToolTip(tr("What stands in each socket now"));
    mated_->setAccessibleName(tr("Mated"));
    mated_->setMenu(new QMenu(mated_));
    mated_->hide();
    head->addWidget(mated_);
    head->addSpacing(8);
    moment_ = label({}, "second", this);
    moment_->setObjectName("sectionMoment");
    head->addWidget(moment_);
    for (QWidget* w :
         {static_cast<QWidget*>(label(tr("Look"), "second", this)), static_cast<QWidget*>(look_),
          static_cast<QWidget*>(label(tr("cell"), "second", this)),
          static_cast<QWidget*>(charge_)}) {
        head->addWidget(w);
        chosen_.push_back(w);
    }
    look_->setObjectName("sectionLook");
    look_->setAccessibleName(tr("Look shown in the section"));
    charge_->setObjectName("sectionCharge");
    charge_->setAccessibleName(tr("Charge shown in the section"));
    charge_->addItems({tr("full"), tr("half full"), tr("at 10 %")});
    const auto fold = [this](const char* object, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(object);
        b->setProperty("role", "link");
        b->setToolTip(tip);
        return b;
    };
    auto* fold_it = fold("foldSection", tr("Fold"), tr("A ribbon, and more room below (F7)"));
    head->addSpacing(6);
    head->addWidget(fold_it);
    auto* column = new QVBoxLayout(whole_);
    column->setContentsMargins(12, 6, 12, 6);
    column->setSpacing(2);
    column->addLayout(head);
    column->addWidget(view_, 1);
    small_ = new DrawingView(
        "sectionRibbon", tr("Long section, in small"), appearance,
        [this]() -> DrawingPtr { return plan_ ? small_section_drawing(plan_) : nullptr; }, ribbon_);
    small_->setMinimumHeight(0);
    small_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Expanding);
    keep_width(small_, appearance, 24);
    worst_ = label({}, "", ribbon_);
    worst_->setObjectName("sectionWorst");
    auto* unfold = fold("unfoldSection", tr("Unfold"), tr("The whole section (F7)"));
    auto* row = new QHBoxLayout(ribbon_);
    row->setContentsMargins(12, 2, 12, 2);
    row->addWidget(label(tr("Long section"), "heading", ribbon_));
    row->addSpacing(10);
    row->addWidget(small_);
    row->addSpacing(10);
    row->addWidget(worst_, 1);
    row->addWidget(unfold);
    ribbon_->hide();
    auto* both = new QVBoxLayout(this);
    both->setContentsMargins(0, 0, 0, 0);
    both->addWidget(whole_);
    both->addWidget(ribbon_);
    connect(fold_it, &QPushButton::clicked, this, [this] { emit fold_wanted(true); });
    connect(unfold, &QPushButton::clicked, this, [this] { emit fold_wanted(false); });
    keep_least_width(look_, appearance, 10);
    keep_least_width(charge_, appearance, 7.5);

    connect(look_, &QComboBox::activated, this,
            [this] { selection_.look_at(look_->currentText()); });
    connect(charge_, &QComboBox::activated, this,
            [this](int i) { selection_.charge_at(static_cast<plan::Charge>(i)); });
    connect(&selection, &Selection::changed, this, &SectionPane::follow);
    follow();
}

void SectionPane::say_drag(const QString& words) {
    if (words.isEmpty()) return follow();
    moment_->setText(words);
    moment_->show();
    for (QWidget* w : chosen_)
        w->hide();
}

void SectionPane::set_folded(bool folded) {
    whole_->setVisible(!folded);
    ribbon_->setVisible(folded);
}

int SectionPane::ribbon_height() const { return qRound(appearance_.text() * 2.9); }

void SectionPane::letter_worst() {
    if (!plan_) return;
    // The figure that is the worst of what each overlay letters.
    static constexpr std::pair<Overlay, const char*> figures[] = {
        {Overlay::body, "tightest-fit"},
        {Overlay::amps, "peak-current"},
        {Overlay::volts, "board-sag"},
        {Overlay::heat, "hottest-part"},
        {Overlay::sound, "first-crackle"}};
    for (const auto& [overlay, id] : figures)
        if (overlay == selection_.options().overlay)
            if (const Explained* e = plan_->figure(id))
                worst_->setText(e->value ? tr("%1, %2").arg(figure_text(*e), words(e->label))
                                         : words(e->reason));
}

void SectionPane::follow() {
    letter_worst();
    const LongSectionOptions& o = selection_.options();
    for (std::size_t i = 0; i < overlays_.size(); ++i)
        overlays_[i]->setChecked(overlays()[i].overlay == o.overlay);
    charge_->setCurrentIndex(static_cast<int>(o.charge));
    moment_->setText(o.moment_words);
    moment_->setVisible(o.moment != nullptr);
    for (QWidget* w : chosen_)
        w->setVisible(!o.moment);
    if (const int i = look_->findText(o.look); i >= 0) look_->setCurrentIndex(i);
}

void SectionPane::offer_mates() {
    const job::Job& job = *plan_->whole;
    mated_->setVisible(job::has_choice(job));
    if (mated_->isHidden()) return;
    const QString text = tr("Mated: %1").arg(words(job::set_text(plan_->mated)));
    mated_->setText(
        mated_->fontMetrics().elidedText(text, Qt::ElideRight, qRound(appearance_.text() * 20)));
    mated_->setAccessibleName(text);
    QMenu* menu = mated_->menu();
    menu->clear();
    for (const job::Mated& m : plan_->mated) {
        const QString socket = words(m.socket);
        menu->addSection(tr("In %1").arg(socket));
        auto mates = job::mates_of(job, m.socket);
        mates.emplace_back();
        for (const std::string& ref : mates) {
            const auto* blade = job::find_ref(job.blades, ref);
            QString said = tr("nothing");
            if (blade)
                said = tr("%1: %2, %3")
                           .arg(words(ref), term(job::word(blade->form)), words(blade->length));
            if (blade && blade->count == job::PixelCount::assumed) said += tr(", assumed");
            QAction* action = menu->addAction(said);
            action->setObjectName("mate:" + socket + ":" + words(ref));
            action->setCheckable(true);
            action->setChecked(ref == m.blade);
            connect(action, &QAction::triggered, this,
                    [this, socket, ref] { emit mate_wanted(socket, words(ref)); });
        }
    }
}

void SectionPane::show_plan(const PlanPtr& plan) {
    QStringList names;
    for (const auto& look : plan->job->looks)
        names << QString::fromStdString(look.name);
    QStringList shown;
    for (int i = 0; i < look_->count(); ++i)
        shown << look_->itemText(i);
    if (names != shown) {
        look_->clear();
        look_->addItems(names);
    }
    if (!names.isEmpty() && !names.contains(selection_.options().look))
        selection_.look_at(plan->job->use.look.empty()
                               ? names.front()
                               : QString::fromStdString(plan->job->use.look));
    plan_ = plan;
    offer_mates();
    follow();
    view_->show_plan(plan);
    small_->redraw();
}

} // namespace conductus::app
