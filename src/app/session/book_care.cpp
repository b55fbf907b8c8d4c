// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/book_care.h"

#include <QCoreApplication>
#include <QDate>
#include <QPointer>

#include "shop/backup.h"
#include "shop/book.h"

namespace conductus::app {

BookCare::BookCare(CataloguePtr parts, QObject* parent)
    : QObject(parent), parts_(std::move(parts)) {
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
    pool_.start([care = QPointer(this), path = book_, parts = parts_, day] {
        auto tell = [&](auto signal, auto... what) {
            QMetaObject::invokeMethod(qApp, [care, signal, what...] {
                if (care) emit(care->*signal)(what...);
            });
        };
        // An older book has no own parts in it yet; its copies shall have them. What stands in the
        // way of that is said of the copy as well.
        if (auto book = shop::Book::open(path, shop::Access::read_write))
            (void)book->adopt_parts(*parts);
        // A damaged book is not copied over sound backups.
        if (const auto made = shop::back_up_daily(path, day); !made)
            return tell(made.error().cause == Cause::damaged ? &BookCare::damaged
                                                             : &BookCare::not_backed_up,
                        made.error());
        tell(&BookCare::looked_after);
    });
}

} // namespace conductus::app
