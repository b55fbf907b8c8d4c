// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/points_fields.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <set>
#include <utility>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"

namespace conductus::app {
namespace {

constexpr job::Reads readable[] = {job::Reads::volts, job::Reads::amps, job::Reads::ohms,
                                   job::Reads::pixels};

bool has_two_probes(job::Reads what) {
    return what == job::Reads::volts || what == job::Reads::ohms;
}

void set_text(QComboBox* combo, const std::string& text) {
    const int at = combo->findText(words(text));
    if (at >= 0)
        combo->setCurrentIndex(at);
    else
        combo->setEditText(words(text));
}

} // namespace

PointsFields::PointsFields(const QString& prefix, const Appearance& appearance, QWidget* parent)
    : QWidget(parent) {
    auto* row = new FlowLayout(8, 4);
    row->setContentsMargins(0, 0, 0, 0);
    setLayout(row);
    const auto combo = [&](const char* object, const QString& name, bool typed, double letters) {
        auto* c = new QComboBox(this);
        c->setObjectName(prefix + object);
        c->setAccessibleName(name);
        c->setEditable(typed);
        c->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        keep_least_width(c, appearance, letters);
        connect(c, &QComboBox::activated, this, [this] {
            follow();
            emit chosen();
        });
        if (QLineEdit* line = c->lineEdit()) {
            connect(line, &QLineEdit::textEdited, this, [this] {
                typed_ = true;
                emit touched();
            });
            connect(line, &QLineEdit::editingFinished, this, [this] {
                if (std::exchange(typed_, false)) emit chosen();
            });
        }
        return c;
    };
    what_ = combo("What", tr("What is read"), false, 6);
    for (const job::Reads r : readable)
        what_->addItem(term(job::word(r)), static_cast<int>(r));
    state_ = combo("State", tr("In which state"), true, 8);
    from_ = combo("From", tr("Red probe"), true, 7.5);
    to_ = combo("To", tr("Black probe"), true, 7.5);
    turned_ = new QCheckBox(tr("while turned"), this);
    turned_->setObjectName(prefix + "Turned");
    connect(turned_, &QCheckBox::clicked, this, &PointsFields::chosen);
    row->addWidget(what_);
    row->addWidget(grouped(tr("in"), state_, {}, this));
    row->addWidget(grouped(tr("1"), from_, {}, this));
    row->addWidget(grouped(tr("2"), to_, {}, this));
    row->addWidget(turned_);
}

void PointsFields::add(QWidget* more) { layout()->addWidget(more); }

void PointsFields::fill(const std::vector<diagnose::Candidate>& readings,
                        const QStringList& more_states) {
    QStringList states;
    std::set<QString> points;
    for (const diagnose::Candidate& c : readings) {
        if (!states.contains(words(c.measure.state))) states << words(c.measure.state);
        for (const std::string& t : {c.measure.from, c.measure.to})
            if (!t.empty()) points.insert(words(t));
    }
    for (const QString& state : more_states)
        if (!states.contains(state)) states << state;
    const diagnose::Measure now = measure();
    for (QComboBox* c : {state_, from_, to_})
        c->clear();
    state_->addItems(states);
    for (const QString& t : points) {
        from_->addItem(t);
        to_->addItem(t);
    }
    if (!now.from.empty()) show(now, turned());
}

void PointsFields::show(const diagnose::Measure& m, bool turned) {
    what_->setCurrentIndex(std::max(0, what_->findData(static_cast<int>(m.what))));
    set_text(state_, m.state);
    set_text(from_, m.from);
    if (!m.to.empty()) set_text(to_, m.to);
    turned_->setChecked(turned);
    follow();
}

void PointsFields::follow() {
    to_->setEnabled(has_two_probes(static_cast<job::Reads>(what_->currentData().toInt())));
}

diagnose::Measure PointsFields::measure() const {
    const auto what = static_cast<job::Reads>(what_->currentData().toInt());
    return {what, state_->currentText().toStdString(), from_->currentText().toStdString(),
            has_two_probes(what) ? to_->currentText().toStdString() : std::string()};
}

bool PointsFields::turned() const { return turned_->isChecked(); }

} // namespace conductus::app
