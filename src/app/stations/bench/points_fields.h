// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/session/appearance.h"
#include "core/diagnose/faults.h"

class QCheckBox;
class QComboBox;

namespace conductus::app {

/// What is read, in which state, where both probes are, and whether it is turned meanwhile: one row
/// of fields, to choose from or to type in.
class PointsFields : public QWidget {
    Q_OBJECT
public:
    /// Its fields are called `prefix` and What, State, From, To, Turned.
    PointsFields(const QString& prefix, const Appearance& appearance, QWidget* parent);
    /// One field or button more at the end of the row.
    void add(QWidget* more);

    /// States and points that the readings of a hilt have, in place of those before.
    void fill(const std::vector<diagnose::Candidate>& readings,
              const QStringList& more_states = {});
    void show(const diagnose::Measure& measure, bool turned);
    [[nodiscard]] diagnose::Measure measure() const;
    [[nodiscard]] bool turned() const;

signals:
    void chosen();  ///< somebody chose something else, or finished typing it
    void touched(); ///< somebody types

private:
    void follow();
    QComboBox *what_, *state_, *from_, *to_;
    QCheckBox* turned_;
    bool typed_ = false; ///< a field was typed in and not left yet
};

} // namespace conductus::app
