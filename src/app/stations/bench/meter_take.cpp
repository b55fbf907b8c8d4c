// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/meter_take.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QPushButton>

#include "app/session/words.h"
#include "core/diagnose/words.h"

namespace conductus::app {

MeterTake::MeterTake(BenchWork& work, const QString& object, const QString& idle, QWidget* parent)
    : QWidget(parent), work_(work), idle_(idle) {
    button_ = new QPushButton(idle, this);
    button_->setObjectName(object);
    by_itself_ = new QCheckBox(tr("by itself when steady"), this);
    by_itself_->setObjectName(object + "ByItself");
    by_itself_->setToolTip(tr("Once the probes were lifted and stand at their new place"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(button_);
    row->addWidget(by_itself_);
    connect(button_, &QPushButton::clicked, this, &MeterTake::take);
    connect(by_itself_, &QCheckBox::toggled, &work, &BenchWork::set_takes_by_itself);
    connect(&work, &BenchWork::takes_by_itself_changed, by_itself_, &QCheckBox::setChecked);
    connect(&work.meter(), &MeterLink::changed, this, &MeterTake::follow);
    connect(&work, &BenchWork::probes_put, this, &MeterTake::follow);
    follow();
}

void MeterTake::take() {
    if (!work_.is_for_the_meter()) return;
    if (const auto now = work_.meter().reading()) {
        work_.was_taken(*now);
        emit taken(*now);
    }
}

void MeterTake::follow() {
    setVisible(work_.meter().is_wanted()); // with no meter the room is for the readings
    const auto now = work_.is_for_the_meter() ? work_.meter().reading() : std::nullopt;
    button_->setEnabled(now.has_value());
    button_->setText(now ? tr("Take %1%2")
                               .arg(words(diagnose::value_words(work_.meter().measures(), *now)),
                                    work_.meter().is_steady() ? tr(", steady") : QString())
                         : idle_);
    if (now && isVisible() && work_.may_take_by_itself()) take();
}

} // namespace conductus::app
