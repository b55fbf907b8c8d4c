// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/commands_drawing.h"

#include <QFontMetricsF>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

/// Draws signs one after the other, from the left.
class Signs {
public:
    Signs(QPainter& p, const QRectF& box, const Inks& inks)
        : p_(p), inks_(inks), middle_(box.center().y()), at_(box.left()),
          unit_(std::min(box.height() * 0.62, 15.0)) {}

    void button(const QString& letter) {
        p_.setFont(page_font(unit_ * 0.78, true));
        const double wide = std::max(unit_, QFontMetricsF(p_.font()).horizontalAdvance(letter) + 6);
        const QRectF box(at_, middle_ - unit_ / 2, wide, unit_);
        p_.setPen(QPen(inks_.ink, 1.1));
        p_.setBrush(Qt::NoBrush);
        p_.drawRect(box);
        p_.drawText(box, Qt::AlignCenter, letter);
        at_ += wide + unit_ * 0.35;
    }
    void dots(int many) {
        p_.setPen(Qt::NoPen);
        p_.setBrush(inks_.ink);
        const double r = unit_ * 0.17;
        for (int i = 0; i < many; ++i) {
            p_.drawEllipse(QPointF(at_ + r, middle_), r, r);
            at_ += r * 2 + unit_ * 0.2;
        }
        at_ += unit_ * 0.2;
    }
    /// A bar as long as it is held; its seconds beside it.
    void bar(double seconds) {
        const double wide = unit_ * std::clamp(0.9 + 0.5 * seconds, 1.0, 2.6);
        p_.setPen(Qt::NoPen);
        p_.setBrush(inks_.ink);
        p_.drawRect(QRectF(at_, middle_ - unit_ * 0.15, wide, unit_ * 0.3));
        at_ += wide + unit_ * 0.3;
        words(QStringLiteral("%1 s").arg(seconds));
    }
    void words(const QString& text) {
        p_.setFont(page_font(unit_ * 0.8));
        p_.setPen(inks_.second);
        const double wide = QFontMetricsF(p_.font()).horizontalAdvance(text) + 2;
        p_.drawText(QRectF(at_, middle_ - unit_, wide, unit_ * 2), Qt::AlignVCenter, text);
        at_ += wide + unit_ * 0.2;
    }
    /// A button that stays down while the next goes down.
    void over() {
        p_.setPen(QPen(inks_.ink, 1.4));
        const double y = middle_ + unit_ * 0.3;
        p_.drawLine(QPointF(at_ - unit_ * 0.25, y), QPointF(at_ + unit_ * 0.35, y));
        p_.setBrush(inks_.ink);
        p_.setPen(Qt::NoPen);
        p_.drawEllipse(QPointF(at_ + unit_ * 0.05, middle_ - unit_ * 0.1), unit_ * 0.14,
                       unit_ * 0.14);
        at_ += unit_ * 0.6;
    }

    void motion(job::Motion motion, job::Side side) {
        const double u = unit_, x = at_, y = middle_;
        p_.setPen(QPen(inks_.petrol, 1.5));
        p_.setBrush(Qt::NoBrush);
        QPainterPath path;
        switch (motion) {
        case job::Motion::twist: // round the hilt's axis
            path.arcMoveTo(QRectF(x, y - u * 0.45, u * 0.9, u * 0.9), 200);
            path.arcTo(QRectF(x, y - u * 0.45, u * 0.9, u * 0.9), 200, -220);
            break;
        case job::Motion::swing: // the tip goes across
            path.moveTo(x, y + u * 0.4);
            path.quadTo(x + u * 0.2, y - u * 0.5, x + u, y - u * 0.3);
            break;
        case job::Motion::thrust:
            path.moveTo(x, y);
            path.lineTo(x + u, y);
            break;
        case job::Motion::tap:
            path.moveTo(x + u * 0.5, y - u * 0.45);
            path.lineTo(x + u * 0.5, y + u * 0.3);
            p_.drawLine(QPointF(x + u * 0.1, y + u * 0.45), QPointF(x + u * 0.9, y + u * 0.45));
            break;
        case job::Motion::roll: // end over end
            path.addEllipse(QPointF(x + u * 0.45, y), u * 0.42, u * 0.2);
            break;
        case job::Motion::none:
            return;
        }
        p_.drawPath(path);
        if (motion != job::Motion::roll) head(path);
        at_ += u * 1.2;
        if (side != job::Side::either) words(term(job::word(side)));
    }

