// SPDX-License-Identifier: GPL-3.0-or-later
#include <QBuffer>
#include <QFile>
#include <QFileInfo>
#include <QImage>
#include <QPageSize>
#include <QPdfWriter>
#include <QSvgGenerator>

#include "app/drawing/section_drawing.h"
#include "files/disk.h"

namespace conductus::app {
Result<void> write_picture(const std::function<void(QPainter&, const QRectF&)>& drawing,
                           const QString& title, const QString& path, QSize size,
                           const Inks& inks) {
    const QString ending = QFileInfo(path).suffix().toLower();
    if (ending != "svg" && ending != "png" && ending != "pdf")
        return problem(path.toStdString(), "this ending is no picture", "Write .svg, .png or .pdf");
    const std::filesystem::path place = QFile::encodeName(path).toStdString();
    const files::Content content = ending == "svg"   ? files::Content::svg
                                   : ending == "png" ? files::Content::png
                                                     : files::Content::pdf;
    // Asked before it is drawn.
    if (auto ok = files::output_target(place, content); !ok) return tl::unexpected(ok.error());
    QBuffer file;
    file.open(QIODevice::WriteOnly);
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
        if (!image.save(&file, "PNG"))
            return problem(path.toStdString(), "the picture is too large to be made",
                           "Make it smaller");
    } else {
        QPdfWriter pdf(&file);
        pdf.setResolution(96);
        pdf.setPageSize(QPageSize(QSizeF(size) * 72 / 96, QPageSize::Point));
        pdf.setPageMargins(QMarginsF(0, 0, 0, 0));
        paint(pdf);
    }
    return files::write_output(place, file.data().toStdString(), content);
}

} // namespace conductus::app
