// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/newest.h"
#include "app/stations/station_page.h"
#include "app/table/explained_table.h"
#include "core/plan/why.h"

class QComboBox;
class QLabel;

namespace conductus::app {

using WhyPtr = std::shared_ptr<const Result<plan::Why>>;

/// What one tenth more of each input does to a figure, as bars from a middle line.
class TenthsPicture : public QWidget {
    Q_OBJECT
public:
    TenthsPicture(const PageContext& context, QWidget* parent);
    void show_why(WhyPtr why);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] double row_height() const { return context_.appearance.text() * 1.75; }
    PageContext context_;
    WhyPtr why_;
};

/// A figure opened: its parts with formula and sources, and what would change it most.
class WhySheet : public StationPage {
    Q_OBJECT
public:
    WhySheet(const PageContext& context, QWidget* parent);
    void show_plan(const PlanPtr& plan) override;

private:
    void ask();
    void show_why(const WhyPtr& why);
    QComboBox* figure_;
    QLabel *title_, *formula_;
    ExplainedTable* parts_;
    TenthsPicture* tenths_;
    PlanPtr plan_;
    Newest<WhyPtr> newest_;
};

} // namespace conductus::app
