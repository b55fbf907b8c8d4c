// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of one's own through everything they pass: form, book, export, import, form.
#include <fmt/format.h>
#include <random>

#include "core/catalogue/kinds.h"
#include "core/job/part_form.h"
#include "files/catalogue_json.h"
#include "files/parts_csv.h"
#include "shop/book.h"
#include "shop/transfer.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;
using catalogue::PartType;

/// A person who fills in a form: every field something that it may be.
class Typist {
public:
    explicit Typist(unsigned seed) : random_(seed) {}

    /// `changes`: how many values are another than those of the part it is copied from.
    PartType some(std::size_t kind, int number, std::size_t& changes) {
        // From a copy of a part that there is.
        std::vector<const PartType*> like;
        for (const std::string& id : parts().ids())
            if (parts().find(id)->figures.index() == kind) like.push_back(parts().find(id));
        const PartType& copied = *like.at(random_() % like.size());
        PartType type = copied;
        for (int lists = 0; lists < 3; ++lists)
            for (const job::FormList& list : job::form_of(type, parts()).lists)
                if (random_() % 3 == 0)
                    if (auto with = job::with_one_more(type, list.at)) type = *with;
        // Twice: what one word brings is typed in the second round.
        for (int round = 0; round < 2; ++round)
            for (const job::FormField& field : job::form_of(type, parts()).fields)
                if (auto with = job::with_typed(type, field.at, typed(field)); with)
                    type = std::move(*with);
        changes = job::differences(copied, type).size();
        type.id = fmt::format("own.{}-{}", catalogue::kinds()[kind].key, number);
        return type;
    }

private:
    std::string typed(const job::FormField& field) {
        if (!field.choices.empty()) return field.choices[random_() % field.choices.size()];
        if (field.at.ends_with("/colour")) return std::string(1, "RGBW"[random_() % 4]);
        if (field.may_be.empty())
            return fmt::format("{}{}", words_[random_() % 4], random_() % 900);
        const double value = std::stod(field.typed) * (0.3 + 0.01 * double(random_() % 200));
        const bool whole = field.typed.find('.') == std::string::npos && field.unit.empty();
        return whole ? fmt::format("{:.0f}", value) : fmt::format("{:.7g}", value);
    }
    std::mt19937 random_;
    std::array<const char*, 4> words_{"board, \"third\" ", "=weiß;", "a\tb ", "plain "};
};

TEST(PartsRound, AHundredPartsOfEveryKindSurviveFormBookExportImportForm) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book) << book.error().text();
    for (std::size_t kind = 0; kind < catalogue::kinds().size(); ++kind) {
        SCOPED_TRACE(std::string(catalogue::kinds()[kind].key));
        Typist typist(static_cast<unsigned>(kind));
        std::vector<PartType> made;
        int changed = 0;
        for (int i = 0; i < 100; ++i) {
            std::size_t changes = 0;
            made.push_back(typist.some(kind, i, changes));
            ASSERT_TRUE(job::check_type(made.back()))
                << job::check_type(made.back()).error().text();
            changed += changes >= 5;
        }
        EXPECT_GT(changed, 90);
        // Into the book and out again. A book writes to the disk each time, so a tenth is enough.
        std::vector<PartType> of_book;
        for (int i = 0; i < 100; i += 10) {
            const auto kept = book->keep_own_part(files::part_text(made[std::size_t(i)]));
            ASSERT_TRUE(kept) << kept.error().text();
        }
        const auto own = book->own_parts();
        ASSERT_TRUE(own);
        for (int i = 0; i < 100; i += 10)
            for (const OwnPart& part : *own)
                if (part.id == made[std::size_t(i)].id) {
                    const auto back = files::parse_part(part.definition, "part");
                    ASSERT_TRUE(back) << back.error().text();
                    EXPECT_EQ(*back, made[std::size_t(i)]);
                    of_book.push_back(*back);
                }
        EXPECT_EQ(of_book.size(), 10u);
        // Out as JSON and as CSV, and in again.
        for (const std::string& text : {files::catalogue_text(made), files::parts_csv(made)}) {
            const auto back = files::read_parts(text, "parts");
            ASSERT_TRUE(back) << back.error().text() << "\n" << text.substr(0, 600);
            ASSERT_EQ(back->size(), made.size());
            for (std::size_t i = 0; i < made.size(); ++i) {
                const auto changes = job::differences(made[i], (*back)[i]);
                ASSERT_EQ(changes, std::vector<Message>{}) << made[i].id;
                ASSERT_EQ((*back)[i], made[i]) << made[i].id;
                // The form says of it what it said.
                const auto was = job::form_of(made[i], parts()),
                           now = job::form_of((*back)[i], parts());
                ASSERT_EQ(was.fields.size(), now.fields.size());
                for (std::size_t f = 0; f < was.fields.size(); ++f)
                    ASSERT_EQ(was.fields[f].typed, now.fields[f].typed) << was.fields[f].at;
            }
        }
    }
}

