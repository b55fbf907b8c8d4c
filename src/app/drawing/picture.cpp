// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFileInfo>
#include <QImage>
#include <QPageSize>
#include <QPdfWriter>
#include <QSaveFile>
#include <QSvgGenerator>

#include "app/drawing/section_drawing.h"

namespace conductus::app {
namespace {

Result<void> not_written(const QString& path, const QString& why) {
    return problem(path.toStdString(), "the picture can not be written: " + why.toStdString(),
                   "Choose a folder that may be written");
}

} // namespace

Result<void> write_picture(const std::function<void(QPainter&, const QRectF&)>& drawing,
                           const QString& title, const QString& path, QSize size,
                           const Inks& inks) {
    const QString ending = QFileInfo(path).suffix().toLower();
    if (ending != "svg" && ending != "png" && ending != "pdf")
        return problem(path.toStdString(), "this ending is no picture", "Write .svg, .png or .pdf");
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly)) return not_written(path, file.errorString());
    const QRectF frame(QPointF(0, 0), QSizeF(size));
    auto paint = [&](QPaintDevice& device) {
        QPainter p(&device);
        p.fillRect(frame, inks.paper);
        drawing(p, frame.adjusted(10, 6, -10, -6));
    };
    if (ending == "svg") {
        QSvgGenerator svg;
        svg.setOutputDevice(&file);
        svg.setSize(size);
        svg.setViewBox(frame);
        svg.setTitle(title);
        paint(svg);
    } else if (ending == "png") {
        QImage image(size * 2, QImage::Format_RGB32);
        image.setDevicePixelRatio(2);
        paint(image);
        if (!image.save(&file, "PNG")) return not_written(path, file.errorString());
    } else {
        QPdfWriter pdf(&file);
        pdf.setResolution(96);
        pdf.setPageSize(QPageSize(QSizeF(size) * 72 / 96, QPageSize::Point));
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        paint(pdf);
    }
    if (!file.commit()) return not_written(path, file.errorString());
    return {};
}

} // namespace conductus::app
