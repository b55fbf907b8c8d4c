// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/parts/own_shelf.h"

#include <QApplication>
#include <QPointer>
#include <algorithm>
#include <fmt/format.h>

#include "app/session/words.h"
#include "core/catalogue/kinds.h"
#include "core/job/part_form.h"
#include "files/catalogue_json.h"
#include "files/disk.h"
#include "files/parts_csv.h"

namespace conductus::app {

OwnShelf::OwnShelf(CataloguePtr given, QObject* parent)
    : QObject(parent), given_(std::move(given)), parts_(given_) {
    pool_.setMaxThreadCount(1);
    bench_.setMaxThreadCount(1);
}

OwnShelf::~OwnShelf() {
    for (QThreadPool* pool : {&pool_, &bench_}) {
        pool->clear();
        pool->waitForDone();
    }
}

Result<shop::Book> OwnShelf::book() const {
    return shop::Book::open(path_, shop::Access::read_write);
}

Result<void> OwnShelf::read(const std::filesystem::path& path) {
    path_ = path;
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    auto own = opened->own_parts();
    if (!own) return tl::unexpected(own.error());
    // Of the book's parts those on the shelf: a definition that only jobs are planned with is none.
    catalogue::Catalogue with = *given_;
    std::vector<std::pair<catalogue::PartType, std::string>> types;
    for (const shop::OwnPart& part : *own)
        if (auto type = files::parse_part(part.definition, part.id))
            types.emplace_back(std::move(*type), part.definition);
    std::stable_partition(types.begin(), types.end(), [](const auto& t) {
        return std::holds_alternative<catalogue::Pixel>(t.first.figures);
    });
    own_.clear();
    for (auto& [type, definition] : types) {
        const std::string id = type.id;
        if (!with.set_own(std::move(type), std::move(definition))) continue; // verify() tells
        for (shop::OwnPart& part : *own)
            if (part.id == id) own_.emplace(id, std::move(part));
    }
    parts_ = std::make_shared<const catalogue::Catalogue>(std::move(with));
    uses_.reset();
    count_uses();
    emit changed();
    return {};
}

void OwnShelf::count_uses() {
    pool_.clear();
    pool_.start([shelf = QPointer(this), path = path_] {
        auto opened = shop::Book::open(path, shop::Access::read_only);
        auto uses = opened ? opened->uses_of_parts() : tl::unexpected(opened.error());
        QMetaObject::invokeMethod(qApp, [shelf, path, uses] {
            if (!shelf || !uses || shelf->path_ != path) return;
            shelf->uses_ = *uses;
            emit shelf->counted();
        });
    });
}

int OwnShelf::version(const std::string& id) const {
    const auto it = own_.find(id);
    return it == own_.end() ? 0 : it->second.version;
}

Result<std::vector<shop::OwnPart>> OwnShelf::versions(const std::string& id) const {
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    return opened->versions_of(id);
}

std::optional<QStringList> OwnShelf::used_in(const std::string& id) const {
    if (!uses_) return std::nullopt;
    QStringList names;
    if (const auto it = uses_->find(id); it != uses_->end())
        for (const std::string& name : it->second)
            names << words(name);
    return names;
}

std::string OwnShelf::free_id(const catalogue::PartType& like) const {
    for (int n = 1;; ++n) {
        const std::string id = fmt::format("own.{}-{}", catalogue::kind_of(like.figures).key, n);
        if (parts_->find(id)) continue;
        // One that was taken off keeps its name: jobs may still be planned with it.
        const auto before = versions(id);
        if (!before || before->empty()) return id;
    }
}

Result<int> OwnShelf::keep(const catalogue::PartType& type, int in_place_of) {
    if (auto ok = job::check_type(type); !ok) return tl::unexpected(ok.error());
    const std::string text = files::part_text(type);
    catalogue::Catalogue with = *parts_;
    if (auto ok = with.set_own(type, text); !ok) return tl::unexpected(ok.error());
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    auto kept = opened->keep_own_part(text, in_place_of);
    if (!kept) return tl::unexpected(kept.error());
    const int version = kept->version;
    own_[type.id] = std::move(*kept);
    parts_ = std::make_shared<const catalogue::Catalogue>(std::move(with));
    emit changed();
    return version;
}

Result<void> OwnShelf::drop(const std::string& id) {
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    if (auto ok = opened->drop_own_part(id); !ok) return ok;
    return read(path_);
}

std::string OwnShelf::readings_of(const std::string& id) const {
    auto opened = book();
    if (!opened) return {};
    return opened->readings_of(id).value_or("");
}

Result<void> OwnShelf::keep_readings(const std::string& id, const std::string& csv) {
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    return opened->keep_readings(id, csv);
}

void OwnShelf::characterise(bench::Specimen specimen, const bench::Readings& readings,
                            const std::string& like, Tell tell) {
    bench_.clear();
    const int question = ++asked_;
    bench_.start(
        [shelf = QPointer(this), question, specimen, readings, like, tell, parts = parts_] {
            auto found = bench::characterise(specimen, readings, *parts, like);
            QMetaObject::invokeMethod(qApp, [shelf, question, tell, found = std::move(found)] {
                if (shelf && shelf->asked_ == question) tell(found);
            });
        });
}

Result<QStringList> OwnShelf::take_in(const std::filesystem::path& file) {
    const auto text = files::read_text(file);
    if (!text) return tl::unexpected(text.error());
    auto types = files::read_parts(*text, files::path_text(file.filename()));
    if (!types) return tl::unexpected(types.error());
    // Classes of pixels first: others name them.
    std::stable_partition(types->begin(), types->end(), [](const catalogue::PartType& type) {
        return std::holds_alternative<catalogue::Pixel>(type.figures);
    });
    catalogue::Catalogue with = *parts_;
    for (const catalogue::PartType& type : *types)
        if (auto ok = with.set_own(type, files::part_text(type)); !ok) {
            Problem why = ok.error();
            why.where = files::path_text(file.filename()) + ", " + type.id;
            return tl::unexpected(std::move(why));
        }
    auto opened = book();
    if (!opened) return tl::unexpected(opened.error());
    QStringList names;
    for (const catalogue::PartType& type : *types) {
        auto kept = opened->keep_own_part(files::part_text(type));
        if (!kept) return tl::unexpected(kept.error());
        names << words(type.name);
    }
    if (auto ok = read(path_); !ok) return tl::unexpected(ok.error());
    return names;
}

Result<void> OwnShelf::write_out(const std::filesystem::path& file,
                                 const std::vector<std::string>& ids) const {
    std::vector<catalogue::PartType> types;
    for (const std::string& id : ids)
        if (const auto* type = parts_->find(id)) types.push_back(*type);
    const bool table = file.extension() == ".csv";
    return files::write_output(file, table ? files::parts_csv(types) : files::catalogue_text(types),
                               table ? files::Content::text : files::Content::other);
}

std::vector<std::string> OwnShelf::own_ids() const {
    std::vector<std::string> ids;
    for (const std::string& id : parts_->ids())
        if (own_.contains(id)) ids.push_back(id);
    return ids;
}

} // namespace conductus::app
