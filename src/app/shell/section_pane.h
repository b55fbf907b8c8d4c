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

namespace conductus::app {

/// The drawing itself: hover names a part, a click or the arrow keys choose one.
class SectionView : public DrawingView {
    Q_OBJECT
public:
    SectionView(Selection& selection, const Appearance& appearance, QWidget* parent);
    void show_plan(const PlanPtr& plan);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] QString words_for(const QString& ref) const;
    void step(int by);
    void follow();
    Selection& selection_;
    PlanPtr plan_;
};

/// Long section with its overlays and what look and charge they are for.
class SectionPane : public QFrame {
    Q_OBJECT
public:
    SectionPane(Selection& selection, const Appearance& appearance, QWidget* parent = nullptr);
    void show_plan(const PlanPtr& plan);
    [[nodiscard]] SectionView* view() const { return view_; }
    /// Folded it is a ribbon: the hilt in small, and the worst of what the overlay letters.
    void set_folded(bool folded);
    [[nodiscard]] int ribbon_height() const;

signals:
    void fold_wanted(bool folded);

private:
    void follow();
    void letter_worst();
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
    std::vector<QWidget*> chosen_; ///< what chooses look and charge
};

} // namespace conductus::app
