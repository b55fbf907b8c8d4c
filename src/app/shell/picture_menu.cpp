// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/picture_menu.h"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QMessageBox>
#include <QPainter>

#include "app/drawing/section_drawing.h"
#include "app/session/words.h"

namespace conductus::app {
namespace {

QString say(const char* text) { return QApplication::translate("Picture", text); }

QImage image_of(QWidget* drawing) {
    QImage image(drawing->size() * 2, QImage::Format_RGB32); // sharp on paper as well
    image.setDevicePixelRatio(2);
    image.fill(Qt::white);
    drawing->render(&image);
    return image;
}

} // namespace

Result<void> save_picture(QWidget* drawing, const QString& path, const Inks& inks) {
    return write_picture(
        [drawing](QPainter& p, const QRectF& frame) {
            drawing->render(&p, frame.topLeft().toPoint());
        },
        drawing->accessibleName(), path, drawing->size() + QSize(20, 12), inks);
}

void offer_picture(QWidget* drawing, const Appearance& appearance) {
    if (drawing->focusPolicy() == Qt::NoFocus) drawing->setFocusPolicy(Qt::ClickFocus);
    drawing->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* copy = new QAction(say(QT_TRANSLATE_NOOP("Picture", "Copy the drawing")), drawing);
    copy->setObjectName("copyDrawing");
    copy->setShortcut(QKeySequence::Copy);
    copy->setShortcutContext(Qt::WidgetShortcut);
    auto* save = new QAction(say(QT_TRANSLATE_NOOP("Picture", "Save the drawing…")), drawing);
    save->setObjectName("saveDrawing");
    drawing->addActions({copy, save});
    QObject::connect(copy, &QAction::triggered, drawing,
                     [drawing] { QApplication::clipboard()->setImage(image_of(drawing)); });
    QObject::connect(save, &QAction::triggered, drawing, [drawing, &appearance] {
        const QString path = QFileDialog::getSaveFileName(
            drawing->window(), say(QT_TRANSLATE_NOOP("Picture", "Save the drawing")),
            drawing->accessibleName().toLower().replace(' ', '-') + ".svg",
            say(QT_TRANSLATE_NOOP("Picture", "Pictures (*.svg *.pdf *.png)")));
        if (path.isEmpty()) return;
        if (const auto ok = save_picture(drawing, path, appearance.inks()); !ok)
            QMessageBox::warning(drawing->window(), say(QT_TRANSLATE_NOOP("Picture", "Not saved")),
                                 words(ok.error().text()));
    });
}

} // namespace conductus::app
