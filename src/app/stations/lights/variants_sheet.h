// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/session/newest.h"
#include "app/stations/station_page.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace conductus::app {

/// The looks of two ways of building, one above the other.
class VariantsView : public QWidget {
    Q_OBJECT
public:
    VariantsView(const PageContext& context, QWidget* parent);
    /// Either may be null.
    void show_plans(const PlanPtr& now, const PlanPtr& other);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    [[nodiscard]] std::vector<std::string> names() const;
    PageContext context_;
    PlanPtr now_, other_;
};

/// Ways of building the same job, kept to compare: blades, amps, and the difference in words.
class VariantsSheet : public StationPage {
    Q_OBJECT
public:
    VariantsSheet(const PageContext& context, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void plan_other();
    void show_both();
    QComboBox* which_;
    QLineEdit* name_;
    QPushButton *keep_, *take_, *drop_;
    QLabel *refused_, *none_, *words_;
    VariantsView* view_;
    PlanPtr plan_, other_;
    Newest<PlanPtr> others_;
};

} // namespace conductus::app
