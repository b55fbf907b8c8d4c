// SPDX-License-Identifier: GPL-3.0-or-later
// The shop's own parts in its book: versions, what a job keeps, and both ways on.
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "files/catalogue_json.h"
#include "files/own_parts.h"
#include "shop/book.h"
#include "shop/rescue.h"
#include "shop/transfer.h"
#include "support/fixtures.h"

namespace conductus::shop {
namespace {

using namespace test;

std::string cell_of(double ohms, const std::string& id = "cell.own") {
    return R"({"id": ")" + id + R"(", "kind": "cell", "name": "18650 cell of our own",
"body": {"shape": "cylinder", "length_mm": 65, "diameter_mm": 18.4}, "mass_g": 46,
"thermal_K_per_W": 40, "terminals": ["plus", "minus"],
"cell": {"size": "18650", "capacity_mAh": 2900, "continuous_A": 12, "resistance_Ohm": )" +
           std::to_string(ohms) + "}}";
}

class OwnParts : public testing::Test {
protected:
    OwnParts() : path_(folder_ / "shop.book") {}
    Book open() {
        auto book = Book::open(path_, Access::read_write);
        EXPECT_TRUE(book) << book.error().text();
        return std::move(*book);
    }
    /// Heron with our own cell, planned with what the book has now.
    JobId add_job(Book& book) {
        const auto with = *book.with_own_parts(parts());
        job::Job job = files::bare(demo("heron"));
        job::fit_type("B1", "cell.own")(job);
        files::name_own_parts(job, *with);
        const auto id = book.add(job, "new", files::own_parts_of(job, *with));
        EXPECT_TRUE(id) << id.error().text();
        return *id;
    }
    static double ohms(const catalogue::Catalogue& with) {
        return with.find_as<catalogue::Cell>("cell.own")->resistance.value();
    }
    TemporaryFolder folder_;
    std::filesystem::path path_;
};

TEST_F(OwnParts, AreKeptInVersionsAndTakenOffTheShelf) {
    Book book = open();
    EXPECT_TRUE(book.own_parts()->empty());
    EXPECT_EQ(book.keep_own_part(cell_of(0.025))->version, 1);
    EXPECT_EQ(book.keep_own_part(cell_of(0.025))->version, 1) << "the same is no new version";
    EXPECT_EQ(book.keep_own_part(cell_of(0.031))->version, 2);
    ASSERT_EQ(book.own_parts()->size(), 1u);
    EXPECT_EQ(book.own_parts()->front().version, 2);
    EXPECT_DOUBLE_EQ(ohms(**book.with_own_parts(parts())), 0.031);
    EXPECT_EQ(book.versions_of("cell.own")->size(), 2u);
    EXPECT_FALSE(book.keep_own_part("{\"id\": \"x\"}")) << "no part";
    ASSERT_TRUE(book.drop_own_part("cell.own"));
    EXPECT_FALSE(book.drop_own_part("cell.own"));
    EXPECT_TRUE(book.own_parts()->empty());
    EXPECT_EQ(book.keep_own_part(cell_of(0.031))->version, 4) << "it is there again";
    EXPECT_TRUE(book.verify(parts()));
    // It is in the file.
    EXPECT_EQ(open().own_parts()->size(), 1u);
}

TEST_F(OwnParts, AJobKeepsTheFiguresItWasPlannedWithAndSaysWhatChanged) {
    Book book = open();
    ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
    const JobId id = add_job(book);
    EXPECT_EQ(*book.jobs_with("cell.own"), std::vector<std::string>{"Heron"});
    ASSERT_TRUE(book.keep_own_part(cell_of(0.028)));
    const auto opened = book.load(id, parts());
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_DOUBLE_EQ(ohms(*opened->parts), 0.025) << "as it was planned";
    plan::Plan plan =
        plan::analyse_figures(std::make_shared<const job::Job>(opened->job), opened->parts);
    ASSERT_TRUE(plan::offer_fixes(plan));
    const auto changed =
        std::find_if(plan.findings.begin(), plan.findings.end(),
                     [](const findings::Finding& f) { return f.id == "part.changed"; });
    ASSERT_NE(changed, plan.findings.end());
    EXPECT_EQ(changed->where, std::vector<std::string>{"B1"});
    EXPECT_NE(changed->detail.english().find("25"), std::string::npos);
    EXPECT_NE(changed->detail.english().find("28"), std::string::npos);

    // Both ways on.
    job::Job taken = opened->job, stays = opened->job;
    ASSERT_TRUE(changed->fix->edit(taken));
    const auto with_new = files::catalogue_for(taken, parts(), opened->own);
    EXPECT_DOUBLE_EQ(ohms(with_new), 0.028);
    EXPECT_FALSE(with_new.newer("cell.own"));
    ASSERT_TRUE(changed->other->edit(stays));
    const auto with_old = files::catalogue_for(stays, parts(), opened->own);
    EXPECT_DOUBLE_EQ(ohms(with_old), 0.025);
    EXPECT_FALSE(with_old.newer("cell.own")) << "it was decided";
    // A newer one still is another question.
    ASSERT_TRUE(book.keep_own_part(cell_of(0.050)));
    EXPECT_TRUE(
        files::catalogue_for(stays, parts(), book.load(id, parts())->own).newer("cell.own"));
}

TEST_F(OwnParts, GoWithAnExportedJobAndComeOntoTheShelfOfAnotherBook) {
    Book book = open();
    ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
    const JobId id = add_job(book);
    const auto opened = *book.load(id, parts());
    const auto text =
        files::job_file_text({opened.job, *book.attachments_of(opened.job)}, *opened.parts);
    ASSERT_TRUE(text) << text.error().text();
    write_file(folder_ / "heron.json", *text);
    auto other = Book::open(folder_ / "other.book", Access::read_write);
    ASSERT_TRUE(import_into(*other, folder_ / "heron.json", parts()));
    ASSERT_EQ(other->own_parts()->size(), 1u);
    EXPECT_EQ(other->own_parts()->front().id, "cell.own");
    const auto there = other->load("Heron", parts());
    ASSERT_TRUE(there) << there.error().text();
    EXPECT_DOUBLE_EQ(ohms(*there->parts), 0.025);
    EXPECT_EQ(there->job, opened.job);
    // A part of that name with other figures there is not put into the job's place.
    ASSERT_TRUE(other->keep_own_part(cell_of(0.060)));
    EXPECT_DOUBLE_EQ(ohms(*other->load("Heron", parts())->parts), 0.025);
    EXPECT_TRUE(other->verify(parts()));
}

TEST_F(OwnParts, AreRescuedWithTheirVersions) {
    {
        Book book = open();
        ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
        ASSERT_TRUE(book.keep_own_part(cell_of(0.031)));
        add_job(book);
    }
    const auto saved = rescue(path_, folder_ / "saved.book");
    ASSERT_TRUE(saved) << saved.error().text();
    auto book = Book::open(folder_ / "saved.book", Access::read_write);
    ASSERT_TRUE(book);
    EXPECT_EQ(book->versions_of("cell.own")->size(), 2u);
    EXPECT_TRUE(book->verify(parts()));
}

TEST_F(OwnParts, ThatAreNoLongerUsedAreForgottenByTheJob) {
    Book book = open();
    ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
    const auto with = *book.with_own_parts(parts());
    job::Job job = demo("heron");
    job::fit_type("B1", "cell.own")(job);
    files::name_own_parts(job, *with);
    ASSERT_EQ(job.planned_with.size(), 1u);
    const auto named = job.planned_with;
    files::name_own_parts(job, *with);
    EXPECT_EQ(job.planned_with, named);
    job::fit_type("B1", "cell.18650-power")(job);
    files::name_own_parts(job, *with);
    EXPECT_TRUE(job.planned_with.empty());
}

TEST_F(OwnParts, OffTheShelfItIsOfferedToTheJobsAloneThatUseIt) {
    Book book = open();
    ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
    const JobId id = add_job(book);
    const auto offers = [](const catalogue::Catalogue& with) {
        const auto& ids = with.ids();
        return std::find(ids.begin(), ids.end(), "cell.own") != ids.end();
    };
    EXPECT_TRUE(offers(**book.with_own_parts(parts())));
    ASSERT_TRUE(book.drop_own_part("cell.own"));
    const auto without = *book.with_own_parts(parts());
    EXPECT_FALSE(offers(*without));
    EXPECT_TRUE(without->find("cell.own")) << "older states of jobs are judged with it";
    EXPECT_TRUE(offers(*book.load(id, parts())->parts));
    ASSERT_TRUE(book.keep_own_part(cell_of(0.025)));
    EXPECT_TRUE(offers(**book.with_own_parts(parts()))) << "back on the shelf";
}

} // namespace
} // namespace conductus::shop
