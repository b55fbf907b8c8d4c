// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/part_drawing.h"

#include <algorithm>

#include "app/drawing/marks.h"
#include "app/drawing/section_parts.h"
#include "app/session/words.h"
#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"

namespace conductus::app {
namespace {

/// One solid of the body: along from its start, across from the middle.
struct Piece {
    bool round;
    double from, length, width, height, up, side; // mm
};

std::vector<Piece> pieces_of(const catalogue::Body& body) {
    using Shape = catalogue::Body::Shape;
    std::vector<Piece> all;
    if (body.shape != Shape::compound) {
        const bool round = body.shape == Shape::cylinder;
        const double w = (round ? body.diameter : body.width).value();
        const double h = (round ? body.diameter : body.height).value();
        all.push_back({round, 0, body.length.value(), w, h, 0, 0});
        return all;
    }
    for (const catalogue::BodyPiece& p : body.pieces) {
        const bool round = p.shape == Shape::cylinder;
        all.push_back({round, p.from.value(), p.length.value(),
                       (round ? p.diameter : p.width).value(),
                       (round ? p.diameter : p.height).value(), p.up.value(), p.side.value()});
    }
    return all;
}

/// Where a board's card is drawn and its data port is plugged: a bar at that edge with its word.
void paint_edges(QPainter& p, const catalogue::Board& board, const QRectF& body, double text,
                 const Inks& inks) {
    using Edge = catalogue::Board::Edge;
    const auto mark = [&](Edge edge, const QString& word, double along) {
        if (edge == Edge::none) return;
        const double thick = text * 0.35, room = text * 1.4;
        const double high = std::max(body.height() * 0.5, text * 0.5);
        const double wide = std::min(body.width() * 0.3, text * 2.5);
        QRectF bar;
        QPointF foot; // of the word
        Qt::Alignment side = Qt::AlignHCenter;
        switch (edge) {
        case Edge::start:
        case Edge::end: {
            const double x =
                edge == Edge::start ? body.left() - thick / 2 : body.right() - thick / 2;
            bar = QRectF(x, body.center().y() - high / 2, thick, high);
            foot = {edge == Edge::start ? body.left() + room * 2 : body.right() - room * 2,
                    body.top() - text * 0.35};
            side = edge == Edge::start ? Qt::AlignLeft : Qt::AlignRight;
            break;
        }
        default: {
            const double x = body.left() + body.width() * along - wide / 2;
            const double y = edge == Edge::side ? body.top() - thick / 2 : body.center().y();
            bar = QRectF(x, y, wide, thick);
            foot = {x + wide / 2, body.top() - text * 0.35};
        }
        }
        p.setPen(Qt::NoPen);
        p.setBrush(inks.petrol);
        p.drawRect(bar);
        p.setPen(inks.petrol);
        p.drawText(QRectF(foot.x() - room * 2, foot.y() - text, room * 4, text),
                   side | Qt::AlignBottom, word);
    };
    const bool same = board.card == board.port;
    mark(board.card, same ? PartDrawing::tr("card, port") : PartDrawing::tr("card"), 0.35);
    if (!same) mark(board.port, PartDrawing::tr("port"), 0.65);
}

} // namespace

void paint_part_in_row(QPainter& p, const QRectF& box, const catalogue::PartType& type,
                       double per_mm, const Inks& inks) {
    const double axis = box.center().y();
    for (const Piece& piece : pieces_of(type.body)) {
        const double x0 = box.left() + piece.from * per_mm;
        if (x0 >= box.right() - 2) continue;
        const bool broken = x0 + piece.length * per_mm > box.right();
        const double x1 = std::min(x0 + piece.length * per_mm, box.right());
        const double y0 = std::max(axis - (piece.up + piece.height / 2) * per_mm, box.top());
        const double y1 = std::min(axis - (piece.up - piece.height / 2) * per_mm, box.bottom());
        const QRectF body(QPointF(x0, y0), QPointF(x1, std::max(y1, y0 + 1)));
        p.setPen(Qt::NoPen);
        p.setBrush(fill_of(type, inks));
        p.drawRect(body);
        p.setPen(QPen(inks.ink, 1));
        p.setBrush(Qt::NoBrush);
        p.drawLine(body.topLeft(), body.topRight());
        p.drawLine(body.bottomLeft(), body.bottomRight());
        p.drawLine(body.topLeft(), body.bottomLeft());
        if (!broken)
            p.drawLine(body.topRight(), body.bottomRight());
        else
            p.drawPolyline(QPolygonF{body.topRight(),
                                     {x1 - 3, body.top() + body.height() * 0.35},
                                     {x1, body.top() + body.height() * 0.65},
                                     {x1 - 3, body.bottom()}});
    }
}

QSizeF PartDrawing::size(double lettering) const { return {lettering * 30, lettering * 12}; }

std::vector<HitBox> PartDrawing::paint(const Surface& on) const {
    const auto pieces = pieces_of(type_.body);
    double length = 0, left = 0, right = 0, low = 0, high = 0;
    for (const Piece& piece : pieces) {
        length = std::max(length, piece.from + piece.length);
        left = std::min(left, piece.side - piece.width / 2);
        right = std::max(right, piece.side + piece.width / 2);
        low = std::min(low, piece.up - piece.height / 2);
        high = std::max(high, piece.up + piece.height / 2);
    }
    if (!(length > 0) || !(right > left) || !(high > low)) {
        paint_words(on, tr("%1 has no body of its own.").arg(words(type_.name)));
        return {};
    }
    const InFrame corner(on);
    QPainter& p = on.p;
    const double text = on.lettering, width = on.frame.width(), height = on.frame.height();
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(drawing_font(text));
    // Side view at the left, seen from its end at the right, both at one scale.
    const double gap = text * 3, below = text * 2.4, beside = text * 4.5;
    const auto* board = std::get_if<catalogue::Board>(&type_.figures);
    const bool edges = board && (board->card != catalogue::Board::Edge::none ||
                                 board->port != catalogue::Board::Edge::none);
    const double above = edges ? text * 1.6 : 0; // the words of card and port
    const double scale = std::min((width - gap - beside - 16) / (length + right - left),
                                  (height - above - below - 10) / (high - low));
    const double drawn = (length + right - left) * scale + gap;
    const double x0 = std::max(8.0, (width - drawn - beside) / 2);
    const double axis =
        above + high * scale + std::max(4.0, (height - above - (high - low) * scale - below) / 2);
    const double end_x = x0 + length * scale + gap - left * scale;
    p.setPen(QPen(on.inks.ink, 1.2));
    p.setBrush(fill_of(type_, on.inks));
    for (const Piece& piece : pieces) {
        const double h = piece.height * scale, w = piece.width * scale;
        const double y = axis - piece.up * scale - h / 2;
        p.drawRect(QRectF(x0 + piece.from * scale, y, piece.length * scale, h));
        const QRectF face(end_x + piece.side * scale - w / 2, y, w, h);
        piece.round ? p.drawEllipse(face) : p.drawRect(face);
    }
    if (edges)
        paint_edges(p, *board,
                    QRectF(x0, axis - high * scale, length * scale, (high - low) * scale), text,
                    on.inks);
    QPen centre(on.inks.second, 0.8, Qt::CustomDashLine);
    centre.setDashPattern({12, 4, 3, 4});
    p.setPen(centre);
    p.drawLine(QPointF(x0 - 6, axis), QPointF(x0 + length * scale + 6, axis));
    const double foot = axis - low * scale;
    const auto mm = [](double value) { return words(Millimetre(value)); };
    paint_dimension(p, {x0, foot + below * 0.6}, {x0 + length * scale, foot + below * 0.6},
                    mm(length), on.inks.ink, on.inks);
    paint_dimension(
        p, {end_x + left * scale, foot + below * 0.6}, {end_x + right * scale, foot + below * 0.6},
        (pieces.size() == 1 && pieces.front().round ? QString::fromUtf8("ø ") : QString()) +
            mm(right - left),
        on.inks.ink, on.inks);
    if (pieces.size() > 1 || !pieces.front().round) {
        // Its words stand beside the line: clear of the body, however low that is.
        const double x = end_x + right * scale + text * 0.9;
        paint_dimension(p, {x, axis - high * scale}, {x, foot}, {}, on.inks.ink, on.inks);
        p.setPen(on.inks.ink);
        p.drawText(
            QRectF(x + text * 0.4, axis - (high + low) / 2 * scale - text, text * 5, text * 2),
            Qt::AlignLeft | Qt::AlignVCenter, mm(high - low));
    }
    return {};
}

QString PartDrawing::description() const {
    return tr("%1: %2, %3 long")
        .arg(words(type_.name), words(catalogue::deciding_text(type_)), words(type_.body.length));
}

} // namespace conductus::app
