// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <QThreadPool>
#include <filesystem>
#include <functional>
#include <map>

#include "app/session/session.h"
#include "core/bench/characterise.h"
#include "shop/book.h"

namespace conductus::app {

/// The parts of the shop: what ships with the program and, over it, the shop's own as its book has
/// them. Every change is in the book at once.
class OwnShelf : public QObject {
    Q_OBJECT
public:
    explicit OwnShelf(CataloguePtr given, QObject* parent = nullptr);
    ~OwnShelf() override;

    /// Reads the parts of a book. Error: as of shop::Book; what was read before stays.
    Result<void> read(const std::filesystem::path& book);

    [[nodiscard]] const std::filesystem::path& book_path() const { return path_; }
    [[nodiscard]] const catalogue::Catalogue& parts() const { return *parts_; }
    [[nodiscard]] bool is_own(const std::string& id) const { return own_.contains(id); }
    /// 0 for a part that is none of the shop's own.
    [[nodiscard]] int version(const std::string& id) const;
    /// All of them, oldest first.
    [[nodiscard]] Result<std::vector<shop::OwnPart>> versions(const std::string& id) const;
    /// Names of the jobs that use a part; nothing until they have been counted.
    [[nodiscard]] std::optional<QStringList> used_in(const std::string& id) const;

    /// An id that no part has: "own.cell-2".
    [[nodiscard]] std::string free_id(const catalogue::PartType& like) const;
    /// Keeps a part; returns its version. `in_place_of`: as of Book::keep_own_part(). Error: it can
    /// not be, names what is not there, or the book can not be written.
    Result<int> keep(const catalogue::PartType& type, int in_place_of = 0);
    Result<void> drop(const std::string& id);

    /// The readings a part was last measured by, as a table; empty: none.
    [[nodiscard]] std::string readings_of(const std::string& id) const;
    Result<void> keep_readings(const std::string& id, const std::string& csv);

    /// Finds what the readings say of a part, in the background, and tells it; of several questions
    /// the newest counts.
    using Tell = std::function<void(const Result<bench::Characterised>& found)>;
    void characterise(bench::Specimen specimen, const bench::Readings& readings,
                      const std::string& like, Tell tell);

    /// Parts of a JSON or CSV file, all of them or none; returns their names. Errors: what the file
    /// says that can not be, with its line; a part that ships with the program is called so.
    Result<QStringList> take_in(const std::filesystem::path& file);
    /// Writes parts as JSON, or as CSV where the file is called so.
    [[nodiscard]] Result<void> write_out(const std::filesystem::path& file,
                                         const std::vector<std::string>& ids) const;
    /// The shop's own, in the order of the catalogue.
    [[nodiscard]] std::vector<std::string> own_ids() const;

signals:
    void changed();
    void counted(); ///< used_in() is known

private:
    [[nodiscard]] Result<shop::Book> book() const;
    void follow();
    void count_uses();
    CataloguePtr given_, parts_;
    std::filesystem::path path_;
    std::map<std::string, shop::OwnPart> own_;
    std::optional<std::map<std::string, std::vector<std::string>>> uses_;
    QThreadPool pool_, bench_;
    int asked_ = 0; ///< questions to the bench
};

} // namespace conductus::app