TEST(PartsRound, EveryShippedPartGoesThroughATableOfAllKinds) {
    std::vector<PartType> all;
    for (const std::string& id : parts().ids())
        all.push_back(*parts().find(id));
    const auto back = files::read_parts(files::parts_csv(all), "parts.csv");
    ASSERT_TRUE(back) << back.error().text();
    ASSERT_EQ(back->size(), all.size());
    for (std::size_t i = 0; i < all.size(); ++i)
        EXPECT_EQ(job::differences(all[i], (*back)[i]), std::vector<Message>{}) << all[i].id;
    EXPECT_EQ(*back, all);
    const auto again = files::read_parts(files::catalogue_text(all), "parts.json");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, all);
}

TEST(PartsRound, ATableSaysWhereItIsWrong) {
    const auto said = [](const std::string& text) {
        const auto read = files::read_parts(text, "parts.csv");
        return read ? std::string("read") : read.error().text();
    };
    EXPECT_EQ(said("kind,id,name\ncells,x,y\n"),
              "parts.csv, line 2, kind: 'cells' is not a kind of part. Write the word that "
              "catalogue files have for it");
    EXPECT_EQ(said("id,name\nx,y\n"), "parts.csv, line 1: the column 'kind' is missing. The first "
                                      "line names the columns: kind, id, name, body/length_mm …");
    std::string good = files::parts_csv({*parts().find("fuse.blade-7a5")});
    EXPECT_EQ(said(good), "read");
    const auto with = [&](const std::string& was, const std::string& now) {
        std::string text = good;
        const auto at = text.find(was);
        EXPECT_NE(at, std::string::npos) << good;
        return text.replace(at, was.size(), now);
    };
    EXPECT_EQ(said(with(",7.5,", ",many,")),
              "parts.csv, line 2, fuse/hold_A: 'many' is not a number. Write a number like 28.1");
    EXPECT_EQ(said(with(",7.5,", ",-1,")), "parts.csv, line 2, fuse/hold_A: this is out of range. "
                                           "It lies between 1e-09 and 1000000 A");
    EXPECT_EQ(said(with(",7.5,", ",,")),
              "parts.csv, line 2, fuse/hold_A: this value is missing. Write it in its column");
    EXPECT_NE(said(with("fuse/hold_A", "fuse/holds_A")).find("fuse/holds_A"), std::string::npos);
    // With a unit of its own, in another prefix.
    const auto amps = files::read_parts(with(",7.5,", ",7500 mA,"), "parts.csv");
    ASSERT_TRUE(amps);
    EXPECT_EQ(std::get<catalogue::Fuse>(amps->front().figures).hold, Ampere(7.5));
}

