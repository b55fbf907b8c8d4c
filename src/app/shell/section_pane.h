// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QComboBox>
#include <QFrame>
#include <QPushButton>
#include <vector>

#include "app/session/appearance.h"
#include "app/session/selection.h"
#include "app/session/session.h"
#include "app/shell/drawing_view.h"
#include "core/hilt/drag.h"

namespace conductus::app {

/// The drawing itself: hover names a part, a click or Page Up and Page Down choose one. A part is
/// dragged along and across the hilt, turned with Ctrl, and moved by the arrow keys: 1 mm, with
/// Shift a tenth.
class SectionView : public DrawingView {
    Q_OBJECT
public:
    SectionView(Selection& selection, const Appearance& appearance, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    /// To the chosen part, as large as it goes, and back to what was in sight before.
    void zoom_to_chosen();

signals:
    /// A boundary between sections, by its section from the pommel, as it is dragged; let go.
    void boundary_dragged(std::size_t section, double mm);
    void boundary_dropped();
    /// Where a hand has the part now; nothing is changed yet.
    void part_dragged(QString ref, conductus::hilt::HandPlace to, double snap_mm);
    void part_dropped();
    void drag_given_up();
    /// A type of the catalogue is held over a place, or let go there: its middle, mm.
    void type_held(QString type, double middle_mm);
    void type_dropped(QString type, double middle_mm);
    void type_taken_away();
    void part_nudged(QString ref, double along_mm, double up_mm, double turn_deg);

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    [[nodiscard]] QString words_for(const QString& ref) const;
    void step(int by);
    void follow();
    void take_in_hand(QPointF at);
    void drag(QPointF at);
    void drop();
    [[nodiscard]] const job::Part* chosen_part() const;
    [[nodiscard]] Scale scale_now() const;
    /// The part in hand, and where both were when it was taken.
    struct InHand {
        QString ref;
        QPointF from;
        hilt::HandPlace was;
        bool moved = false;
    };
    std::optional<InHand> in_hand_;
    /// The section whose far end is drawn there on the wall; nothing: none.
    [[nodiscard]] std::optional<std::size_t> boundary_at(QPointF at) const;
    struct Boundary {
        std::size_t section;
        double from_x, was_mm;
        bool moved = false;
    };
    std::optional<Boundary> boundary_;
    double zoom_before_ = 0; ///< 0: it was not zoomed to a part
    Selection& selection_;
    PlanPtr plan_;
};

/// What a dragged type of the catalogue is called in what is dragged.
inline constexpr const char* dragged_type = "application/x-conductus-part-type";

/// Long section with its overlays and what look and charge they are for.
class SectionPane : public QFrame {
    Q_OBJECT
public:
    SectionPane(Selection& selection, const Appearance& appearance, QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] SectionView* view() const { return view_; }
    /// Folded it is a ribbon: the hilt in small, and the worst of what the overlay letters.
    void set_folded(bool folded);
    /// Said while a part is dragged, in place of look and charge; empty: they are there again.
    void say_drag(const QString& words);
    [[nodiscard]] int ribbon_height() const;

signals:
    void fold_wanted(bool folded);
    /// What is to stand in a socket; empty: nothing.
    void mate_wanted(const QString& socket, const QString& blade);

private:
    void follow();
    void letter_worst();
    void offer_mates();
    Selection& selection_;
    const Appearance& appearance_;
    SectionView* view_;
    PlanPtr plan_;
    QWidget *whole_, *ribbon_;
    DrawingView* small_;
    QLabel* worst_;
    std::vector<QPushButton*> overlays_; ///< as in the list of overlays
    QComboBox *look_, *charge_;
    QLabel* moment_;
    QPushButton* mated_;           ///< hidden where there is no choice
    std::vector<QWidget*> chosen_; ///< what chooses look and charge
};

} // namespace conductus::app
