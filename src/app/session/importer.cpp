// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/importer.h"

#include <QPointer>

namespace conductus::app {

Importer::Importer(CataloguePtr parts, QObject* parent)
    : QObject(parent), parts_(std::move(parts)) {
    pool_.setMaxThreadCount(1);
}

Importer::~Importer() {
    stop();
    pool_.waitForDone();
}

void Importer::stop() {
    if (stop_) *stop_ = true;
}

bool Importer::take_in(const std::filesystem::path& book, const std::filesystem::path& path) {
    if (busy_) return false;
    busy_ = true;
    stop_ = std::make_shared<std::atomic<bool>>(false);
    pool_.start([self = QPointer(this), parts = parts_, stop = stop_, book, path] {
        const auto tell = [&](auto&& what) {
            // With the receiver gone nobody is told; the book is as it is.
            if (self) QMetaObject::invokeMethod(self.data(), std::forward<decltype(what)>(what));
        };
        int told = -1;
        // Reading is one half, writing the other.
        double from = 0;
        const files::GoOn go_on = [&](double share) {
            const int percent = static_cast<int>(100 * (from + share / 2));
            if (percent > told) {
                told = percent;
                tell([self, percent] {
                    if (self) emit self->progressed(percent);
                });
            }
            return !stop->load();
        };
        const auto passed = [&]() -> Result<shop::Passed> {
            std::error_code error;
            if (std::filesystem::equivalent(path, book, error))
                return problem(files::path_text(path), "this is the book itself",
                               "Name another one");
            auto all = shop::read_import(path, *parts, go_on);
            if (!all) return tl::unexpected(all.error());
            auto open = shop::Book::open(book, shop::Access::read_write);
            if (!open) return tl::unexpected(open.error());
            from = 0.5;
            shop::Passed done;
            done.jobs = all->size();
            done.as_they_are = shop::as_they_are(*all);
            auto names = open->add_whole(std::move(*all), go_on);
            if (!names) return tl::unexpected(names.error());
            done.names = std::move(*names);
            if (auto shelf = shop::take_in_shelf(*open, path, *parts); !shelf)
                return tl::unexpected(shelf.error());
            return done;
        }();
        tell([self, passed] {
            if (self) self->finish(passed);
        });
    });
    return true;
}

void Importer::finish(const Result<shop::Passed>& passed) {
    busy_ = false;
    if (passed) return emit taken_in(*passed);
    if (passed.error().cause == Cause::stopped) return emit stopped();
    emit refused(passed.error());
}

} // namespace conductus::app
