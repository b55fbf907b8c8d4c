// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <optional>

#include "app/drawing/section_drawing.h"

namespace conductus::app {

/// What is looked at: shared by section, pages and findings, never part of the job.
class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    [[nodiscard]] const LongSectionOptions& options() const { return options_; }

    void choose(const QString& ref) { change(options_.chosen, ref); }
    /// Chooses it and shows all of it.
    void open(const QString& ref) {
        choose(ref);
        emit opened(ref);
    }
    void light(const QStringList& refs) { change(options_.lit, refs); }
    void look_at(const QString& look) { change(options_.look, look); }
    void charge_at(plan::Charge charge) { change(options_.charge, charge); }
    /// Shows a moment of a discharge in the section; null: look and charge again.
    void show_moment(std::shared_ptr<const plan::View> view, const QString& words) {
        if (options_.moment == view) return;
        options_.moment = std::move(view);
        options_.moment_words = words;
        emit changed();
    }
    void overlay(Overlay overlay) { change(options_.overlay, overlay); }
    /// Where the hilt lies on the screen, so that what is under the section can lie under its
    /// parts.
    struct Axis {
        double x0 = 0, per_mm = 1; ///< pixels of the window
        bool operator==(const Axis&) const = default;
    };
    [[nodiscard]] const std::optional<Axis>& axis() const { return axis_; }
    void lay_axis(const Axis& axis) { change(axis_, std::optional(axis)); }
    /// Draws a carrier so far before its place; an empty ref: all in place.
    void slide(const QString& carrier, double to_go) {
        if (options_.sliding == carrier && options_.to_go == to_go) return;
        options_.sliding = carrier;
        options_.to_go = to_go;
        emit changed();
    }

    /// Where the meter's probes go; none: they are not drawn.
    void put_probes(const std::vector<Probe>& probes) { change(options_.probes, probes); }

signals:
    void changed();
    void opened(QString ref);

private:
    template <class T>
    void change(T& field, const T& value) {
        if (field == value) return;
        field = value;
        emit changed();
    }
    LongSectionOptions options_;
    std::optional<Axis> axis_;
};

} // namespace conductus::app