    /// A wedge whose tip is the blade's.
    void attitude(job::Attitude attitude) {
        if (attitude == job::Attitude::any) return;
        const double turn = attitude == job::Attitude::up     ? -70
                            : attitude == job::Attitude::down ? 70
                                                              : 0;
        p_.save();
        p_.translate(at_ + unit_ * 0.45, middle_);
        p_.rotate(turn);
        p_.setPen(QPen(inks_.ink, 1));
        p_.setBrush(inks_.blade);
        p_.drawPolygon(QPolygonF({{-unit_ * 0.5, -unit_ * 0.13},
                                  {unit_ * 0.2, -unit_ * 0.13},
                                  {unit_ * 0.5, 0},
                                  {unit_ * 0.2, unit_ * 0.13},
                                  {-unit_ * 0.5, unit_ * 0.13}}));
        p_.restore();
        at_ += unit_ * 1.2;
    }
    [[nodiscard]] double at() const { return at_; }

private:
    void head(const QPainterPath& path) {
        const QPointF end = path.pointAtPercent(1), before = path.pointAtPercent(0.85);
        const double way = std::atan2(end.y() - before.y(), end.x() - before.x());
        const double s = unit_ * 0.28;
        const auto corner = [&](double turn) {
            return end - s * QPointF(std::cos(way + turn), std::sin(way + turn));
        };
        p_.setBrush(inks_.petrol);
        p_.drawPolygon(QPolygonF({end, corner(0.5), corner(-0.5)}));
    }

    QPainter& p_;
    const Inks& inks_;
    double middle_, at_, unit_;
};

QString letter_of(const std::string& button, const std::vector<handling::HandButton>& buttons) {
    const auto* known = job::find_ref(buttons, button);
    return words(known ? known->letter : button);
}

std::size_t index_of(const std::vector<job::HandState>& states, const std::string& name) {
    const auto* s = job::find_name(states, name);
    return s ? static_cast<std::size_t>(s - states.data()) : states.size();
}

/// The map as it is printed.
class CommandsDrawing : public Drawing {
public:
    explicit CommandsDrawing(PlanPtr plan)
        : plan_(std::move(plan)), handled_(plan::handled(*plan_->whole, *plan_->parts)) {}

    [[nodiscard]] QSizeF size(double lettering) const override {
        const auto states = static_cast<double>(map().states.size());
        return {lettering * (28 + std::max(14.0, states * 7)),
                row(lettering) * static_cast<double>(map().commands.size() + 2)};
    }

    std::vector<HitBox> paint(const Surface& on) const override {
        if (map().commands.empty()) {
            paint_words(on, QObject::tr("No command was entered yet."));
            return {};
        }
        const InFrame frame(on);
        QPainter& p = on.p;
        p.setRenderHint(QPainter::Antialiasing);
        const double h = row(on.lettering), width = on.frame.width();
        const double signs = on.lettering * 11, names = on.lettering * 13;
        const QRectF lines(signs + names, 0, width - signs - names - on.lettering * 4, h);
        paint_state_names(p, lines, map().states, on.inks);
        std::vector<HitBox> spots;
        for (std::size_t i = 0; i < map().commands.size(); ++i) {
            const job::Command& c = map().commands[i];
            const QRectF all(0, h * static_cast<double>(i + 1), width, h);
            paint_trigger(p, QRectF(4, all.top(), signs - 8, h), c.trigger, handled_.buttons,
                          on.inks);
            p.setFont(page_font(on.lettering));
            p.setPen(on.inks.ink);
            p.drawText(
                QRectF(signs, all.top(), names, h), Qt::AlignVCenter,
                QFontMetricsF(p.font()).elidedText(words(c.name), Qt::ElideRight, names - 6));
            paint_command_lines(p, lines.translated(0, all.top()), c, map().states, on.inks);
            p.setFont(page_font(on.lettering * 0.8));
            p.setPen(clashes(i) ? on.inks.stop : on.inks.second);
            p.drawText(QRectF(lines.right(), all.top(), on.lettering * 4, h),
                       Qt::AlignVCenter | Qt::AlignRight,
                       clashes(i)           ? QObject::tr("two things")
                       : c.tried_on.empty() ? QObject::tr("untried")
                                            : QString());
            spots.push_back({words(c.name), all.translated(on.frame.topLeft())});
        }
        p.setFont(page_font(on.lettering * 0.85));
        p.setPen(on.inks.second);
        QStringList legend;
        for (const handling::HandButton& b : handled_.buttons)
            legend << QStringLiteral("%1 %2").arg(words(b.letter), words(b.place));
        p.drawText(QRectF(4, h * static_cast<double>(map().commands.size() + 1), width - 8, h),
                   Qt::AlignVCenter, legend.join(QStringLiteral(" · ")));
        return spots;
    }

