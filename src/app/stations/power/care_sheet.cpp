// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/power/care_sheet.h"

#include <QComboBox>
#include <QLabel>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/places.h"

namespace conductus::app {
namespace {

/// "33 days", "5 months", "4 years".
QString long_time(double days) {
    if (days < 1.5) return CareSheet::tr("%1 hours").arg(days * 24, 0, 'f', 0);
    if (days < 60) return CareSheet::tr("%1 days").arg(days, 0, 'f', 0);
    if (days < 730) return CareSheet::tr("%1 months").arg(days / 30.4, 0, 'f', 0);
    return CareSheet::tr("%1 years").arg(days / 365.25, 0, 'f', 1);
}

/// The charge at which each look first crackles, and the advice that follows.
QString percents_said(const std::vector<power::Percent>& percents) {
    QStringList lines;
    if (const Message advice = power::advice(percents); !advice.empty())
        lines << words(advice) + ".";
    for (const power::Percent& p : percents) {
        const QString look = words(p.look);
        if (p.at_once)
            lines << CareSheet::tr("%1: not clean with a full cell.").arg(look);
        else if (!p.crackle)
            lines << CareSheet::tr("%1: clean until it is off, after %2.")
                         .arg(look, words(duration(p.clean)));
        else
            lines << CareSheet::tr("%1: crackles after %2, with %3 % of the charge left.")
                         .arg(look, words(duration(p.clean)))
                         .arg(*p.crackle * 100, 0, 'f', 0);
    }
    return lines.join("\n");
}

} // namespace

CareSheet::CareSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto body = [](const char* object, QWidget* on) {
        auto* l = label({}, "second", on);
        l->setObjectName(object);
        l->setWordWrap(true);
        l->setTextInteractionFlags(Qt::TextSelectableByMouse);
        return l;
    };
    auto [charge, charge_column] = paper(tr("Charging"), tr("empty cells at 20 °C"), this);
    charger_ = new QComboBox(charge);
    charger_->setObjectName("charger");
    charger_->setAccessibleName(tr("Charger"));
    charger_->addItem(tr("not chosen"), QString());
    for (const auto* type : context.session.parts().all<catalogue::Charger>())
        charger_->addItem(words(type->name), words(type->id));
    auto* row = new QHBoxLayout;
    row->addWidget(label(tr("Charged with"), "second", charge));
    row->addWidget(charger_);
    row->addStretch();
    charging_ = body("chargingSaid", charge);
    faults_ = label({}, "refused", charge);
    faults_->setObjectName("chargingFaults");
    faults_->setWordWrap(true);
    charge_column->addLayout(row);
    charge_column->addWidget(charging_);
    charge_column->addWidget(faults_);
    auto [store, store_column] = paper(tr("In storage"), tr("from full until flat"), this);
    storage_ = body("storageSaid", store);
    store_column->addWidget(storage_);
    auto [change, change_column] =
        paper(tr("When to change the cell"), tr("on the board's own gauge, lit"), this);
    percents_ = body("percentsSaid", change);
    change_column->addWidget(percents_);
    auto [care, care_column] = paper(tr("Cautions"), {}, this);
    cautions_ = body("cautionsSaid", care);
    care_column->addWidget(cautions_);
    care_column->addStretch();
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(charge);
    all->addWidget(store);
    all->addWidget(change);
    all->addWidget(care, 1);
    connect(charger_, &QComboBox::activated, this, [this] {
        context_.session.change(
            tr("Charge with %1").arg(charger_->currentText()),
            job::write_at("/charger", charger_->currentData().toString().toStdString()));
    });
}

void CareSheet::show_job() {
    charger_->setCurrentIndex(
        std::max(0, charger_->findData(words(context_.session.job().charger))));
}

void CareSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    QStringList cautions;
    for (const findings::Finding& f : plan->findings)
        if (f.id == "cell.lithium-cautions") cautions << words(f.detail);
    cautions
        << tr("Cells out of the hilt lie in a case, ends covered, cool and half full if it is "
              "for long. The cell bay is marked plus and minus, and whoever changes cells is "
              "shown which way round.")
        << tr("Charging in the hilt is for protected cells and a port made for it alone; the "
              "hilt lies open and on something that does not burn, and somebody stays with it.");
    cautions_->setText(cautions.join("\n\n"));
    percents_->setText(percents_said(plan->percents));
    context_.session.ask(plan::UseLivedThrough{}, this,
                         [this](const StudyPtr& study) { show_study(study); });
}

void CareSheet::show_study(const StudyPtr& study) {
    if (!*study) {
        storage_->setText(words(study->error()));
        charging_->clear();
        faults_->clear();
        return;
    }
    const power::Charging& c = (*study)->charging;
    if (c.charger.empty()) {
        charging_->setText(tr("Choose the charger the owner will use: the time it takes and what "
                              "must not be charged with it are then told."));
    } else {
        charging_->setText(tr("%1: %2 at %3, then %4 at 4.20 V a cell, %5 in all.")
                               .arg(c.in_hilt ? tr("In the hilt") : tr("Taken out"))
                               .arg(words(duration(c.constant_current)), words(text(c.current)),
                                    words(duration(c.constant_voltage)),
                                    words(duration(c.minutes()))));
    }
    QStringList faults;
    for (const power::ChargeFault& f : c.faults)
        faults << QString::fromUtf8("■ %1. %2").arg(words(f.text), words(f.mend));
    faults_->setText(faults.join("\n"));
    faults_->setVisible(!faults.isEmpty());
    const power::Storage& s = (*study)->storage;
    auto micro = [](Ampere a) { return words(with_unit(a.value() * 1e6, "µA")); };
    QString said =
        tr("In deep sleep %1 flow: flat after %2.").arg(micro(s.asleep), long_time(s.asleep_days));
    said += "\n" + (s.has_kill ? tr("With the kill open %1: flat after %2.")
                                     .arg(micro(s.killed), long_time(s.killed_days))
                               : tr("There is no kill: only pulling the cell stops that."));
    said += "\n" + tr("Taken out it loses %1 % a month by itself: flat after %2.")
                       .arg(s.self_a_day * 3000, 0, 'g', 2)
                       .arg(long_time(s.pulled_days));
    storage_->setText(said);
}

} // namespace conductus::app
