// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QListWidget>

#include "app/stations/station_page.h"

class QLabel;
class QMimeData;
class QPushButton;

namespace conductus::app {

/// Pictures of an inspected item: dropped, pasted or chosen; made small enough to keep.
class PictureStrip : public QWidget {
    Q_OBJECT
public:
    PictureStrip(const PageContext& context, QWidget* parent);
    void show_pictures(const std::vector<job::Picture>& pictures);

signals:
    void added(QString id, conductus::files::Attachment picture, QString caption);
    void removed(int index);

protected:
    bool eventFilter(QObject*, QEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

private:
    bool take(const QMimeData* what);
    void take_file(const QString& path);
    void take_image(QImage image, const QString& caption);
    void refuse(const QString& why);
    void open_large(int index);
    PageContext context_;
    QListWidget* list_;
    QLabel* note_;
    QPushButton* remove_;
    std::vector<job::Picture> shown_;
};

/// A picture no longer than 1600 pixels a side and within the book's bound, as PNG where that is
/// small, else as JPEG. Empty where the image is.
std::optional<files::Attachment> picture_to_keep(QImage image);

} // namespace conductus::app
