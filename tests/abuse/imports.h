// SPDX-License-Identifier: GPL-3.0-or-later
// What tests of what comes in share.
#pragma once

#include "abuse/abuse.h"

namespace conductus::test {

/// A book beside which things come in; whatever was refused, it is as it was.
class Imports : public testing::Test {
protected:
    void SetUp() override {
        make_worked_book(folder_ / "shop.book");
        shop::Book book = fresh(folder_ / "shop.book");
        before_ = everything(book);
    }
    void TearDown() override {
        auto book = shop::Book::open(folder_ / "shop.book", shop::Access::read_only);
        ASSERT_TRUE(book);
        EXPECT_EQ(everything(*book), before_) << "a refusal changes nothing";
        EXPECT_TRUE(book->verify());
    }
    std::string shop(const std::string& action) {
        return "shop " + (folder_ / "shop.book").string() + " " + action;
    }
    /// Refused by the import and by a command that reads a job, in one line with a remedy.
    void refused(const fs::path& path, const std::string& says = "") {
        for (const std::string& command :
             {shop("import '" + path.string() + "'"), "plan '" + path.string() + "'",
              "plan --json '" + path.string() + "'"}) {
            const Ran ran = bounded(command);
            EXPECT_EQ(ran.code, 3) << command << ran.err.substr(0, 300);
            EXPECT_LT(ran.err.size(), 2500u) << command;
            EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << ran.err;
            EXPECT_NE(ran.err.find(". "), std::string::npos) << "a remedy: " << ran.err;
            EXPECT_EQ(ran.err.find("json.exception"), std::string::npos) << ran.err;
            EXPECT_EQ(ran.err.find("last read"), std::string::npos) << ran.err;
            if (!says.empty()) {
                EXPECT_NE(ran.err.find(says), std::string::npos) << ran.err;
            }
        }
    }
    TemporaryFolder folder_;
    std::string before_;
};
} // namespace conductus::test
