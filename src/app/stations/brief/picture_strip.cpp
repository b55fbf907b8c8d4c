// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/picture_strip.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QDialog>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QImageReader>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/job/limits.h"

namespace conductus::app {
namespace {

constexpr int longest_side = 1600;

QByteArray encoded(const QImage& image, const char* format, int quality) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, format, quality);
    return bytes;
}

QImage image_of(const files::Attachment& picture) {
    return QImage::fromData(reinterpret_cast<const uchar*>(picture.bytes.data()),
                            static_cast<int>(picture.bytes.size()));
}

} // namespace

std::optional<files::Attachment> picture_to_keep(QImage image) {
    if (image.isNull()) return std::nullopt;
    if (std::max(image.width(), image.height()) > longest_side)
        image =
            image.scaled(longest_side, longest_side, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    QByteArray bytes = encoded(image, "PNG", -1);
    // Drawings stay exact; photographs become smaller.
    for (const int quality : {88, 70, 45})
        if (bytes.size() > 400'000) bytes = encoded(image, "JPEG", quality);
    if (bytes.isEmpty() || static_cast<std::size_t>(bytes.size()) > job::limits::picture_bytes)
        return std::nullopt;
    const std::string text = bytes.toStdString();
    return files::Attachment{*files::picture_type(text), text};
}

PictureStrip::PictureStrip(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setAcceptDrops(true);
    list_ = new QListWidget(this);
    list_->setObjectName("pictures");
    list_->setAccessibleName(tr("Pictures; drop or paste more"));
    list_->setViewMode(QListView::IconMode);
    list_->setMovement(QListView::Static);
    list_->setResizeMode(QListView::Adjust);
    list_->setSpacing(4);
    list_->installEventFilter(this);
    list_->setMinimumHeight(qRound(context.appearance.text() * 5));
    note_ = label({}, "refused", this);
    note_->setObjectName("pictureRefusal");
    note_->setWordWrap(true);
    note_->hide();
    auto* add = new QPushButton(tr("Add a picture"), this);
    add->setObjectName("addPicture");
    remove_ = new QPushButton(tr("Take it out"), this);
    remove_->setObjectName("removePicture");
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(add);
    buttons->addWidget(remove_);
    buttons->addWidget(label(tr("or drop, or paste"), "second", this));
    buttons->addStretch();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(list_, 1);
    column->addWidget(note_);
    column->addLayout(buttons);
    connect(add, &QPushButton::clicked, this, [this] {
        const QStringList paths = QFileDialog::getOpenFileNames(
            this, tr("Add pictures"), {}, tr("Pictures (*.png *.jpg *.jpeg)"), nullptr,
            QFileDialog::DontUseNativeDialog);
        for (const QString& path : paths)
            take_file(path);
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (list_->currentRow() >= 0) emit removed(list_->currentRow());
    });
    connect(list_, &QListWidget::itemActivated, this, [this] { open_large(list_->currentRow()); });
}

void PictureStrip::show_pictures(const std::vector<job::Picture>& pictures) {
    remove_->setVisible(!pictures.empty());
    list_->setVisible(!pictures.empty());
    if (pictures == shown_ && list_->count() == static_cast<int>(pictures.size())) return;
    shown_ = pictures;
    note_->hide();
    list_->clear();
    const int side = qRound(context_.appearance.text() * 6);
    list_->setIconSize({side, side});
    for (const job::Picture& picture : pictures) {
        const auto kept = context_.session.attachment(picture.id);
        auto* item = new QListWidgetItem(QString::fromStdString(picture.caption), list_);
        if (kept) {
            item->setIcon(QPixmap::fromImage(image_of(*kept).scaled(
                side * 2, side * 2, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
        } else {
            item->setText(words(kept.error().what));
        }
        item->setToolTip(item->text());
    }
}

void PictureStrip::refuse(const QString& why) {
    note_->setText(why);
    note_->show();
}

void PictureStrip::take_image(QImage image, const QString& caption) {
    if (shown_.size() >= job::limits::pictures_each)
        return refuse(tr("There are %1 pictures of this item already. Take one out first.")
                          .arg(job::limits::pictures_each));
    const auto picture = picture_to_keep(std::move(image));
    if (!picture)
        return refuse(tr("This picture can not be kept. Save it as PNG or JPEG and try again."));
    note_->hide();
    emit added(QString::fromStdString(files::content_id(picture->bytes)), *picture, caption);
}

void PictureStrip::take_file(const QString& path) {
    QImageReader reader(path);
    reader.setAutoTransform(true);
    const QImage image = reader.read();
    if (image.isNull())
        return refuse(tr("%1 is no picture: %2. Save it as PNG or JPEG.")
                          .arg(QFileInfo(path).fileName(), reader.errorString()));
    take_image(image, QFileInfo(path).completeBaseName());
}

bool PictureStrip::take(const QMimeData* what) {
    if (what->hasUrls()) {
        for (const QUrl& url : what->urls())
            take_file(url.toLocalFile());
        return true;
    }
    if (!what->hasImage()) return false;
    take_image(qvariant_cast<QImage>(what->imageData()), tr("pasted"));
    return true;
}

bool PictureStrip::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->matches(QKeySequence::Paste) && take(QApplication::clipboard()->mimeData()))
            return true;
        if (key->key() == Qt::Key_Delete && list_->currentRow() >= 0) {
            emit removed(list_->currentRow());
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void PictureStrip::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() || event->mimeData()->hasImage())
        event->acceptProposedAction();
}

void PictureStrip::dropEvent(QDropEvent* event) {
    if (take(event->mimeData())) event->acceptProposedAction();
}

void PictureStrip::open_large(int index) {
    if (index < 0 || index >= static_cast<int>(shown_.size())) return;
    const job::Picture& picture = shown_[static_cast<std::size_t>(index)];
    const auto kept = context_.session.attachment(picture.id);
    if (!kept) return refuse(words(kept.error()));
    auto* window = new QDialog(this);
    window->setAttribute(Qt::WA_DeleteOnClose);
    window->setWindowTitle(QString::fromStdString(picture.caption));
    auto* image = new QLabel(window);
    image->setPixmap(QPixmap::fromImage(
        image_of(*kept).scaled(960, 680, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
    image->setAccessibleName(window->windowTitle());
    (new QVBoxLayout(window))->addWidget(image);
    window->open();
}

} // namespace conductus::app
