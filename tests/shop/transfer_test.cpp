// SPDX-License-Identifier: GPL-3.0-or-later
// In and out of a book.
#include "shop/transfer.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <algorithm>

#include "shop/books.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;
using files::Json;
namespace fs = std::filesystem;

/// The demo shop after some edits, with an undone one.
Book worked_in(const TemporaryFolder& folder) {
    if (!make_demo_book(folder / "b", source_dir() / "data/demo", parts()))
        throw std::runtime_error("no demo shop");
    Book book = fresh(folder / "b");
    const auto heron = book.load("Heron", parts());
    job::Job job = heron->job;
    for (int i = 1; i <= 5; ++i) {
        job.notes = "note " + std::to_string(i);
        (void)book.commit(heron->id, i - 1, job, "note " + std::to_string(i));
    }
    (void)book.move(heron->id, 5, 3);
    return book;
}

TEST(Folder, TheWholeBookOutAndBack) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    const auto count = export_folder(book, folder / "out", parts());
    ASSERT_TRUE(count) << count.error().text();
    EXPECT_EQ(count->jobs, 6u);
    Book back = fresh(folder / "back");
    const auto names = import_into(back, folder / "out", parts());
    ASSERT_TRUE(names) << names.error().text();
    EXPECT_EQ(names->names.size(), 6u);
    EXPECT_EQ(everything(back), everything(book));
    EXPECT_TRUE(back.verify(parts()));
    // Each job's file is complete in itself.
    for (const auto& file : fs::directory_iterator(folder / "out/jobs"))
        EXPECT_TRUE(files::read_job_file(file.path(), parts())) << file.path();
    // A folder with something in it is not written into.
    const auto again = export_folder(book, folder / "out", parts());
    ASSERT_FALSE(again);
    EXPECT_NE(again.error().text().find("something here already"), std::string::npos);
}

TEST(Folder, HistoriesWithRandomEditsComeBackExactly) {
    TemporaryFolder folder;
    std::mt19937 random(77);
    Book book = fresh(folder / "b");
    for (int i = 0; i < 5; ++i) {
        job::Job job = files::bare(random_job(random));
        const auto id = book.add(job, "new");
        ASSERT_TRUE(id);
        const std::string name = job.name;
        for (int k = 0; k < 4; ++k) {
            job = files::bare(random_job(random));
            job.name = name;
            ASSERT_TRUE(book.commit(*id, k, job, "edit"));
        }
    }
    ASSERT_TRUE(export_folder(book, folder / "out", parts()));
    Book back = fresh(folder / "back");
    ASSERT_TRUE(import_into(back, folder / "out", parts()));
    EXPECT_EQ(everything(back), everything(book));
}

TEST(Import, AnotherBookComesInBesideWithNumbers) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    ASSERT_TRUE(book.copy_to(folder / "copy"));
    const auto names = import_into(book, folder / "copy", parts());
    ASSERT_TRUE(names) << names.error().text();
    EXPECT_TRUE(std::find(names->names.begin(), names->names.end(), "Heron 2") !=
                names->names.end());
    EXPECT_EQ(book.entries()->size(), 12u);
    const auto twin = book.load("Heron 2", parts());
    EXPECT_EQ(twin->at.seq, 3) << "with its history, where it stood";
    EXPECT_EQ(book.history(twin->id)->size(), 6u);
    job::Job expected = book.load("Heron", parts())->job;
    expected.name = "Heron 2";
    EXPECT_EQ(twin->job, expected);
    ASSERT_TRUE(book.move(twin->id, 3, 2)) << "undo works in it";
    EXPECT_TRUE(book.verify(parts()));
    EXPECT_FALSE(import_into(book, folder / "b", parts())) << "itself";
}

TEST(Import, AnOldBookComesInToo) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    job::Job old = files::bare(demo("dunlin"));
    old.brief = {};
    old.inspection.clear();
    old.log.clear();
    make_old_book(folder / "old", "Dunlin", {files::job_text(old)});
    const auto names = import_into(book, folder / "old", parts());
    ASSERT_TRUE(names) << names.error().text();
    EXPECT_EQ(names->names, std::vector<std::string>{"Dunlin 2"});
}

