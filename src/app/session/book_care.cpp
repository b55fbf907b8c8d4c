// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/book_care.h"

#include <QCoreApplication>
#include <QDate>
#include <QPointer>

#include "shop/backup.h"
#include "shop/book.h"

namespace conductus::app {

BookCare::BookCare(QObject* parent) : QObject(parent) {
    pool_.setMaxThreadCount(1);
    hourly_.setInterval(60 * 60 * 1000);
    connect(&hourly_, &QTimer::timeout, this, &BookCare::work);
}

BookCare::~BookCare() { pool_.waitForDone(); }

void BookCare::look_after(const std::filesystem::path& book) {
    if (book_ == book) return;
    book_ = book;
    hourly_.start();
    work();
}

void BookCare::work() {
    const std::string day = QDate::currentDate().toString(Qt::ISODate).toStdString();
    pool_.start([care = QPointer(this), path = book_, day] {
        auto tell = [&](auto signal, auto... what) {
            QMetaObject::invokeMethod(qApp, [care, signal, what...] {
                if (care) emit(care->*signal)(what...);
            });
        };
        const auto sound = [&]() -> Result<void> {
            auto book = shop::Book::open(path, shop::Access::read_only);
            if (!book) return tl::unexpected(book.error());
            return book->verify();
        }();
        // A damaged book is not copied over sound backups.
        if (!sound) return tell(&BookCare::damaged, sound.error());
        if (const auto made = shop::back_up_daily(path, day); !made)
            return tell(&BookCare::not_backed_up, made.error());
        tell(&BookCare::looked_after);
    });
}

} // namespace conductus::app