TEST(PartsRound, AVersionStillBeingWrittenIsReplaced) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book);
    PartType type = *parts().find("fuse.blade-7a5");
    type.id = "own.fuse";
    const auto keep = [&](double hold, int in_place_of) {
        std::get<catalogue::Fuse>(type.figures).hold = Ampere(hold);
        return book->keep_own_part(files::part_text(type), in_place_of)->version;
    };
    EXPECT_EQ(keep(7.5, 0), 1);
    EXPECT_EQ(keep(7.0, 1), 1);
    EXPECT_EQ(keep(6.5, 1), 1);
    EXPECT_EQ(book->versions_of("own.fuse")->size(), 1u);
    EXPECT_EQ(keep(6.0, 0), 2);
    EXPECT_EQ(keep(5.0, 1), 3) << "version 1 is not the newest any more";
    EXPECT_EQ(book->versions_of("own.fuse")->size(), 3u);
    EXPECT_TRUE(book->verify());
}

TEST(PartsRound, TheFolderOfFilesIsTakenInOnce) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book);
    catalogue::Catalogue with = parts();
    PartType type = *parts().find("fuse.blade-7a5");
    type.id = "own.fuse";
    ASSERT_TRUE(with.add_own(type, files::part_text(type)));
    EXPECT_EQ(*book->take_in_parts(with), std::vector<std::string>{"own.fuse"});
    EXPECT_TRUE(book->take_in_parts(with)->empty());
    ASSERT_TRUE(book->drop_own_part("own.fuse"));
    EXPECT_TRUE(book->take_in_parts(with)->empty()) << "it was taken off the shelf";
    EXPECT_TRUE(book->own_parts()->empty());
    EXPECT_FALSE(with.shipped().find("own.fuse"));
}

TEST(PartsRound, TheShelfGoesWithAnExportedFolderAndAnotherBook) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book);
    PartType pixel = *parts().find("pixel.rgb-5050"), strip = *parts().find("strip.rgb-144");
    pixel.id = "own.pixel-1", strip.id = "own.a-strip-1";
    std::get<catalogue::Strip>(strip.figures).pixel = pixel.id;
    ASSERT_TRUE(book->keep_own_part(files::part_text(pixel)));
    ASSERT_TRUE(book->keep_own_part(files::part_text(strip)));
    ASSERT_TRUE(export_folder(*book, folder / "out", parts()));
    for (const char* from : {"out", "shop.book"}) {
        auto other = Book::open(folder / (std::string(from) + ".new"), Access::read_write);
        ASSERT_TRUE(other);
        const auto passed = import_into(*other, folder / from, parts());
        ASSERT_TRUE(passed) << passed.error().text();
        ASSERT_EQ(other->own_parts()->size(), 2u) << from;
        EXPECT_EQ(files::parse_part(other->own_parts()->front().definition, "part")->id,
                  "own.a-strip-1");
        // What it has already it keeps.
        ASSERT_TRUE(import_into(*other, folder / from, parts()));
        EXPECT_EQ(other->versions_of("own.a-strip-1")->size(), 1u);
    }
}

TEST(PartsRound, ReadingsStayWithTheirPart) {
    TemporaryFolder folder;
    auto book = Book::open(folder / "shop.book", Access::read_write);
    ASSERT_TRUE(book);
    EXPECT_EQ(*book->readings_of("own.fuse"), "");
    ASSERT_TRUE(book->keep_readings("own.fuse", "volts,amps\n0.1,5\n"));
    ASSERT_TRUE(book->keep_readings("own.fuse", "volts,amps\n0.2,5\n"));
    EXPECT_EQ(*book->readings_of("own.fuse"), "volts,amps\n0.2,5\n");
    EXPECT_TRUE(book->own_parts()->empty());
    EXPECT_TRUE(book->verify());
    ASSERT_TRUE(book->keep_readings("own.fuse", ""));
    EXPECT_EQ(*book->readings_of("own.fuse"), "");
}

} // namespace
} // namespace conductus::shop