TEST(Import, WhatIsDamagedOrForeignChangesNothing) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    ASSERT_TRUE(export_folder(book, folder / "out", parts()));
    const std::string before = everything(book);
    auto refused = [&](const fs::path& path) {
        const auto names = import_into(book, path, parts());
        EXPECT_FALSE(names) << path;
        if (names) return;
        EXPECT_FALSE(names.error().where.empty());
        EXPECT_FALSE(names.error().mend.empty()) << names.error().text();
        EXPECT_EQ(everything(book), before) << path;
    };
    write_file(folder / "text", "hello");
    write_file(folder / "empty", "");
    write_file(folder / "array.json", "[1, 2]");
    for (const char* name : {"text", "empty", "array.json", "none"})
        refused(folder / name);
    refused(folder.path());
    // A foreign database, and a book with a hole in it.
    SQLite::Database((folder / "foreign").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE)
        .exec("CREATE TABLE job (id INTEGER)");
    refused(folder / "foreign");
    ASSERT_TRUE(book.copy_to(folder / "hole"));
    std::string bytes = read_file(folder / "hole");
    std::fill(bytes.begin() + 40000, bytes.begin() + 90000, '\0');
    write_file(folder / "hole", bytes);
    refused(folder / "hole");

    // Each file of an exported folder, spoilt or gone.
    for (const char* inner : {"history", "kept", "pictures"}) {
        const fs::path file = fs::directory_iterator(folder / "out" / inner)->path();
        const std::string good = read_file(file);
        write_file(file, good.substr(0, good.size() / 2));
        refused(folder / "out");
        fs::remove(file);
        refused(folder / "out");
        write_file(file, good);
    }
    const std::string manifest = read_file(folder / "out/book.json");
    for (const char* bad :
         {"{}", "{\"format\": \"conductus-book\", \"version\": 9, \"jobs\": []}",
          "{\"format\": \"conductus-book\", \"version\": 1, \"jobs\": 3}",
          "{\"format\": \"conductus-book\", \"version\": 1, \"jobs\": [1]}",
          "{\"format\": \"conductus-book\", \"version\": 1, \"jobs\": [\"../../x\"]}"}) {
        write_file(folder / "out/book.json", bad);
        refused(folder / "out");
    }
    write_file(folder / "out/book.json", manifest);
    EXPECT_TRUE(import_into(book, folder / "out", parts()));
}

TEST(Import, ManyJobsAreAllOrNone) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    ASSERT_TRUE(book.copy_to(folder / "copy"));
    {
        SQLite::Database db((folder / "copy").string(), SQLite::OPEN_READWRITE);
        db.exec("UPDATE state SET hash = 'x' WHERE job = (SELECT max(id) FROM job)");
    }
    EXPECT_FALSE(import_into(book, folder / "copy", parts()));
    EXPECT_EQ(book.entries()->size(), 6u);
}

TEST(Export, OneJobWithAndWithoutItsPapers) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    const job::Job avocet = book.load("Avocet", parts())->job;
    ASSERT_TRUE(export_job(book, avocet, true, folder / "whole.json", parts()));
    ASSERT_TRUE(export_job(book, avocet, false, folder / "bare.json", parts()));
    const auto whole = files::read_job_file(folder / "whole.json", parts());
    ASSERT_TRUE(whole);
    EXPECT_EQ(whole->job, avocet);
    EXPECT_EQ(whole->attachments.size(), 4u);
    const auto bare = files::read_job_file(folder / "bare.json", parts());
    ASSERT_TRUE(bare);
    EXPECT_EQ(bare->job, files::bare(avocet));
    EXPECT_LT(fs::file_size(folder / "bare.json") * 2, fs::file_size(folder / "whole.json"));
}

TEST(List, AsCsv) {
    TemporaryFolder folder;
    Book book = worked_in(folder);
    const std::string csv = list_csv(*book.entries());
    EXPECT_EQ(csv.find("name,kind,purpose,stage,promised,came back,changed\r\n"), 0u);
    EXPECT_NE(csv.find("Avocet,repair,for The Lantern Wardens,on the bench,2027-03-21,yes,"),
              std::string::npos);
    EXPECT_EQ(std::count(csv.begin(), csv.end(), '\n'), 7);
}

} // namespace
} // namespace conductus::shop