    [[nodiscard]] QString description() const override {
        QStringList all;
        for (const job::Command& c : map().commands)
            all << QObject::tr("%1, %2: %3, to %4")
                       .arg(words(c.state), words(plan::told_trigger(c.trigger, handled_.buttons)),
                            words(c.name), words(c.leads.empty() ? c.state : c.leads));
        return all.join(QStringLiteral("; "));
    }

private:
    [[nodiscard]] const job::Handling& map() const { return plan_->whole->handling; }
    [[nodiscard]] bool clashes(std::size_t i) const {
        return std::any_of(handled_.conflicts.begin(), handled_.conflicts.end(),
                           [&](auto& c) { return c.one == i || c.other == i; });
    }
    static double row(double lettering) { return lettering * 1.9; }
    PlanPtr plan_;
    plan::Handled handled_;
};

} // namespace

double paint_trigger(QPainter& p, const QRectF& box, const job::Trigger& t,
                     const std::vector<handling::HandButton>& buttons, const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    Signs signs(p, box, inks);
    for (std::size_t i = 0; i < t.buttons.size(); ++i) {
        signs.button(letter_of(t.buttons[i].button, buttons));
        if (i + 1 < t.buttons.size()) signs.over();
    }
    if (t.press == job::Press::press && t.motion == job::Motion::none) signs.dots(1);
    if (t.press == job::Press::twice) signs.dots(2);
    if (t.press == job::Press::three_times) signs.dots(3);
    if (t.press == job::Press::hold) signs.bar(t.held.value());
    signs.motion(t.motion, t.side);
    signs.attitude(t.attitude);
    p.restore();
    return signs.at() - box.left();
}

double line_of_state(const QRectF& box, std::size_t state, std::size_t states) {
    const double each = box.width() / static_cast<double>(std::max<std::size_t>(1, states));
    return box.left() + each * (static_cast<double>(state) + 0.5);
}

void paint_command_lines(QPainter& p, const QRectF& box, const job::Command& c,
                         const std::vector<job::HandState>& states, const Inks& inks) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(inks.hair, 1));
    for (std::size_t s = 0; s < states.size(); ++s) {
        const double x = line_of_state(box, s, states.size());
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
    }
    const std::size_t from = index_of(states, c.state);
    const std::size_t to = c.leads.empty() ? from : index_of(states, c.leads);
    if (from < states.size() && to < states.size()) {
        const double y = box.center().y(), a = line_of_state(box, from, states.size()),
                     b = line_of_state(box, to, states.size());
        p.setPen(QPen(inks.petrol, 1.6));
        if (from == to) {
            p.setBrush(inks.petrol);
            p.drawEllipse(QPointF(a, y), 4, 4);
        } else {
            const double way = b > a ? 1 : -1;
            p.drawLine(QPointF(a + way * 3, y), QPointF(b - way * 2, y));
            p.setBrush(inks.paper);
            p.drawEllipse(QPointF(a, y), 3.2, 3.2);
            p.setBrush(inks.petrol);
            p.setPen(Qt::NoPen);
            p.drawPolygon(QPolygonF({{b, y}, {b - way * 8, y - 3.6}, {b - way * 8, y + 3.6}}));
        }
    }
    p.restore();
}

void paint_state_names(QPainter& p, const QRectF& box, const std::vector<job::HandState>& states,
                       const Inks& inks) {
    p.save();
    p.setPen(inks.hair);
    p.drawLine(box.bottomLeft(), box.bottomRight());
    p.setFont(page_font(std::min(13.0, box.height() * 0.5), true));
    p.setPen(inks.ink);
    const double each = box.width() / static_cast<double>(std::max<std::size_t>(1, states.size()));
    for (std::size_t s = 0; s < states.size(); ++s) {
        const double x = line_of_state(box, s, states.size());
        const QString name =
            QFontMetricsF(p.font()).elidedText(words(states[s].name), Qt::ElideRight, each - 4);
        p.drawText(QRectF(x - each / 2, box.top(), each, box.height()), Qt::AlignCenter, name);
    }
    p.restore();
}

DrawingPtr commands_drawing(PlanPtr plan) {
    return std::make_shared<const CommandsDrawing>(std::move(plan));
}

} // namespace conductus::app
