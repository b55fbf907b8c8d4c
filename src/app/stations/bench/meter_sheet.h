// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/bench/bench_work.h"
#include "app/table/table.h"
#include "app/table/writer.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;

namespace conductus::app {

/// The meter on its cable: how it is reached, what it understands, what it reads now.
class MeterSheet : public StationPage {
    Q_OBJECT
public:
    MeterSheet(const PageContext& context, BenchWork& work, QWidget* parent);
    void show_job() override;
    void show_plan(const PlanPtr& plan) override;

private:
    void refresh();
    void say(const QString& words);
    [[nodiscard]] meter::Dialect typed_dialect(bool& good);
    BenchWork& work_;
    QLineEdit* address_;
    QComboBox *ports_, *dialects_, *reads_;
    QPushButton *join_, *stand_in_;
    QLabel *state_, *reading_, *refused_;
    QPlainTextEdit* log_;
    Table* words_;
    DraftWriter<std::vector<meter::DialectWord>> writer_;
};

} // namespace conductus::app
